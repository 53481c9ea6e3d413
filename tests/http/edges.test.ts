import pino from 'pino'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { GroupPage } from '../../src/contract/groups.ts'
import type { LedgerView } from '../../src/contract/ledger.ts'
import type { NudgesView } from '../../src/contract/nudges.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { RosterView } from '../../src/contract/roster.ts'
import { DAY, HOUR, shift } from '../../src/core/instant.ts'
import { sendDueAnnouncements } from '../../src/server/announcements/due.ts'
import { createHub } from '../../src/server/live/hub.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { sendDueNudges } from '../../src/server/nudges/send.ts'
import { createClosing } from '../../src/server/plans/closing.ts'
import { createPlanner } from '../../src/server/plans/planner.ts'
import { type Harness, must, type School, studentEmail, unitWith } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'
import { bring } from './uploading.ts'

/** Small conditions of the server, each held by a case in which it decides. */
let labs: Labs
let harness: Harness
let school: School
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
  school = labs.school
})
afterEach(() => harness.end())

const TEMPEH = 'Tempeh/Tue lab'
const KEFIR = 'Kefir/Tue lab'
const log = pino({ level: 'silent' })
const mailer = () => createOutboxMailer(harness.stores.mail, harness.clock.now)
const roster = () => `/api/courses/${school.course}/roster`
const sheet = () => harness.stores.sheets.byCode(school.sheet)!
const groupId = (name: string) => harness.stores.sheets.group(school.groups[name]!)!.id
const people = async () => (await must<RosterView>(school.owner.get(roster()))).people
const codeOf = async (email: string) => (await people()).find((one) => one.email === email)!.code
const tue = (n: number) => studentEmail('Tue lab', n)
const change = async (email: string, changes: object) =>
  must(school.owner.patch(`${roster()}/people/${await codeOf(email)}`, changes))
const wait = (n: number, to: string) =>
  labs
    .tue(n)
    .post(`${labs.at}/claims`, { key: `wait-${n}-${Math.random()}`, kind: 'wait', to: school.groups[to] })

describe('a change of the roster', () => {
  it('to another section ends a place in a line that no longer fits', async () => {
    await labs.rule({ fullGroups: 'line', seats: 1 })
    await labs.take(labs.tue(0), TEMPEH)
    await wait(1, TEMPEH)
    const { sections } = await must<{ sections: { code: string; name: string }[] }>(
      school.owner.get(`/api/courses/${school.course}`),
    )
    await change(tue(1), { section: sections.find(({ name }) => name === 'Wed lab')!.code })
    await labs.giveUp(labs.tue(0), TEMPEH)
    expect(harness.stores.seats.lines(sheet().id)).toEqual([])
    expect(harness.stores.seats.ofSheet(sheet().id)).toEqual([])
  })

  it('undone gives no more seats back than the rules let one hold by then', async () => {
    await labs.rule({ seatsEach: 2 })
    for (const group of [TEMPEH, KEFIR]) await labs.take(labs.tue(0), group)
    await change(tue(0), { status: 'paused', freeSeats: true })
    await labs.rule({ seatsEach: 1 })
    await must(school.owner.post(`${roster()}/undo`))
    expect(harness.stores.seats.ofSheet(sheet().id)).toHaveLength(1)
  })

  it('undone takes newcomers out of the lines they joined', async () => {
    await labs.rule({ fullGroups: 'line', seats: 1 })
    await labs.take(labs.tue(0), TEMPEH)
    const { sections } = await must<{ sections: { code: string }[] }>(
      school.owner.get(`/api/courses/${school.course}`),
    )
    const fresh = {
      name: 'New One',
      email: 'new@school.example',
      section: sections[0]!.code,
      role: 'student',
    }
    await must(school.owner.post(`${roster()}/people`, fresh))
    const newcomer = harness.as('new@school.example')
    await must(
      newcomer.post(`${labs.at}/claims`, { key: 'new-waits-1', kind: 'wait', to: school.groups[TEMPEH] }),
    )
    expect(harness.stores.seats.lines(sheet().id)).toHaveLength(1)
    await must(school.owner.post(`${roster()}/undo`))
    expect(harness.stores.seats.lines(sheet().id)).toEqual([])
  })
})

describe('whoever is paused', () => {
  it('does not reach the group’s page, nor, on the staff, anything that is the staff’s', async () => {
    await labs.take(labs.tue(0), TEMPEH)
    const page = `${labs.at}/groups/${school.groups[TEMPEH]}`
    await must<GroupPage>(labs.tue(0).get(page))
    await change(tue(0), { status: 'paused' })
    expect((await labs.tue(0).get(page)).status).toBe(404)
    const tutor = harness.as('tutor@school.example')
    await must(tutor.get(`${labs.at}/ledger`))
    await change('tutor@school.example', { status: 'paused' })
    const refused = await tutor.get<Problem>(`${labs.at}/ledger`)
    expect(refused.body.code).toBe('enrolment-not-active')
  })
})

