import { expect, it } from 'vitest'
import type { PlanInput } from '../../src/core/plan/types.ts'
import { oddsOf } from '../../src/core/wishes/odds.ts'

const INPUT: PlanInput = {
  people: ['a', 'b', 'c', 'd'].map((key) => ({ key, name: key, section: null })),
  groups: [
    { key: 'kimchi', section: null, seats: 1, blocked: 0, floor: 1 },
    { key: 'miso', section: null, seats: 2, blocked: 0, floor: 1 },
  ],
  seats: [],
  heldFor: [],
  offers: 'section',
  keepings: [],
  method: 'wishes',
  byWishes: { aim: 'most-first', order: ['floors', 'moved', 'wishes'] },
  wished: {
    topics: { kimchi: 'kimchi', miso: 'miso' },
    codes: {},
    lists: ['a', 'b', 'c'].map((who) => ({ person: who, ranks: [['kimchi'], ['miso']], cannot: [] })),
  },
  lotNumber: 3,
  floorsFirst: true,
  mayDissolve: false,
  release: 'none',
  pins: [],
}

it('says how often everybody would come to each wish: a third each, and none for who ranked nothing', () => {
  const { draws, of } = oddsOf(INPUT, 3_000)
  expect(draws).toBe(3_000)
  const firsts = ['a', 'b', 'c'].map((who) => of.get(who)?.byRank[0] ?? 0)
  expect(firsts.reduce((sum, n) => sum + n, 0)).toBe(3_000)
  // Chi-square with two degrees of freedom: 1 in 10,000 lies above 18.4.
  expect(firsts.reduce((sum, n) => sum + (n - 1_000) ** 2 / 1_000, 0)).toBeLessThan(18.4)
  expect(of.get('d')).toEqual({ byRank: [0, 0], none: 0, left: 3_000 })
  expect(oddsOf(INPUT, 3_000)).toEqual({ draws, of })
})

it('stops where that is enough, and says how many were drawn', () => {
  expect(oddsOf(INPUT, 3_000, (drawn) => drawn >= 7).draws).toBe(7)
  expect(oddsOf({ ...INPUT, people: [] }, 5).of.size).toBe(0)
})
