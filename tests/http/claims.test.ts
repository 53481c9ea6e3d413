import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { ClaimAnswer, StudentSheet } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import {
  type Client,
  claim,
  type Harness,
  must,
  outcome,
  type School,
  START,
  setUpSchool,
  startHarness,
  studentEmail,
} from './harness.ts'

let harness: Harness
beforeEach(async () => {
  harness = await startHarness()
})
afterEach(() => harness.end())

const small = (students = 6): Promise<School> =>
  setUpSchool(harness, {
    sections: ['Tue lab', 'Wed lab'],
    students: { 'Tue lab': students, 'Wed lab': students },
    topics: ['Tempeh', 'Kefir'],
    seats: 2,
  })
const tue = (n: number) => harness.as(studentEmail('Tue lab', n))

/** The names that an answer shows in a group. */
const names = (answer: { body: unknown }, group: string | undefined) =>
  (answer.body as ClaimAnswer).groups.find(({ code }) => code === group)?.names

describe('a student', () => {
  it('takes a seat, moves, and gives it up, and sees mates only then', async () => {
    const { sheet, groups } = await small()
    const [first, second] = [tue(0), tue(1)]
    await claim(first, sheet, { kind: 'take', to: groups['Tempeh/Tue lab'] })
    const before = await must<StudentSheet>(second.get(`/api/sheets/${sheet}/student`))
    expect(JSON.stringify(before)).not.toContain('Student 0')
    const taken = await claim(second, sheet, { kind: 'take', to: groups['Tempeh/Tue lab'] })
    expect(names(taken, groups['Tempeh/Tue lab'])).toEqual(['Student 0 Tue lab'])
    const moved = await claim(second, sheet, {
      kind: 'move',
      from: groups['Tempeh/Tue lab'],
      to: groups['Kefir/Tue lab'],
    })
    expect((moved.body as ClaimAnswer).seats).toMatchObject([{ group: groups['Kefir/Tue lab'] }])
    expect(names(moved, groups['Kefir/Tue lab'])).toEqual([])
    expect(JSON.stringify(moved.body)).not.toContain('Student 0')
    const left = await claim(second, sheet, { kind: 'give-up', from: groups['Kefir/Tue lab'] })
    expect((left.body as ClaimAnswer).seats).toEqual([])
  })

  it('keeps the old seat when the new one is not won', async () => {
    const { sheet, groups } = await small()
    for (const n of [0, 1]) await claim(tue(n), sheet, { kind: 'take', to: groups['Tempeh/Tue lab'] })
    const mover = tue(2)
    await claim(mover, sheet, { kind: 'take', to: groups['Kefir/Tue lab'] })
    const refused = await claim(mover, sheet, {
      kind: 'move',
      from: groups['Kefir/Tue lab'],
      to: groups['Tempeh/Tue lab'],
    })
    expect(outcome(refused)).toBe('group-full')
    expect((refused.body as Problem).detail).toMatch(/Your seat is as it was/)
    const view = await must<StudentSheet>(mover.get(`/api/sheets/${sheet}/student`))
    expect(view.seats[0]?.group).toBe(groups['Kefir/Tue lab'])
  })

  it('is told why a claim is refused', async () => {
    const { sheet, groups } = await small()
    const student = tue(0)
    const ask = async (body: Parameters<typeof claim>[2]) => outcome(await claim(student, sheet, body))
    expect(await ask({ kind: 'take', to: groups['Tempeh/Wed lab'] })).toBe('other-section')
    expect(await ask({ kind: 'take', to: 'no-such-group' })).toBe('group-not-found')
    expect(await ask({ kind: 'give-up', from: groups['Tempeh/Tue lab'] })).toBe('seat-not-held')
    expect(await ask({ kind: 'take', to: groups['Tempeh/Tue lab'] })).toBe('granted')
    expect(await ask({ kind: 'take', to: groups['Kefir/Tue lab'] })).toBe('seat-limit-reached')
    expect(await ask({ kind: 'take', to: groups['Tempeh/Tue lab'] })).toBe('already-seated-here')
    harness.clock.set('2026-05-13T15:00:00.000Z')
    expect(await ask({ kind: 'give-up', from: groups['Tempeh/Tue lab'] })).toBe('window-closed')
    harness.clock.set('2026-05-06T06:59:59.999Z')
    expect(await ask({ kind: 'give-up', from: groups['Tempeh/Tue lab'] })).toBe('window-not-open-yet')
  })

  it('cannot claim on another sheet’s group', async () => {
    const one = await small()
    const other = await small()
    expect(
      outcome(await claim(tue(0), one.sheet, { kind: 'take', to: other.groups['Tempeh/Tue lab'] })),
    ).toBe('group-not-found')
  })

  it('is answered with what is wrong when a claim is malformed', async () => {
    const { sheet, groups } = await small()
    const to = groups['Tempeh/Tue lab']
    const bodies = [
      {},
      { key: 'short', kind: 'take', to },
      { key: 'long-enough', kind: 'steal', to },
      { key: 'long-enough', kind: 'move', to },
    ]
    for (const body of bodies) {
      const answer = await tue(0).post<Problem>(`/api/sheets/${sheet}/claims`, body)
      expect(answer.status).toBe(422)
      expect(answer.body.errors?.length).toBeGreaterThan(0)
    }
    const broken = await tue(0).post<Problem>(`/api/sheets/${sheet}/claims`, '{"key":')
    expect(broken.body).toMatchObject({ status: 400, code: 'body-malformed' })
    expect(broken.headers.get('content-type')).toMatch('application/problem+json')
  })
})

