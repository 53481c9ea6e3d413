import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { findSwaps, type Swap, type Swapper } from '../../src/core/wishes/swaps.ts'

const RUNS = 2_000

/** Up to seven people on up to four groups, each with groups that they would rather have, some as good as others. */
const classes = fc
  .array(
    fc.record({
      seat: fc.nat(3),
      better: fc.array(fc.uniqueArray(fc.nat(3), { minLength: 1, maxLength: 2 }), { maxLength: 3 }),
    }),
    { maxLength: 7 },
  )
  .map((people) =>
    people.map(({ seat, better }, i): Swapper => {
      const own = `g${seat}`
      const seen = new Set([own])
      // What stands below one’s own seat, or twice, is no wish for something better.
      const ranks = better
        .map((tier) => tier.map((g) => `g${g}`).filter((g) => !seen.has(g) && seen.add(g)))
        .filter((tier) => tier.length > 0)
      return { person: `p${i}`, seat: own, better: ranks }
    }),
  )

const seatsAfter = (people: readonly Swapper[], swaps: readonly Swap[]) => {
  const to = new Map(swaps.flat().map((part) => [part.person, part.to]))
  return new Map(people.map(({ person, seat }) => [person, to.get(person) ?? seat]))
}
/** How well somebody likes a group: the less, the better; their own seat is last, and what they never named past it. */
const rankOf = ({ seat, better }: Swapper, group: string | undefined): number => {
  const at = better.findIndex((tier) => tier.includes(group ?? ''))
  if (at >= 0) return at
  return group === seat ? better.length : better.length + 1
}

/** Whether some of these people could share out the seats given so that each of them has a better one than now. */
function someoneBlocks(
  people: readonly Swapper[],
  seatOf: (one: Swapper) => string | undefined,
  has: ReadonlyMap<string, string>,
): boolean {
  for (let set = 1; set < 1 << people.length; set++) {
    const them = people.filter((_, i) => set & (1 << i))
    const seats = them.map(seatOf)
    const place = (i: number, left: readonly (string | undefined)[]): boolean =>
      i === them.length ||
      left.some((seat, s) => {
        const one = them[i] as Swapper
        return rankOf(one, seat) < rankOf(one, has.get(one.person)) && place(i + 1, left.toSpliced(s, 1))
      })
    if (place(0, seats)) return true
  }
  return false
}

describe('swaps', () => {
  it('lead everybody in them to a better seat, each taking the seat of the next, nobody twice', () => {
    fc.assert(
      fc.property(classes, fc.nat(), (people, lot) => {
        const swaps = findSwaps(people, lot)
        const all = swaps.flat()
        expect(new Set(all.map(({ person }) => person)).size).toBe(all.length)
        for (const swap of swaps) {
          expect(swap.length).toBeGreaterThan(1)
          swap.forEach(({ person, from, to }, i) => {
            const who = people.find((one) => one.person === person) as Swapper
            expect(from).toBe(who.seat)
            expect(rankOf(who, to)).toBeLessThan(who.better.length)
            expect(to).toBe(swap[(i + 1) % swap.length]?.from)
          })
        }
      }),
      { numRuns: RUNS },
    )
  })

  it('end in the core: no people could each have done better with the seats they came with', () => {
    fc.assert(
      fc.property(classes, fc.nat(), (people, lot) => {
        const has = seatsAfter(people, findSwaps(people, lot))
        expect(someoneBlocks(people, ({ seat }) => seat, has)).toBe(false)
      }),
      { numRuns: RUNS },
    )
  })

  it('leave no further swap that everybody in it would prefer', () => {
    fc.assert(
      fc.property(classes, fc.nat(), (people, lot) => {
        const has = seatsAfter(people, findSwaps(people, lot))
        expect(someoneBlocks(people, ({ person }) => has.get(person), has)).toBe(false)
      }),
      { numRuns: RUNS },
    )
  })

  it('follow from the lot number and the people, in whatever order those are given', () => {
    fc.assert(
      fc.property(classes, fc.nat(), (people, lot) => {
        expect(findSwaps(people.toReversed(), lot)).toEqual(findSwaps(people, lot))
      }),
      { numRuns: 500 },
    )
  })

  it('offer nobody what they could not have because of who else moves', () => {
    fc.assert(
      fc.property(classes, fc.nat(), fc.nat(6), fc.nat(3), (people, lot, i, g) => {
        const against = (swap: Swap) =>
          swap.find(({ person, to }) => person === `p${i}` && to === `g${g}`)?.person ?? null
        expect(findSwaps(people, lot, against).some((swap) => against(swap) !== null)).toBe(false)
      }),
      { numRuns: 500 },
    )
  })

  it('take the shortest ring, and draw by lot between two who want the same of one seat', () => {
    const people: Swapper[] = [
      { person: 'a', seat: 'Miso', better: [['Kimchi', 'Kefir']] },
      { person: 'b', seat: 'Kimchi', better: [['Tempeh']] },
      { person: 'c', seat: 'Tempeh', better: [['Miso']] },
      { person: 'd', seat: 'Kefir', better: [['Miso']] },
      { person: 'e', seat: 'Kefir', better: [['Miso']] },
    ]
    const taken = new Set<string>()
    for (let lot = 0; lot < 200; lot++) {
      const [swap, ...more] = findSwaps(people, lot)
      expect(swap).toHaveLength(2)
      expect(more).toEqual([])
      taken.add(swap?.find(({ from }) => from === 'Kefir')?.person ?? '')
    }
    expect([...taken].sort()).toEqual(['d', 'e'])
  })

  it('are found for hundreds who all want something', () => {
    const people = Array.from({ length: 600 }, (_, i): Swapper => {
      const topics = [1, 7, 31].map((by) => [`g${(i * by + by) % 160}`]).filter(([g]) => g !== `g${i % 160}`)
      return { person: `p${i}`, seat: `g${i % 160}`, better: topics }
    })
    const swaps = findSwaps(people, 7)
    expect(swaps.flat().length).toBeGreaterThan(100)
  })
})
