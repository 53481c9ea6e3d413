import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { StudentSheet } from '../../src/contract/seats.ts'
import { type Harness, must, type School, studentEmail } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
let harness: Harness
let school: School
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
  school = labs.school
})
afterEach(() => harness.end())

describe('asking for a change', () => {
  const ask = (client: ReturnType<typeof labs.tue>, to: string | null, reason = 'My bus leaves early.') =>
    client.post<StudentSheet & Problem>(`${labs.at}/requests`, {
      from: school.groups['Tempeh/Tue lab'],
      to: to && school.groups[to],
      reason,
    })
  const waiting = async () =>
    (await must<{ requests: { code: string }[] }>(school.owner.get(`${labs.at}/requests`))).requests
  const answer = async (granted: boolean) =>
    school.owner.post<Problem>(`${labs.at}/requests/${(await waiting())[0]!.code}/answer`, { granted })
  beforeEach(async () => {
    await labs.rule({ changing: 'by-asking' })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
  })

  it('moves the student once it is granted, also after the close, and says so by mail and on the page', async () => {
    expect((await ask(labs.tue(0), 'Kefir/Tue lab')).body.request).toMatchObject({ state: 'open' })
    harness.clock.set('2026-05-14T00:00:00.000Z')
    expect((await answer(true)).status).toBe(200)
    const sheet = await labs.sheetOf(labs.tue(0))
    expect(sheet.seats.map(({ group }) => group)).toEqual([school.groups['Kefir/Tue lab']])
    expect(sheet.request).toMatchObject({ state: 'granted' })
    expect(harness.stores.mail.newest(1)[0]).toMatchObject({
      recipient: studentEmail('Tue lab', 0),
      subject: expect.stringMatching(/granted/),
    })
    expect(await waiting()).toEqual([])
  })

  it('leaves everything as it was when it is declined', async () => {
    await ask(labs.tue(0), 'Kefir/Tue lab')
    await answer(false)
    const sheet = await labs.sheetOf(labs.tue(0))
    expect(sheet.seats.map(({ group }) => group)).toEqual([school.groups['Tempeh/Tue lab']])
    expect(sheet.request).toMatchObject({ state: 'declined' })
  })

  it.each([
    ['grant', 'decline'],
    ['decline', 'grant'],
    ['grant', 'grant'],
  ])(
    'asked to %s and to %s at once, one answer holds: seat, request, ledger and mail say the same',
    async (...both) => {
      await ask(labs.tue(0), 'Kefir/Tue lab')
      const [request] = await waiting()
      const before = harness.stores.mail.newest(100).length
      // The claim waits for its turn until both have been asked.
      const { submit } = harness.claims
      harness.claims.submit = async (claim) => {
        await new Promise((resolve) => setTimeout(resolve, 150))
        return submit(claim)
      }
      const answers = await Promise.all(
        both.map((how) =>
          school.owner.post<Problem>(`${labs.at}/requests/${request!.code}/answer`, {
            granted: how === 'grant',
          }),
        ),
      )
      expect(answers.map(({ status }) => status).sort()).toEqual([200, 409])
      expect(answers.find(({ status }) => status === 409)?.body.code).toBe('request-answered')
      const won = both[answers.findIndex(({ status }) => status === 200)]
      const sheet = await labs.sheetOf(labs.tue(0))
      expect(sheet.request?.state).toBe(won === 'grant' ? 'granted' : 'declined')
      const where = won === 'grant' ? 'Kefir/Tue lab' : 'Tempeh/Tue lab'
      expect(sheet.seats.map(({ group }) => group)).toEqual([school.groups[where]])
      const sheetId = harness.stores.sheets.byCode(school.sheet)!.id
      const noted = harness.stores.ledger.since(sheetId, 0).filter(({ kind }) => kind === 'request-answered')
      expect(noted).toHaveLength(1)
      const moves = harness.stores.ledger.since(sheetId, 0).filter(({ kind }) => kind === 'seat-moved')
      expect(moves).toHaveLength(won === 'grant' ? 1 : 0)
      expect(harness.stores.mail.newest(100).length - before).toBe(1)
    },
  )

  it('cannot be granted into a full group, and then still waits', async () => {
    for (const n of [1, 2, 3]) await labs.take(labs.tue(n), 'Kefir/Tue lab')
    await ask(labs.tue(0), 'Kefir/Tue lab')
    expect((await answer(true)).body).toMatchObject({
      code: 'group-full',
      detail: expect.stringMatching(/could not be moved/),
    })
    expect(await waiting()).toHaveLength(1)
  })

  it('needs a reason, a seat, and patience', async () => {
    expect((await ask(labs.tue(0), 'Kefir/Tue lab', '  ')).body.errors?.[0]?.path).toBe('reason')
    expect((await ask(labs.tue(1), 'Kefir/Tue lab')).body.errors?.[0]?.path).toBe('from')
    await ask(labs.tue(0), null)
    expect((await ask(labs.tue(0), 'Kefir/Tue lab')).body.code).toBe('request-open-already')
  })

  it('can be taken back, and only by the one who asked', async () => {
    await ask(labs.tue(0), null)
    const [request] = await waiting()
    expect((await labs.tue(1).send('DELETE', `${labs.at}/requests/${request!.code}`)).status).toBe(404)
    const sheet = await must<StudentSheet>(labs.tue(0).send('DELETE', `${labs.at}/requests/${request!.code}`))
    expect(sheet.request).toBeNull()
    expect(
      (await school.owner.post<Problem>(`${labs.at}/requests/${request!.code}/answer`, { granted: true }))
        .body.code,
    ).toBe('request-answered')
  })

  it('is not needed where the rules do not want it', async () => {
    await labs.rule({ changing: 'until-close' })
    expect((await ask(labs.tue(0), 'Kefir/Tue lab')).body.code).toBe('request-not-needed')
  })
})