describe('a key', () => {
  it('sent twice, at once or later, gives one seat and the same answer', async () => {
    const { sheet, groups } = await small()
    const student = tue(0)
    const ask = { kind: 'take', to: groups['Tempeh/Tue lab'] }
    const both = await Promise.all([
      claim(student, sheet, ask, 'one-key-12'),
      claim(student, sheet, ask, 'one-key-12'),
    ])
    const later = await claim(student, sheet, ask, 'one-key-12')
    expect([...both, later].map(outcome)).toEqual(['granted', 'granted', 'granted'])
    expect(harness.stores.seats.ofSheet(harness.stores.sheets.byCode(sheet)!.id)).toHaveLength(1)
  })

  it('gives a refusal again even when there would be room now', async () => {
    const { sheet, groups } = await small()
    const to = groups['Tempeh/Tue lab']
    for (const n of [0, 1]) await claim(tue(n), sheet, { kind: 'take', to })
    expect(outcome(await claim(tue(2), sheet, { kind: 'take', to }, 'lost-race-1'))).toBe('group-full')
    await claim(tue(0), sheet, { kind: 'give-up', from: to })
    expect(outcome(await claim(tue(2), sheet, { kind: 'take', to }, 'lost-race-1'))).toBe('group-full')
    expect(outcome(await claim(tue(2), sheet, { kind: 'take', to }))).toBe('granted')
  })

  it('answers a move, a waiting and a giving up again, long after, without doing them again', async () => {
    const { sheet, groups, owner } = await small()
    await must(owner.patch(`/api/sheets/${sheet}`, { fullGroups: 'line' }))
    const [tempeh, kefir] = [groups['Tempeh/Tue lab'], groups['Kefir/Tue lab']]
    const student = tue(0)
    await claim(student, sheet, { kind: 'take', to: tempeh })
    const move = { kind: 'move', from: tempeh, to: kefir }
    for (let i = 0; i < 3; i++)
      expect(outcome(await claim(student, sheet, move, 'moved-once'))).toBe('granted')
    for (const n of [1, 2]) await claim(tue(n), sheet, { kind: 'take', to: tempeh })
    const wait = { kind: 'wait', to: tempeh }
    for (let i = 0; i < 3; i++)
      expect(outcome(await claim(student, sheet, wait, 'waits-once'))).toBe('granted')
    const leave = { kind: 'give-up', from: kefir }
    await claim(student, sheet, leave, 'left-once-1')
    await claim(student, sheet, { kind: 'take', to: kefir })
    expect(outcome(await claim(student, sheet, leave, 'left-once-1'))).toBe('granted')
    const id = harness.stores.sheets.byCode(sheet)!.id
    const person = harness.stores.roster.personByEmail(studentEmail('Tue lab', 0))!
    const me = harness.stores.roster.enrolmentIn(harness.stores.sheets.byId(id)!.course_id, person.id)!.id
    expect(harness.stores.seats.heldBy(id, me)).toHaveLength(1)
    expect(harness.stores.seats.waitsIn(id, me)).toHaveLength(1)
    const kinds = harness.stores.ledger
      .since(id, 0)
      .filter(({ enrolment_id }) => enrolment_id === me)
      .map(({ kind }) => kind)
    expect(kinds).toEqual(['seat-taken', 'seat-moved', 'line-joined', 'seat-given-up', 'seat-taken'])
  })

  it('cannot be used for another claim', async () => {
    const { sheet, groups } = await small()
    await claim(tue(0), sheet, { kind: 'take', to: groups['Tempeh/Tue lab'] }, 'used-once-1')
    const other = await claim(
      tue(0),
      sheet,
      { kind: 'give-up', from: groups['Tempeh/Tue lab'] },
      'used-once-1',
    )
    expect(outcome(other)).toBe('key-used-otherwise')
  })
})