describe('a request', () => {
  it('for a topic that was taken off the sheet is refused beside its field', async () => {
    await labs.take(labs.tue(0), TEMPEH)
    await labs.rule({ changing: 'by-asking' })
    const ask = (to: string) =>
      labs.tue(0).post<Problem>(`${labs.at}/requests`, {
        from: school.groups[TEMPEH],
        to: school.groups[to],
        reason: 'A lecture.',
      })
    const kefir = await labs.topic('Kefir')
    await must(school.owner.post(`${labs.at}/topics/${kefir.code}/remove`, { confirmed: true }))
    expect((await ask(KEFIR)).body.errors?.[0]?.path).toBe('to')
    await must(ask('Miso/Tue lab'))
  })
})

describe('the ledger', () => {
  it('offers to undo what still stands, and nothing that was overtaken', async () => {
    await labs.take(labs.tue(0), TEMPEH)
    await labs.take(labs.tue(1), TEMPEH)
    await labs.move(labs.tue(0), TEMPEH, KEFIR)
    await labs.giveUp(labs.tue(1), TEMPEH)
    const offers = async () => {
      const { entries } = await must<LedgerView>(school.owner.get(`${labs.at}/ledger`))
      return entries
        .filter(({ kind }) => kind.startsWith('seat-'))
        .map(({ kind, canUndo }) => [kind, canUndo])
    }
    expect(await offers()).toEqual([
      ['seat-taken', false],
      ['seat-taken', false],
      ['seat-moved', true],
      ['seat-given-up', true],
    ])
    await change(tue(0), { status: 'paused' })
    expect((await offers())[2]).toEqual(['seat-moved', false])
    const tempeh = await labs.topic('Tempeh')
    await must(school.owner.post(`${labs.at}/topics/${tempeh.code}/remove`, { confirmed: true }))
    expect((await offers())[3]).toEqual(['seat-given-up', false])
  })
})

describe('a file that was taken away', () => {
  it('comes back only where there is still room for it', async () => {
    await must(
      school.owner.send('PUT', `${labs.at}/extras`, {
        files: true,
        fileBytes: 1_048_576,
        groupBytes: 1_048_576,
      }),
    )
    await labs.take(labs.tue(0), TEMPEH)
    const group = school.groups[TEMPEH]!
    const at = `${labs.at}/groups/${group}`
    const add = (name: string) =>
      bring(harness, labs.tue(0), labs.at, { aim: 'group', group }, name, 'x'.repeat(600_000))
    expect(await add('first.txt')).toMatchObject({ name: 'first.txt' })
    const { files } = await must<GroupPage>(labs.tue(0).get(at))
    const restore = `${at}/files/${files[0]!.code}/restore`
    await must(labs.tue(0).send('DELETE', `${at}/files/${files[0]!.code}`))
    expect(await add('second.txt')).toMatchObject({ name: 'second.txt' })
    expect((await labs.tue(0).post<Problem>(restore)).body.code).toBe('no-room-left')
    const second = (await must<GroupPage>(labs.tue(0).get(at))).files.find(
      ({ name }) => name === 'second.txt',
    )!
    await must(labs.tue(0).send('DELETE', `${at}/files/${second.code}`))
    await must(labs.tue(0).post(restore))
  })
})

describe('a nudge', () => {
  it('counts for a day: the next may come once it is over, and not a moment before', async () => {
    await labs.rule({ nudgesADay: 1 })
    const one = (await must<NudgesView>(school.owner.get(`${labs.at}/nudges`))).people[0]!.code
    const nudge = () =>
      school.owner.post<Problem>(`${labs.at}/nudges`, { subject: 's', text: 't', people: [one] })
    await must(nudge())
    harness.clock.advance(DAY - 1)
    expect((await nudge()).body.code).toBe('nobody-to-write-to')
    harness.clock.advance(1)
    await must(nudge())
  })

  it('whose time passed while nobody looked is sent to nobody once the sheet has closed', async () => {
    await must(school.owner.post(`${labs.at}/nudges/automatic`, { subject: 's', text: 't', hours: 2 }))
    harness.clock.set(shift(sheet().closes_at!, HOUR))
    const before = harness.stores.mail.lastId()
    sendDueNudges(unitWith(harness, mailer()), harness.stores, mailer(), harness.clock.now())
    expect(harness.stores.mail.lastId()).toBe(before)
    const { nudges } = await must<NudgesView>(school.owner.get(`${labs.at}/nudges`))
    expect(nudges).toMatchObject([{ sentAt: expect.any(String), recipients: [] }])
  })
})

