import fc from 'fast-check'
import { expect, it } from 'vitest'
import { drawLots } from '../lot.ts'
import { bestSizes, drawnSizes, type SizeCost, type SizedGroup } from './sizes.ts'

const group: fc.Arbitrary<SizedGroup> = fc
  .record({
    stay: fc.nat(3),
    loose: fc.nat(2),
    spare: fc.nat(4),
    endless: fc.oneof({ weight: 4, arbitrary: fc.constant(false) }, fc.constant(true)),
    floor: fc.integer({ min: 1, max: 5 }),
    mayEmpty: fc.boolean(),
  })
  .map(({ spare, endless, ...rest }) => ({
    ...rest,
    most: endless ? Number.POSITIVE_INFINITY : rest.stay + spare,
  }))

/** Every way to spread people over groups, tried one by one. */
function byTrying(groups: readonly SizedGroup[], people: number): number[] {
  const total = groups.reduce((sum, { stay, loose }) => sum + stay + loose, people)
  const mean = (seated: number) => Math.round(seated / groups.length)
  let best: { cost: number[] } | null = null
  const go = (i: number, sizes: number[]) => {
    const seated = sizes.reduce((sum, size) => sum + size, 0)
    if (seated > total) return
    const group = groups[i]
    if (!group) {
      const under = sizes.filter((size, g) => size > 0 && size < (groups[g]?.floor ?? 0)).length
      const moved = sizes.reduce(
        (sum, size, g) => sum + Math.max(0, (groups[g]?.stay ?? 0) + (groups[g]?.loose ?? 0) - size),
        0,
      )
      const uneven = sizes.reduce((sum, size) => sum + (size - mean(seated)) ** 2, 0)
      const cost = [total - seated, under, moved, uneven]
      if (!best || less(cost, best.cost)) best = { cost }
      return
    }
    if (group.mayEmpty && group.stay > 0) go(i + 1, [...sizes, 0])
    for (let size = group.stay; size <= Math.min(group.most, total); size++) go(i + 1, [...sizes, size])
  }
  go(0, [])
  return (best as { cost: number[] } | null)?.cost ?? []
}

function less(a: readonly number[], b: readonly number[]): boolean {
  const at = a.findIndex((value, i) => value !== b[i])
  return at >= 0 && (a[at] ?? 0) < (b[at] ?? 0)
}

const inOrder = ({ left, under, moved, uneven }: SizeCost) => [left, under, moved, uneven]

it('gives the best sizes that trying all of them finds', () => {
  fc.assert(
    fc.property(fc.array(group, { minLength: 1, maxLength: 4 }), fc.nat(8), (groups, people) => {
      expect(inOrder(bestSizes(groups, people).cost)).toEqual(byTrying(groups, people))
    }),
    { numRuns: 400 },
  )
})

it('draws sizes that seat as many, leave no more under their floor and move no more', () => {
  fc.assert(
    fc.property(
      fc.array(group, { minLength: 1, maxLength: 6 }),
      fc.nat(20),
      fc.nat(),
      (groups, people, lot) => {
        const { sizes, cost } = bestSizes(groups, people, false)
        const drawn = drawnSizes(groups, sizes, drawLots(lot))
        const sum = (list: readonly number[]) => list.reduce((total, size) => total + size, 0)
        expect(sum(drawn)).toBe(sum(sizes))
        const under = drawn.filter((size, g) => size > 0 && size < (groups[g]?.floor ?? 0)).length
        expect(under).toBeLessThanOrEqual(cost.under)
        drawn.forEach((size, g) => {
          const { stay = 0, most = 0 } = groups[g] ?? {}
          expect(size === 0 || size >= stay).toBe(true)
          expect(size).toBeLessThanOrEqual(most)
        })
      },
    ),
  )
})

it('spreads 118 people over 36 groups of four as evenly as can be', () => {
  const groups = Array.from({ length: 36 }, () => ({ stay: 0, loose: 0, most: 4, floor: 2, mayEmpty: false }))
  const { sizes, cost } = bestSizes(groups, 118)
  expect(sizes.filter((size) => size === 4)).toHaveLength(10)
  expect(sizes.filter((size) => size === 3)).toHaveLength(26)
  expect(cost).toMatchObject({ left: 0, under: 0, moved: 0 })
})