describe('the database', () => {
  it('refuses by itself what the engine should never write', async () => {
    const { sheet, groups } = await small()
    const { db, stores } = harness
    const id = stores.sheets.byCode(sheet)!.id
    const group = (name: string) => stores.sheets.group(groups[name]!)!.id
    const enrolment = (n: number) =>
      stores.roster.enrolmentIn(
        stores.sheets.byId(id)!.course_id,
        stores.roster.personByEmail(studentEmail('Tue lab', n))!.id,
      )!.id
    const take = (n: number, name: string) => stores.seats.seat(id, group(name), enrolment(n), false, START)
    take(0, 'Tempeh/Tue lab')
    expect(() => take(0, 'Tempeh/Tue lab')).toThrow()
    expect(() => take(0, 'Kefir/Tue lab')).toThrow(/more seats than a student may hold/)
    take(1, 'Tempeh/Tue lab')
    expect(() => take(2, 'Tempeh/Tue lab')).toThrow(/past its limit/)
    expect(() => db.exec('UPDATE topic SET seats = 1')).toThrow(/limit below/)
    expect(() => db.exec('UPDATE sheet SET seats = 1')).toThrow(/limit below/)
    expect(() => db.exec(`UPDATE seat SET group_id = ${group('Kefir/Tue lab')}`)).toThrow(
      /never turned into another/,
    )
    const other = await small()
    expect(() =>
      stores.seats.seat(
        id,
        stores.sheets.group(other.groups['Kefir/Tue lab']!)!.id,
        enrolment(2),
        false,
        START,
      ),
    ).toThrow(/outside/)
    expect(() => db.exec('DELETE FROM ledger')).toThrow(/only added to/)
    expect(() => db.exec("UPDATE ledger SET kind = 'seat-taken'")).toThrow(/only added to/)
  })

  it('that is full gives a clear refusal and no seat, and goes on once there is room', async () => {
    const { sheet, groups } = await small()
    const { db, stores } = harness
    const id = stores.sheets.byCode(sheet)!.id
    const to = groups['Tempeh/Tue lab']
    // Not one page more than there is: what SQLite says then is what it says when the disk is full.
    const pages = db.pragma('page_count', { simple: true }) as number
    db.pragma(`max_page_count = ${pages}`)
    // What fits into pages that are not full yet is granted and kept; sooner or later one does not fit.
    let refused: Awaited<ReturnType<typeof claim>> | null = null
    for (let i = 0; i < 200 && refused === null; i++) {
      const held = stores.seats.ofSheet(id).length
      const before = stores.ledger.newest(id)
      const ask = held === 0 ? { kind: 'take', to } : { kind: 'give-up', from: to }
      const answer = await claim(tueBefore, sheet, ask)
      if (answer.status === 200) continue
      refused = answer
      expect(stores.seats.ofSheet(id)).toHaveLength(held)
      expect(stores.ledger.newest(id)).toBe(before)
    }
    expect(refused).toMatchObject({ status: 503, body: { code: 'store-unavailable' } })
    expect(JSON.stringify(refused)).toContain('Nothing was changed')
    db.pragma(`max_page_count = ${pages * 100}`)
    const seated = stores.seats.ofSheet(id).length === 1
    const ask = seated ? { kind: 'give-up', from: to } : { kind: 'take', to }
    expect(outcome(await claim(tueBefore, sheet, ask))).toBe('granted')
    expect(seatsByLedger(stores.ledger.since(id, 0))).toEqual(seatsAsKept(stores.seats.ofSheet(id)))
  })

  it('that takes no writes gives a clear refusal and no seat', async () => {
    const { sheet, groups } = await small()
    harness.db.pragma('query_only = ON')
    const answer = await claim(tueBefore, sheet, { kind: 'take', to: groups['Tempeh/Tue lab'] })
    harness.db.pragma('query_only = OFF')
    expect(answer.status).toBe(503)
    expect(answer.headers.get('retry-after')).toBe('2')
    expect((answer.body as Problem).detail).toMatch(/Nothing was changed/)
    expect(outcome(await claim(tueBefore, sheet, { kind: 'take', to: groups['Tempeh/Tue lab'] }))).toBe(
      'granted',
    )
  })
  let tueBefore: Client
  beforeEach(() => {
    tueBefore = tue(0)
  })
})

