import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Invitable } from '../../src/contract/invitations.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { StudentHome, StudentSheet } from '../../src/contract/seats.ts'
import { HOUR } from '../../src/core/instant.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { type Client, must, studentEmail } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
beforeEach(async () => {
  labs = await startLabs()
  await labs.rule({ invitations: 'convener' })
})
afterEach(() => labs.harness.end())

const TEMPEH = 'Tempeh/Tue lab'
const groupAt = (name = TEMPEH) => `${labs.at}/groups/${labs.school.groups[name]}`
const invitableTo = (client: Client, name = TEMPEH) =>
  client.get<{ people: Invitable[] }>(`${groupAt(name)}/invitable`)
const personOf = async (client: Client, name: string) =>
  (await must(invitableTo(client))).people.find((one) => one.name === name)?.code ?? 'nobody'
const invite = (client: Client, person: string) =>
  client.post<StudentSheet & Problem>(`${groupAt()}/invitations`, { person })
const answer = (client: Client, code: string, accepted: boolean) =>
  client.post<StudentSheet & Problem>(`${labs.at}/invitations/${code}/answer`, { accepted })
const mailsTo = (n: number) =>
  labs.harness.stores.mail.newest(50).filter(({ recipient }) => recipient === studentEmail('Tue lab', n))

