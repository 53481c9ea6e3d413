import { expect, it } from 'vitest'
import { drawLots } from '../../src/core/lot.ts'
import { seatByWishes } from '../../src/core/wishes/seat.ts'
import type { WishAim, WishInput } from '../../src/core/wishes/types.ts'
import { solveWishes } from './exactWishes.ts'

const AIMS = ['most-first', 'nobody-far-down', 'least-total'] as const

/** A class of some dozens in which a few topics are wanted by many; sometimes there are fewer seats than people. */
function someClass(seed: number): Omit<WishInput, 'aim'> {
  const lot = drawLots(seed)
  const groups = 4 + lot.below(8)
  const people = 20 + lot.below(50)
  const seats = Math.ceil((people * (0.8 + 0.5 * lot.next())) / groups)
  return {
    wishers: Array.from({ length: people }, (_, i) => {
      const topics = lot.shuffle(Array.from({ length: groups }, (_, g) => g))
      const skewed = topics.sort((a, b) => a * lot.next() - b * lot.next())
      const wanted = skewed.slice(0, 1 + lot.below(Math.min(5, groups)))
      return { key: `p${i}`, section: null, ranks: wanted.map((g) => [`t${g}`]), cannot: [] }
    }),
    groups: Array.from({ length: groups }, (_, g) => ({
      key: `g${g}`,
      topic: `t${g}`,
      section: null,
      seats,
    })),
    offers: 'section',
    lotNumber: seed,
  }
}

/** What counts under an aim: every rank, or only their sum. */
function counts(aim: WishAim, [ranks, none, left]: [number[], number, number]): number[] {
  if (aim !== 'least-total') return [...ranks, none, left]
  return [ranks.reduce((sum, n, i) => sum + n * (i + 1), 0) + none * (ranks.length + 1), left]
}

it.each(AIMS)(
  '%s comes to what an exact solver comes to, in classes of some dozens',
  { timeout: 120_000 },
  async (aim) => {
    for (let seed = 1; seed <= 12; seed++) {
      const input = { ...someClass(seed), aim }
      const { figures } = seatByWishes(input)
      const exact = await solveWishes(input)
      expect(counts(aim, [figures.byRank, figures.none, figures.left]), `seed ${seed}`).toEqual(
        counts(aim, exact),
      )
    }
  },
)
