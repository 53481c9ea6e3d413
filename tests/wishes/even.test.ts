import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { workOf } from '../../src/core/plan/work.ts'
import { evenedOut } from '../../src/core/wishes/even.ts'
import { openTo } from '../../src/core/wishes/network.ts'
import { brokenBy, compareCosts, costOf } from '../../src/core/wishes/rules.ts'
import { seatByWishes } from '../../src/core/wishes/seat.ts'
import type { WishInput, WishSeat } from '../../src/core/wishes/types.ts'
import { seatWithin } from '../../src/core/wishes/within.ts'
import { withRules } from './classes.ts'

const AIMS = ['most-first', 'nobody-far-down', 'least-total', 'in-turn'] as const

const sizesOf = (seats: readonly WishSeat[]) => {
  const sizes = new Map<string, number>()
  for (const { group } of seats) if (group !== null) sizes.set(group, (sizes.get(group) ?? 0) + 1)
  return sizes
}

describe('evenness', () => {
  it.each(AIMS)(
    '%s: comes last: no wish changes by it, no cost or rule gets worse, and limits hold',
    (aim) => {
      fc.assert(
        fc.property(withRules, ({ input: given, rules }) => {
          const input: WishInput = { ...given, aim }
          const { seats } = seatWithin(input, rules, workOf(50_000_000))
          const staying = new Map([...rules.floors].map(([key, { fixed }]) => [key, fixed]))
          const even = evenedOut(input, rules, seats, staying)
          expect(even.map(({ person, rank }) => ({ person, rank }))).toEqual(
            seats.map(({ person, rank }) => ({ person, rank })),
          )
          // In turn, a group may come to its floor by it.
          expect(compareCosts(costOf(input, rules, even), costOf(input, rules, seats))).toBeLessThanOrEqual(0)
          expect(brokenBy(rules, even).length).toBeLessThanOrEqual(brokenBy(rules, seats).length)
          const sizes = sizesOf(even)
          for (const { key, seats: limit } of input.groups)
            expect(sizes.get(key) ?? 0).toBeLessThanOrEqual(limit)
          for (const { person, group } of even) {
            const wisher = input.wishers.find(({ key }) => key === person)!
            if (group === null || group === wisher.home) continue
            expect(openTo(wisher, input).map((g) => input.groups[g]?.key)).toContain(group)
          }
        }),
        { numRuns: 500 },
      )
    },
  )

  const nobodyWishes = (people: number, seats: number[], lotNumber = 1): WishInput => ({
    aim: 'most-first',
    offers: 'course',
    lotNumber,
    groups: seats.map((n, i) => ({ key: `g${i}`, topic: `t${i}`, section: null, seats: n })),
    wishers: Array.from({ length: people }, (_, i) => ({
      key: `p${i}`,
      section: null,
      ranks: [],
      cannot: [],
    })),
  })
  const none = { together: [], apart: [], floors: new Map() }
  const evenSizes = (input: WishInput, rules = none, staying?: Map<string, number>) => {
    const sizes = sizesOf(evenedOut(input, rules, seatByWishes(input).seats, staying))
    return input.groups.map(({ key }) => sizes.get(key) ?? 0)
  }

  it('spreads those who ranked nothing, with who sits there already, and past no limit', () => {
    expect(evenSizes(nobodyWishes(10, [10, 10, 10])).sort()).toEqual([3, 3, 4])
    expect(evenSizes(nobodyWishes(10, [2, 10, 10]))).toEqual([2, 4, 4])
    expect(evenSizes(nobodyWishes(9, [10, 10, 10]), none, new Map([['g0', 5]])).sort()).toEqual([0, 4, 5])
  })

  it('opens no group that needs more than come, and takes nobody from one that has just enough', () => {
    const floors = new Map([
      ['g0', { floor: 3, fixed: 0 }],
      ['g1', { floor: 9, fixed: 0 }],
    ])
    const input = nobodyWishes(8, [8, 0, 8])
    const seats = input.wishers.map(({ key }) => ({ person: key, group: 'g0', rank: null }))
    const sizes = sizesOf(
      evenedOut(
        { ...input, groups: input.groups.map((g) => ({ ...g, seats: 8 })) },
        { ...none, floors },
        seats,
      ),
    )
    expect(sizes.get('g1')).toBeUndefined()
    expect(sizes.get('g0')).toBe(4)
    expect(sizes.get('g2')).toBe(4)
  })

  it('gives people who are alike the same chances', () => {
    const counts = new Map<string, number>()
    for (let lot = 0; lot < 6_000; lot++) {
      const input = nobodyWishes(3, [3, 3], lot)
      for (const { person, group } of evenedOut(input, none, seatByWishes(input).seats))
        if (group === 'g0') counts.set(person, (counts.get(person) ?? 0) + 1)
    }
    const all = [...counts.values()]
    const mean = all.reduce((sum, n) => sum + n, 0) / 3
    // Chi-square with two degrees of freedom; 18.4 is passed by chance once in ten thousand.
    expect(all.reduce((sum, n) => sum + (n - mean) ** 2 / mean, 0)).toBeLessThan(18.4)
  })

  it('does not bring the same people together again in the next round', () => {
    const input = nobodyWishes(12, [4, 4, 4])
    const { seats } = seatByWishes(input)
    const mates = (round: number) => {
      const even = evenedOut(input, none, seats, undefined, round)
      return even.map(({ group }) =>
        even
          .flatMap((one) => (one.group === group ? [one.person] : []))
          .sort()
          .join(' '),
      )
    }
    expect(mates(1)).not.toEqual(mates(2))
  })
})
