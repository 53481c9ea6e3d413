import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type ClaimAsk, type ClaimFacts, decideClaim } from './claim.ts'

const open: ClaimFacts<string> = {
  state: 'open',
  seatsEach: 1,
  role: 'student',
  active: true,
  section: 'tue',
  held: [],
  target: { section: 'tue', seats: 4, taken: 2 },
}
const take: ClaimAsk<string> = { kind: 'take', to: 'tempeh' }
const move: ClaimAsk<string> = { kind: 'move', from: 'kefir', to: 'tempeh' }
const giveUp: ClaimAsk<string> = { kind: 'give-up', from: 'kefir' }
const reasonOf = (ask: ClaimAsk<string>, facts: Partial<ClaimFacts<string>>) => {
  const verdict = decideClaim(ask, { ...open, ...facts })
  return verdict.granted ? 'granted' : verdict.reason
}

describe('a claim', () => {
  it('is granted while the window is open and a seat is free', () => {
    expect(reasonOf(take, {})).toBe('granted')
    expect(reasonOf(move, { held: ['kefir'] })).toBe('granted')
    expect(reasonOf(giveUp, { held: ['kefir'] })).toBe('granted')
  })

  it.each([
    ['draft', 'sheet-not-published'],
    ['scheduled', 'window-not-open-yet'],
    ['closed', 'window-closed'],
    ['archived', 'sheet-archived'],
  ] as const)('is refused while the sheet is %s, whatever is asked', (state, reason) => {
    for (const ask of [take, move, giveUp]) expect(reasonOf(ask, { state, held: ['kefir'] })).toBe(reason)
  })

  it('is refused to tutors and instructors, and to students who are not active', () => {
    expect(reasonOf(take, { role: 'tutor' })).toBe('not-a-student')
    expect(reasonOf(take, { role: 'instructor' })).toBe('not-a-student')
    expect(reasonOf(take, { active: false })).toBe('enrolment-not-active')
  })

  it('is refused in another section, but not for a group that belongs to no section', () => {
    expect(reasonOf(take, { section: 'wed' })).toBe('other-section')
    expect(reasonOf(take, { section: null })).toBe('other-section')
    expect(reasonOf(take, { section: null, target: { section: null, seats: 1, taken: 0 } })).toBe('granted')
  })

  it('is refused when the group is full, past its limit or gone', () => {
    expect(reasonOf(take, { target: { section: 'tue', seats: 4, taken: 4 } })).toBe('group-full')
    expect(reasonOf(move, { held: ['kefir'], target: { section: 'tue', seats: 4, taken: 5 } })).toBe(
      'group-full',
    )
    expect(reasonOf(take, { target: null })).toBe('group-not-found')
  })

  it('is refused for a second seat where one is allowed, and granted where two are', () => {
    expect(reasonOf(take, { held: ['kefir'] })).toBe('seat-limit-reached')
    expect(reasonOf(take, { held: ['kefir'], seatsEach: 2 })).toBe('granted')
    expect(reasonOf(take, { held: ['tempeh'], seatsEach: 2 })).toBe('already-seated-here')
  })

  it('cannot move or give up a seat that is not held', () => {
    expect(reasonOf(move, {})).toBe('seat-not-held')
    expect(reasonOf(giveUp, { held: ['miso'] })).toBe('seat-not-held')
  })
})

/**
 * The naive model: a list of (student, group) pairs and rules in the plainest words.
 * It shares no code with `decideClaim`; both are driven through the same random history.
 */
