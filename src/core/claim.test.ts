import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type ClaimAsk, type ClaimFacts, decideClaim } from './claim.ts'
import { NO_LIMIT } from './limit.ts'

const UNDATED = { startsAt: null, endsAt: null }
const target = { section: 'tue', offered: true, seats: 4, taken: 2, held: 0, line: 0, ...UNDATED }
const sits = (...groups: string[]) => groups.map((group) => ({ group, ...UNDATED }))
const open: ClaimFacts<string> = {
  state: 'open',
  rules: { seatsEach: 1, changing: 'until-close', offers: 'section', fullGroups: 'full' },
  role: 'student',
  active: true,
  section: 'tue',
  held: [],
  waiting: [],
  target,
}
const take: ClaimAsk<string> = { kind: 'take', to: 'tempeh' }
const move: ClaimAsk<string> = { kind: 'move', from: 'kefir', to: 'tempeh' }
const giveUp: ClaimAsk<string> = { kind: 'give-up', from: 'kefir' }
const reasonOf = (ask: ClaimAsk<string>, facts: Partial<ClaimFacts<string>>) => {
  const verdict = decideClaim(ask, { ...open, ...facts })
  return verdict.granted ? 'granted' : verdict.reason
}

describe('a claim', () => {
  it('leaves no seat behind whose work is handed in, by moving or giving up', () => {
    const held = sits('kefir').map((seat) => ({ ...seat, bound: true }))
    expect(reasonOf(move, { held })).toBe('work-handed-in')
    expect(reasonOf(giveUp, { held })).toBe('work-handed-in')
    const rules = { ...open.rules, seatsEach: 2 }
    expect(reasonOf(take, { held, rules })).toBe('granted')
  })

  it('to wait is about a further seat while the rules let one have more, and about a move once they do not', () => {
    const wait: ClaimAsk<string> = { kind: 'wait', to: 'tempeh' }
    const rules = { ...open.rules, fullGroups: 'line' as const, changing: 'never' as const }
    const full = { ...target, taken: 4 }
    expect(reasonOf(wait, { rules, target: full })).toBe('granted')
    expect(reasonOf(wait, { rules: { ...rules, seatsEach: 2 }, held: sits('kefir'), target: full })).toBe(
      'granted',
    )
    expect(reasonOf(wait, { rules, held: sits('kefir'), target: full })).toBe('change-not-allowed')
    expect(reasonOf(wait, { rules, held: sits('kefir', 'miso'), target: full })).toBe('seat-limit-reached')
    expect(reasonOf(wait, { rules, target: null })).toBe('group-not-found')
    expect(reasonOf(wait, { rules })).toBe('seat-is-free')
  })

  it('is granted while the window is open and a seat is free', () => {
    expect(reasonOf(take, {})).toBe('granted')
    expect(reasonOf(move, { held: sits('kefir') })).toBe('granted')
    expect(reasonOf(giveUp, { held: sits('kefir') })).toBe('granted')
  })

  it.each([
    ['draft', 'sheet-not-published'],
    ['scheduled', 'window-not-open-yet'],
    ['closed', 'window-closed'],
    ['archived', 'sheet-archived'],
  ] as const)('is refused while the sheet is %s, whatever is asked', (state, reason) => {
    for (const ask of [take, move, giveUp]) expect(reasonOf(ask, { state, held: sits('kefir') })).toBe(reason)
  })

  it('is refused to tutors and instructors, and to students who are not active', () => {
    expect(reasonOf(take, { role: 'tutor' })).toBe('not-a-student')
    expect(reasonOf(take, { role: 'instructor' })).toBe('not-a-student')
    expect(reasonOf(take, { active: false })).toBe('enrolment-not-active')
  })

  it('is refused in another section, but not for a group that belongs to no section', () => {
    expect(reasonOf(take, { section: 'wed' })).toBe('other-section')
    expect(reasonOf(take, { section: null })).toBe('other-section')
    expect(reasonOf(take, { section: null, target: { ...target, section: null } })).toBe('granted')
    const rules = { ...open.rules, offers: 'course' as const }
    expect(reasonOf(take, { section: 'wed', rules })).toBe('granted')
  })

  it('is refused when the group is full, past its limit, not offered or gone', () => {
    expect(reasonOf(take, { target: { ...target, taken: 4 } })).toBe('group-full')
    expect(reasonOf(move, { held: sits('kefir'), target: { ...target, taken: 5 } })).toBe('group-full')
    expect(reasonOf(take, { target: { ...target, offered: false } })).toBe('group-not-offered')
    expect(reasonOf(take, { target: null })).toBe('group-not-found')
  })

  it('leaves seats alone that are kept free for others, and never ends where there is no limit', () => {
    expect(reasonOf(take, { target: { ...target, taken: 2, held: 2 } })).toBe('group-full')
    expect(reasonOf(take, { target: { ...target, taken: 2, held: 1 } })).toBe('granted')
    expect(reasonOf(take, { target: { ...target, seats: NO_LIMIT, taken: 900 } })).toBe('granted')
  })

  it('is refused for a second seat where one is allowed, and granted where two are', () => {
    const rules = { ...open.rules, seatsEach: 2 }
    expect(reasonOf(take, { held: sits('kefir') })).toBe('seat-limit-reached')
    expect(reasonOf(take, { held: sits('kefir'), rules })).toBe('granted')
    expect(reasonOf(take, { held: sits('kefir', 'miso'), rules })).toBe('seat-limit-reached')
    expect(reasonOf(take, { held: sits('tempeh'), rules })).toBe('already-seated-here')
  })

  it.each([
    ['by-asking', 'change-only-by-asking'],
    ['never', 'change-not-allowed'],
  ] as const)('changes nothing by itself where seats change %s', (changing, reason) => {
    const rules = { ...open.rules, changing }
    expect(reasonOf(take, { rules })).toBe('granted')
    expect(reasonOf(move, { rules, held: sits('kefir') })).toBe(reason)
    expect(reasonOf(giveUp, { rules, held: sits('kefir') })).toBe(reason)
  })

  it('is refused where two seats would be at the same time, but not with the seat that is left', () => {
    const rules = { ...open.rules, seatsEach: 2 }
    const ten = { startsAt: '2026-05-06T10:00:00.000Z', endsAt: '2026-05-06T11:00:00.000Z' }
    const half = { startsAt: '2026-05-06T10:30:00.000Z', endsAt: null }
    const eleven = { startsAt: '2026-05-06T11:00:00.000Z', endsAt: null }
    const at = (slot: object) => ({ ...target, ...slot })
    const held = [{ group: 'kefir', ...ten }]
    expect(reasonOf(take, { rules, held, target: at(half) })).toBe('time-clash')
    expect(reasonOf(take, { rules, held, target: at(eleven) })).toBe('granted')
    expect(reasonOf(take, { rules, held, target: at(UNDATED) })).toBe('granted')
    expect(reasonOf(move, { rules, held, target: at(half) })).toBe('granted')
  })

  it('cannot move or give up a seat that is not held', () => {
    expect(reasonOf(move, {})).toBe('seat-not-held')
    expect(reasonOf(giveUp, { held: sits('miso') })).toBe('seat-not-held')
  })
})

