import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { grouped } from '../../src/core/grouped.ts'
import { workOf } from '../../src/core/plan/work.ts'
import {
  brokenBy,
  compareCosts,
  costOf,
  type Priority,
  rankOf,
  USUAL_ORDER,
  type WishRules,
} from '../../src/core/wishes/rules.ts'
import type { WishAim, WishInput, WishSeat } from '../../src/core/wishes/types.ts'
import { seatWithin, type WithinOutcome } from '../../src/core/wishes/within.ts'
import { withRules } from './classes.ts'
import { everySeating } from './every.ts'

const AIMS = ['most-first', 'nobody-far-down', 'least-total'] as const
const NO_RULES: WishRules = { together: [], apart: [], floors: new Map(), order: USUAL_ORDER }
const STEPS = 50_000_000

const seat = (input: WishInput, rules: WishRules, steps = STEPS): WithinOutcome =>
  seatWithin(input, rules, workOf(steps))
const hard = (rules: WishRules, seats: readonly WishSeat[]) =>
  brokenBy(rules, seats).filter(({ what }) => what !== 'floor')

describe('seats by wishes within rules', () => {
  it.each(AIMS)('%s are as good as the best of all that keep to the rules', (aim) => {
    fc.assert(
      fc.property(withRules, ({ input: given, rules }) => {
        const input: WishInput = { ...given, aim }
        const { seats, cost, bound } = seat(input, rules)
        expect(hard(rules, seats)).toEqual([])
        expect(costOf(input, rules, seats)).toEqual(cost)
        expect(bound).toEqual(cost)
        let least: number[] | null = null
        for (const at of everySeating(input)) {
          const all = at.map((g, i): WishSeat => {
            const one = input.wishers[i]
            const topic = g === null ? undefined : input.groups[g]?.topic
            return {
              person: one?.key ?? '',
              group: g === null ? null : (input.groups[g]?.key ?? null),
              rank: one && g !== null ? rankOf(one, topic) : null,
            }
          })
          if (hard(rules, all).length > 0) continue
          const own = costOf(input, rules, all)
          if (least === null || compareCosts(own, least) < 0) least = own
        }
        expect(cost).toEqual(least)
      }),
      { numRuns: 1_000 },
    )
  })

  it('in turn keep to the rules too, and seat nobody where they cannot be', () => {
    fc.assert(
      fc.property(withRules, ({ input: given, rules }) => {
        const input: WishInput = { ...given, aim: 'in-turn' }
        const { seats } = seat(input, rules)
        expect(hard(rules, seats)).toEqual([])
        for (const { key, seats: most } of input.groups)
          expect(seats.filter(({ group }) => group === key).length).toBeLessThanOrEqual(most)
      }),
      { numRuns: 400 },
    )
  })

  it('say how much better they could be at most where there was no time to look further', () => {
    fc.assert(
      fc.property(withRules, fc.constantFrom(...AIMS), ({ input: given, rules }, aim) => {
        const input: WishInput = { ...given, aim }
        const hurried = seat(input, rules, 1)
        const best = seat(input, rules)
        expect(hard(rules, hurried.seats)).toEqual([])
        expect(compareCosts(hurried.cost, best.cost)).toBeGreaterThanOrEqual(0)
        expect(compareCosts(hurried.bound, best.cost)).toBeLessThanOrEqual(0)
      }),
      { numRuns: 400 },
    )
  })

  const wisher = (key: string, ...topics: string[]) => ({
    key,
    section: null,
    ranks: topics.map((topic) => [topic]),
    cannot: [],
  })
  const group = (key: string, seats: number) => ({ key, topic: key, section: null, seats })
  const asked = (aim: WishAim, names: string[], lotNumber = 7): WishInput => ({
    wishers: names.map((name) => wisher(name, 'kimchi', 'miso')),
    groups: [group('kimchi', 4), group('miso', 4), group('garum', 4)],
    offers: 'section',
    aim,
    lotNumber,
  })

  it.each([...AIMS, 'in-turn'] as const)('%s seat people together who keep together', (aim) => {
    const rules = { ...NO_RULES, together: [['a', 'f']] }
    for (let lot = 1; lot <= 20; lot++) {
      const at = new Map(
        seat(asked(aim, ['a', 'b', 'c', 'd', 'e', 'f'], lot), rules).seats.map((s) => [s.person, s.group]),
      )
      expect(at.get('a')).toBe(at.get('f'))
    }
  })

  it('in turn close the groups in which too few come, but refuse nobody a seat that is left', () => {
    const floors = (floor: number) => ({
      ...NO_RULES,
      floors: new Map(['kimchi', 'miso', 'garum'].map((key) => [key, { floor, fixed: 0 }])),
    })
    const people = ['a', 'b', 'c', 'd'].map((name) => wisher(name, 'kimchi', 'miso'))
    const input: WishInput = {
      ...asked('in-turn', []),
      wishers: [...people, wisher('e', 'garum', 'miso'), wisher('f', 'garum', 'miso')],
    }
    const sizes = (floor: number) =>
      [...grouped(seat(input, floors(floor)).seats, ({ group }) => group)].map(([group, all]) => [
        group,
        all.length,
      ])
    expect(new Map(sizes(2) as [string, number][])).toEqual(
      new Map([
        ['kimchi', 4],
        ['garum', 2],
      ]),
    )
    // Two are too few here: garum is closed, and they go on to miso.
    expect(new Map(sizes(3) as [string, number][]).get('kimchi')).toBe(4)
    expect(new Map(sizes(3) as [string, number][]).get('garum')).toBeUndefined()
  })

  it.each(AIMS)('%s leave no group below its floor where that can be', (aim) => {
    const rules = {
      ...NO_RULES,
      floors: new Map(['kimchi', 'miso', 'garum'].map((key) => [key, { floor: 3, fixed: 0 }])),
    }
    const { seats } = seat(asked(aim, ['a', 'b', 'c', 'd', 'e', 'f']), rules)
    expect(brokenBy(rules, seats)).toEqual([])
  })

  it('keep people in their seats before wishes count, or after, as is wanted', () => {
    const people = [
      { ...wisher('a', 'kimchi', 'miso'), home: 'miso' },
      { ...wisher('b', 'miso', 'kimchi'), home: 'kimchi' },
    ]
    const input = { ...asked('most-first', []), wishers: people }
    const of = (order: Priority[]) => seat(input, { ...NO_RULES, order }).seats.map(({ rank }) => rank)
    expect(of(['floors', 'moved', 'wishes'])).toEqual([2, 2])
    expect(of(['floors', 'wishes', 'moved'])).toEqual([1, 1])
  })

  it('give those whom no rule names the same chances', () => {
    const rules = {
      ...NO_RULES,
      together: [['a', 'b']],
      floors: new Map([['garum', { floor: 2, fixed: 0 }]]),
    }
    const first = new Map<string, number>()
    for (let lot = 1; lot <= 4_000; lot++)
      for (const { person, rank } of seat(asked('most-first', ['a', 'b', 'c', 'd', 'e', 'f'], lot), rules)
        .seats)
        if (rank === 1) first.set(person, (first.get(person) ?? 0) + 1)
    const [c = 0, ...others] = ['c', 'd', 'e', 'f'].map((one) => first.get(one) ?? 0)
    const mean = (c + others.reduce((sum, n) => sum + n, 0)) / 4
    // Chi-square with three degrees of freedom: 1 in 10,000 lies above 21.1.
    expect([c, ...others].reduce((sum, n) => sum + (n - mean) ** 2 / mean, 0)).toBeLessThan(21.1)
  })
})