class NaiveSheet {
  pairs: { student: number; group: number }[] = []
  constructor(
    readonly sectionOfStudent: number[],
    readonly sectionOfGroup: number[],
    readonly limit: number[],
    public open = true,
  ) {}
  sits(student: number, group: number) {
    return this.pairs.some((pair) => pair.student === student && pair.group === group)
  }
  sitsAnywhere(student: number) {
    return this.pairs.some((pair) => pair.student === student)
  }
  room(group: number) {
    return this.pairs.filter((pair) => pair.group === group).length < (this.limit[group] ?? 0)
  }
  fits(student: number, group: number) {
    return this.sectionOfStudent[student] === this.sectionOfGroup[group] && this.room(group)
  }
  take(student: number, group: number): boolean {
    if (!this.open || this.sitsAnywhere(student) || !this.fits(student, group)) return false
    this.pairs.push({ student, group })
    return true
  }
  move(student: number, from: number, to: number): boolean {
    if (!this.open || !this.sits(student, from) || this.sits(student, to) || !this.fits(student, to))
      return false
    this.giveUp(student, from)
    this.pairs.push({ student, group: to })
    return true
  }
  giveUp(student: number, group: number): boolean {
    if (!this.open || !this.sits(student, group)) return false
    this.pairs = this.pairs.filter((pair) => pair.student !== student || pair.group !== group)
    return true
  }
}

const STUDENTS = 9
const GROUPS = 4
const student = fc.nat(STUDENTS - 1)
const group = fc.nat(GROUPS - 1)
const step = fc.oneof(
  { weight: 5, arbitrary: fc.record({ kind: fc.constant('take' as const), student, to: group }) },
  {
    weight: 4,
    arbitrary: fc.record({ kind: fc.constant('move' as const), student, from: group, to: group }),
  },
  { weight: 2, arbitrary: fc.record({ kind: fc.constant('give-up' as const), student, from: group }) },
  {
    weight: 1,
    arbitrary: fc.record({
      kind: fc.constant('limit' as const),
      group,
      seats: fc.integer({ min: 1, max: 4 }),
    }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('window' as const), open: fc.boolean() }) },
)

describe('claims in any order', () => {
  it('agree with the naive model, and no group takes a seat past its limit', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 80 }), (steps) => {
        const sectionOfStudent = Array.from({ length: STUDENTS }, (_, i) => i % 2)
        const sectionOfGroup = Array.from({ length: GROUPS }, (_, i) => i % 2)
        const limit = [2, 3, 1, 2]
        const model = new NaiveSheet(sectionOfStudent, sectionOfGroup, limit)
        const seats = new Map<number, number[]>()
        const takenIn = (g: number) => [...seats.values()].filter((held) => held.includes(g)).length
        for (const s of steps) {
          if (s.kind === 'limit') {
            limit[s.group] = s.seats
            continue
          }
          if (s.kind === 'window') {
            model.open = s.open
            continue
          }
          const held = seats.get(s.student) ?? []
          const to = s.kind === 'give-up' ? s.from : s.to
          const before = takenIn(to)
          const verdict = decideClaim<number>(s, {
            state: model.open ? 'open' : 'closed',
            seatsEach: 1,
            role: 'student',
            active: true,
            section: sectionOfStudent[s.student]!,
            held,
            target: { section: sectionOfGroup[to]!, seats: limit[to]!, taken: before },
          })
          if (verdict.granted) {
            const kept = s.kind === 'take' ? held : held.filter((g) => g !== s.from)
            seats.set(s.student, s.kind === 'give-up' ? kept : [...kept, s.to])
            if (s.kind !== 'give-up') expect(takenIn(to)).toBeLessThanOrEqual(limit[to]!)
          }
          const expected =
            s.kind === 'take'
              ? model.take(s.student, s.to)
              : s.kind === 'move'
                ? model.move(s.student, s.from, s.to)
                : model.giveUp(s.student, s.from)
          expect(verdict.granted).toBe(expected)
        }
        const sittings = [...seats].flatMap(([who, held]) => held.map((where) => `${who}:${where}`)).sort()
        expect(sittings).toEqual(model.pairs.map((pair) => `${pair.student}:${pair.group}`).sort())
      }),
      { numRuns: 400 },
    )
  })
})