/** A student's step, or the instructor's, in a random history. */
const step = fc.oneof(
  { weight: 5, arbitrary: fc.record({ kind: fc.constant('take' as const), who: fc.nat(5), to: fc.nat(1) }) },
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constant('move' as const),
      who: fc.nat(5),
      from: fc.nat(1),
      to: fc.nat(1),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({ kind: fc.constant('give-up' as const), who: fc.nat(5), from: fc.nat(1) }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('limit' as const),
      topic: fc.nat(1),
      seats: fc.integer({ min: 1, max: 4 }),
    }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('close' as const), closed: fc.boolean() }) },
)

describe('any history', () => {
  it('leaves seats, ledger and a naive model in agreement', async () => {
    const school = await small()
    const compose = await must<ComposeView>(school.owner.get(`/api/sheets/${school.sheet}/compose`))
    const students = Array.from({ length: 6 }, (_, n) => tue(n))
    const topics = compose.topics.map(({ code }) => code)
    const codes = ['Tempeh/Tue lab', 'Kefir/Tue lab'].map((name) => school.groups[name]!)
    const { stores } = harness
    const sheet = stores.sheets.byCode(school.sheet)!
    // The model goes on over all histories: who sits where, the limits, and whether the window is open.
    const sits = new Map<number, number>()
    const limit = [2, 2]
    let open = true
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 5, maxLength: 25 }), async (steps) => {
        for (const s of steps) {
          const inGroup = (g: number) => [...sits.values()].filter((where) => where === g).length
          if (s.kind === 'limit') {
            await must(
              school.owner.patch(`/api/sheets/${school.sheet}/topics/${topics[s.topic]}`, {
                seats: s.seats,
                confirmed: true,
              }),
            )
            limit[s.topic] = s.seats
          } else if (s.kind === 'close') {
            open = !s.closed
            harness.clock.set(open ? START : '2026-05-14T00:00:00.000Z')
          } else {
            const held = sits.get(s.who)
            const room = 'to' in s && inGroup(s.to) < limit[s.to]!
            const allowed =
              open &&
              (s.kind === 'take'
                ? held === undefined && room
                : s.kind === 'move'
                  ? held === s.from && s.to !== s.from && room
                  : held === s.from)
            const ask = {
              kind: s.kind,
              ...('from' in s && { from: codes[s.from] }),
              ...('to' in s && { to: codes[s.to] }),
            }
            const answer = await claim(students[s.who]!, school.sheet, ask)
            expect(answer.status === 200, `${JSON.stringify(s)} → ${outcome(answer)}`).toBe(allowed)
            if (allowed) {
              if ('to' in s) sits.set(s.who, s.to)
              else sits.delete(s.who)
            }
          }
        }
        const kept = stores.seats.ofSheet(sheet.id)
        expect(seatsByLedger(stores.ledger.since(sheet.id, 0))).toEqual(seatsAsKept(kept))
        expect(kept).toHaveLength(sits.size)
        codes.forEach((code, g) => {
          const group = stores.sheets.group(code)!
          const there = kept.filter(({ group_id }) => group_id === group.id)
          expect(there).toHaveLength([...sits.values()].filter((where) => where === g).length)
          expect(there.filter(({ extra }) => extra === 1)).toHaveLength(
            Math.max(0, there.length - group.seats),
          )
        })
      }),
      { numRuns: 25 },
    )
  })
})
