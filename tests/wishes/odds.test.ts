import { expect, it } from 'vitest'
import { oddsOf } from '../../src/core/wishes/odds.ts'
import { askedFor, group } from './asPlan.ts'

/** Three who want the one seat at kimchi, and one who has ranked nothing. */
const INPUT = askedFor(
  ['a', 'b', 'c', 'd'],
  [group('kimchi', 1), group('miso', 2)],
  ['a', 'b', 'c'],
  ['kimchi', 'miso'],
)

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