describe('an announcement', () => {
  it('of a deleted sheet waits, and goes once the sheet is back', async () => {
    const opens = sheet().opens_at!
    harness.clock.set(shift(opens, -DAY))
    await must(school.owner.post(`${labs.at}/announcements`, { text: 'Choose.', when: 'opening' }))
    await must(school.owner.send('DELETE', labs.at))
    harness.clock.set(shift(opens, HOUR))
    const due = () =>
      sendDueAnnouncements(unitWith(harness, mailer()), harness.stores, mailer(), harness.clock.now())
    const sent = () => harness.stores.mail.newest(50).filter(({ body }) => body.startsWith('Choose.')).length
    due()
    expect(sent()).toBe(0)
    await must(school.owner.post(`/api/courses/${school.course}/deleted/${school.sheet}/restore`))
    due()
    expect(sent()).toBeGreaterThan(0)
  })
})

describe('the rule for late enrolments', () => {
  it('asks the planner again only once something has changed, or after a while', async () => {
    await labs.rule({ late: 'seat', seats: 1 })
    // Every seat of the section is taken, so whoever comes later cannot be seated.
    for (const [n, group] of [TEMPEH, KEFIR, 'Miso/Tue lab'].entries()) await labs.take(labs.tue(n), group)
    for (const n of [3, 4]) await change(tue(n), { status: 'left' })
    harness.clock.set(shift(sheet().closes_at!, HOUR))
    await change(tue(3), { status: 'active' })
    let asked = 0
    const planner = createPlanner()
    const counted = {
      ...planner,
      plan: (...given: Parameters<typeof planner.plan>) => {
        asked += 1
        return planner.plan(...given)
      },
    }
    const { stores } = harness
    const closing = createClosing({
      log,
      stores,
      unit: unitWith(harness, mailer()),
      mailer: mailer(),
      planner: counted,
    })
    try {
      await closing.carryOut(harness.clock.now())
      expect(asked).toBe(1)
      for (let i = 0; i < 3; i++) {
        harness.clock.advance(2_000)
        await closing.carryOut(harness.clock.now())
      }
      expect(asked).toBe(1)
      await change(tue(4), { status: 'active' })
      await closing.carryOut(harness.clock.now())
      expect(asked).toBe(2)
      harness.clock.advance(HOUR)
      await closing.carryOut(harness.clock.now())
      expect(asked).toBe(3)
    } finally {
      await closing.stop()
    }
  })
})

describe('a reader of the stream', () => {
  it('who takes nothing any more is cut off, and nobody else is', async () => {
    await labs.take(labs.tue(0), TEMPEH)
    const hub = createHub(harness.stores)
    const ended: number[] = []
    const told: number[] = []
    const students = harness.stores.roster.students(sheet().course_id).map(({ id }) => id)
    const listen = (n: number, unread: number) => {
      const session = {
        once: () => {},
        push: () => told.push(n),
        batch: () => told.push(n),
      } as unknown as Parameters<typeof hub.listen>[1]['session']
      hub.listen(
        sheet().id,
        {
          session,
          as: 'student',
          enrolmentId: students[n]!,
          personId: n,
          signedIn: null,
          unread: () => unread,
          end: () => ended.push(n),
        },
        harness.stores.ledger.newest(sheet().id),
      )
    }
    listen(1, 0)
    listen(2, 300 * 1024)
    harness.stores.ledger.note({
      sheetId: sheet().id,
      at: harness.clock.now(),
      actorId: null,
      kind: 'sheet-changed',
    })
    hub.touched(sheet().id)
    await expect.poll(() => told.length).toBeGreaterThan(0)
    expect([ended, told]).toEqual([[2], [1]])
    hub.place(sheet().id, school.groups[TEMPEH]!, new Set([students[1]!, students[2]!]))
    expect(told).toEqual([1, 1])
    hub.close()
  })
})

it('a group that nobody looks after is reached by no tutor', async () => {
  await labs.take(labs.tue(0), TEMPEH)
  const tutor = harness.as('tutor@school.example')
  const page = `${labs.at}/groups/${school.groups[TEMPEH]}`
  expect((await tutor.get(page)).status).toBe(404)
  const { id } = harness.stores.roster.everybody(sheet().course_id).find(({ role }) => role === 'tutor')!
  harness.stores.sheets.setTutors(groupId(TEMPEH), [id])
  expect((await tutor.get(page)).status).toBe(200)
})