describe('an invitation', () => {
  it('is made by the convener, told by mail, and takes the seat once accepted', async () => {
    const [convener, guest] = [labs.tue(0), labs.tue(1)]
    await labs.take(convener, TEMPEH)
    const sheet = await labs.sheetOf(convener)
    expect(sheet.seats[0]).toMatchObject({ convener: true, toOffer: 2 })
    const sent = await must(invite(convener, await personOf(convener, 'Student 1 Tue lab')))
    expect(sent.sent).toMatchObject([{ name: 'Student 1 Tue lab', state: 'open' }])
    expect(sent.seats[0]?.toOffer).toBe(1)
    expect(mailsTo(1)[0]?.subject).toMatch(/Student 0 Tue lab invites you to Tempeh/)
    const { received } = await labs.sheetOf(guest)
    expect(received).toMatchObject([{ from: 'Student 0 Tue lab', group: labs.school.groups[TEMPEH] }])
    const home = await must<StudentHome>(guest.get('/api/home'))
    expect(home.sheets[0]?.invitations).toEqual([{ title: 'Tempeh', from: 'Student 0 Tue lab' }])
    const accepted = await must(answer(guest, received[0]!.code, true))
    expect(accepted.seats).toMatchObject([{ group: labs.school.groups[TEMPEH] }])
    expect((await labs.sheetOf(convener)).sent).toEqual([])
    expect((await answer(guest, received[0]!.code, true)).body.code).toBe('invitation-answered')
  })

  it.each([
    [true, false],
    [false, true],
  ])(
    'accepted (%s) and accepted (%s) at once, one answer holds and the seat says the same',
    async (...both) => {
      const convener = labs.tue(0)
      await labs.take(convener, TEMPEH)
      await must(invite(convener, await personOf(convener, 'Student 1 Tue lab')))
      const guest = labs.tue(1)
      const [received] = (await labs.sheetOf(guest)).received
      const answers = await Promise.all(both.map((accepted) => answer(guest, received!.code, accepted)))
      expect(answers.map(({ status }) => status).sort()).toEqual([200, 409])
      const accepted = both[answers.findIndex(({ status }) => status === 200)]
      expect((await labs.sheetOf(guest)).seats).toHaveLength(accepted ? 1 : 0)
      expect((await labs.sheetOf(convener)).sent).toMatchObject([
        { state: accepted ? 'accepted' : 'declined' },
      ])
    },
  )

  it('can be declined, which the convener sees, and be made again', async () => {
    const [convener, guest] = [labs.tue(0), labs.tue(1)]
    await labs.take(convener, TEMPEH)
    const person = await personOf(convener, 'Student 1 Tue lab')
    await must(invite(convener, person))
    expect((await invite(convener, person)).body.code).toBe('already-invited')
    const { received } = await labs.sheetOf(guest)
    await must(answer(guest, received[0]!.code, false))
    expect((await labs.sheetOf(guest)).received).toEqual([])
    expect((await labs.sheetOf(convener)).sent).toMatchObject([{ state: 'declined' }])
    await must(invite(convener, person))
    expect((await labs.sheetOf(guest)).received).toHaveLength(1)
  })

  it('can be taken back by its convener only', async () => {
    const convener = labs.tue(0)
    await labs.take(convener, TEMPEH)
    const { sent } = await must(invite(convener, await personOf(convener, 'Student 1 Tue lab')))
    const path = `${labs.at}/invitations/${sent[0]!.code}`
    expect((await labs.tue(1).send('DELETE', path)).status).toBe(404)
    expect((await answer(labs.tue(2), sent[0]!.code, true)).status).toBe(404)
    await must(convener.send('DELETE', path))
    expect((await labs.sheetOf(labs.tue(1))).received).toEqual([])
    expect((await convener.send<Problem>('DELETE', path)).body.code).toBe('invitation-answered')
  })

  it('is made thirty times an hour at most by one person, as each sends a mail', async () => {
    const convener = labs.tue(0)
    await labs.take(convener, TEMPEH)
    const person = await personOf(convener, 'Student 1 Tue lab')
    for (let i = 0; i < 30; i++) {
      const { sent } = await must(invite(convener, person))
      await must(convener.send('DELETE', `${labs.at}/invitations/${sent[0]!.code}`))
    }
    const refused = await invite(convener, person)
    expect([refused.status, refused.headers.get('retry-after')]).toEqual([429, '3600'])
    expect(refused.body).toMatchObject({
      code: 'too-many-tries',
      detail: expect.stringMatching(/Wait 60 minutes/),
    })
    expect(mailsTo(1)).toHaveLength(30)
    labs.harness.clock.advance(HOUR)
    await must(invite(convener, person))
  })

  it('keeps no seat: whoever is quicker has it, and the invited hears so', async () => {
    const convener = labs.tue(0)
    await labs.take(convener, TEMPEH)
    await must(invite(convener, await personOf(convener, 'Student 1 Tue lab')))
    for (const n of [2, 3]) await labs.take(labs.tue(n), TEMPEH)
    const { received } = await labs.sheetOf(labs.tue(1))
    const late = await answer(labs.tue(1), received[0]!.code, true)
    expect(late.body).toMatchObject({
      code: 'group-full',
      detail: expect.stringMatching(/2 topics still have room/),
    })
    expect((await labs.sheetOf(labs.tue(1))).seats).toEqual([])
  })

  it('lapses when the invited sits down elsewhere', async () => {
    const convener = labs.tue(0)
    await labs.take(convener, TEMPEH)
    await must(invite(convener, await personOf(convener, 'Student 1 Tue lab')))
    await labs.take(labs.tue(1), 'Miso/Tue lab')
    const { id } = labs.harness.stores.sheets.byCode(labs.school.sheet)!
    const ended = labs.harness.stores.ledger.since(id, 0).filter(({ kind }) => kind === 'invitation-answered')
    expect(ended.map(({ detail }) => JSON.parse(detail))).toMatchObject([{ answer: 'lapsed' }])
    const sheet = await labs.sheetOf(convener)
    expect([sheet.sent, sheet.seats[0]?.toOffer]).toEqual([[], 2])
    await labs.giveUp(labs.tue(1), 'Miso/Tue lab')
    expect((await labs.sheetOf(labs.tue(1))).received).toEqual([])
  })

  it('reaches those of the section without a group, and nobody else hears of them', async () => {
    const convener = labs.tue(0)
    await labs.take(convener, TEMPEH)
    await labs.take(labs.tue(4), 'Kefir/Tue lab')
    const { people } = await must(invitableTo(convener))
    expect(people.map(({ name }) => name)).toEqual([1, 2, 3].map((n) => `Student ${n} Tue lab`))
    expect((await invitableTo(labs.tue(1))).body).toMatchObject({ code: 'not-the-convener' })
    expect((await invitableTo(labs.wed(0), 'Kefir/Wed lab')).status).toBe(403)
    const { course_id } = labs.harness.stores.sheets.byCode(labs.school.sheet)!
    const codes = new Map(
      labs.harness.stores.roster.everybody(course_id).map(({ name, code }) => [name, code]),
    )
    for (const name of ['Student 0 Wed lab', 'Student 4 Tue lab', 'Tutor One']) {
      expect((await invite(convener, codes.get(name)!)).body.code).toBe('cannot-be-invited')
    }
    expect((await invite(convener, 'nobody')).body.code).toBe('cannot-be-invited')
  })

  it('is refused where the rules know none, past the free seats, and once the window has closed', async () => {
    const convener = labs.tue(0)
    await labs.take(convener, TEMPEH)
    const people = (await must(invitableTo(convener))).people.map(({ code }) => code)
    await must(invite(convener, people[0]!))
    await must(invite(convener, people[1]!))
    expect((await invite(convener, people[2]!)).body.code).toBe('no-seat-to-offer')
    await labs.rule({ invitations: 'no' })
    expect((await invite(convener, people[2]!)).body.code).toBe('invitations-not-allowed')
    expect((await invitableTo(convener)).body).toMatchObject({ code: 'invitations-not-allowed' })
    expect((await labs.sheetOf(labs.tue(1))).received).toEqual([])
    await labs.rule({ invitations: 'convener' })
    labs.harness.clock.set('2026-05-14T00:00:00.000Z')
    expect((await invite(convener, people[2]!)).body.code).toBe('window-not-open')
    const received = labs.harness.stores.invitations.byCode(
      labs.harness.stores.sheets.byCode(labs.school.sheet)!.id,
      (await labs.sheetOf(labs.tue(1))).received[0]!.code,
    )!
    expect((await answer(labs.tue(1), received.code, true)).body.code).toBe('window-closed')
  })

  it('leaves ledger and seats in agreement', async () => {
    const convener = labs.tue(0)
    await labs.take(convener, TEMPEH)
    await must(invite(convener, await personOf(convener, 'Student 1 Tue lab')))
    const { received } = await labs.sheetOf(labs.tue(1))
    await must(answer(labs.tue(1), received[0]!.code, true))
    const { stores } = labs.harness
    const { id } = stores.sheets.byCode(labs.school.sheet)!
    expect(seatsByLedger(stores.ledger.since(id, 0))).toEqual(seatsAsKept(stores.seats.ofSheet(id)))
  })
})

it.each(['nobody', 'after-close'])(
  'where names are shown to %s, neither page nor mail names the convener while it is open',
  async (names) => {
    await labs.rule({ names })
    const [convener, guest] = [labs.tue(0), labs.tue(1)]
    await labs.take(convener, TEMPEH)
    await must(invite(convener, await personOf(convener, 'Student 1 Tue lab')))
    const pages = JSON.stringify([await labs.sheetOf(guest), await must(guest.get('/api/home'))])
    const mail = mailsTo(1)[0]!
    expect(pages).toContain('"from":null')
    expect(`${pages} ${mail.subject} ${mail.body}`).not.toContain('Student 0')
    expect(mail.subject).toMatch(/you are invited to Tempeh/)
  },
)
