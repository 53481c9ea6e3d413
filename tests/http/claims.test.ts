import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { ClaimAnswer, StudentSheet } from '../../src/contract/seats.ts'
import { type Benches, startBenches } from './benches.ts'
import { claim, type Harness, must, outcome, studentEmail } from './harness.ts'

let harness: Harness
let small: Benches['small']
let tue: Benches['tue']
beforeEach(async () => {
  ;({ harness, small, tue } = await startBenches())
})
afterEach(() => harness.end())

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