describe('the waiting line', () => {
  const rules = { ...open.rules, fullGroups: 'line' as const }
  const full = { ...target, taken: 4 }
  const wait: ClaimAsk<string> = { kind: 'wait', to: 'tempeh' }

  it('is open to those who could sit there, were it not full', () => {
    expect(reasonOf(wait, { rules, target: full })).toBe('granted')
    expect(reasonOf(wait, { target: full })).toBe('no-waiting-line')
    expect(reasonOf(wait, { rules, target: full, section: 'wed' })).toBe('other-section')
    expect(reasonOf(wait, { rules, target: full, waiting: ['tempeh'] })).toBe('already-in-line')
    expect(reasonOf(wait, { rules, target })).toBe('seat-is-free')
    expect(reasonOf(wait, { rules, target: { ...target, line: 1 } })).toBe('granted')
    expect(reasonOf(wait, { rules, target: full, state: 'closed' })).toBe('window-closed')
  })

  it('waits for a move where a seat is held, if seats may change and it is clear which one is left', () => {
    expect(reasonOf(wait, { rules, target: full, held: sits('kefir') })).toBe('granted')
    expect(reasonOf(wait, { rules, target: full, held: sits('tempeh') })).toBe('already-seated-here')
    expect(
      reasonOf(wait, { rules: { ...rules, changing: 'never' }, target: full, held: sits('kefir') }),
    ).toBe('change-not-allowed')
    expect(reasonOf(wait, { rules: { ...rules, changing: 'never' }, target: full })).toBe('granted')
    expect(
      reasonOf(wait, { rules: { ...rules, seatsEach: 2 }, target: full, held: sits('kefir', 'miso') }),
    ).toBe('seat-limit-reached')
  })

  it('goes before everybody else: no seat is snatched past it', () => {
    const freed = { ...target, line: 2 }
    expect(reasonOf(take, { rules, target: freed })).toBe('line-goes-first')
    expect(reasonOf(move, { rules, held: sits('kefir'), target: freed })).toBe('line-goes-first')
  })

  it('is left by those who wait in it', () => {
    expect(reasonOf({ kind: 'leave-line', from: 'tempeh' }, { waiting: ['tempeh'] })).toBe('granted')
    expect(reasonOf({ kind: 'leave-line', from: 'tempeh' }, {})).toBe('not-in-line')
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
            rules: { seatsEach: 1, changing: 'until-close', offers: 'section', fullGroups: 'full' },
            role: 'student',
            active: true,
            section: sectionOfStudent[s.student]!,
            waiting: [],
            held: held.map((group) => ({ group, ...UNDATED })),
            target: {
              section: sectionOfGroup[to]!,
              offered: true,
              seats: limit[to]!,
              taken: before,
              line: 0,
              held: 0,
              ...UNDATED,
            },
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
