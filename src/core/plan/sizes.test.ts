import fc from 'fast-check'
import { expect, it } from 'vitest'
import { drawStream } from '../lot.ts'
import type { PlanCost } from './cost.ts'
import { sizeDraw } from './sizeDraw.ts'
import type { SizedGroup } from './sizeProblem.ts'
import { bestSizes, bestSizesUsing } from './sizes.ts'
import { workOf } from './work.ts'

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

/** What sizes cost, counted anew: who is left, groups under their floor, who is moved, and how uneven they are. */
function costIn(groups: readonly SizedGroup[], total: number, sizes: readonly number[]): number[] {
  const under = sizes.filter((size, g) => size > 0 && size < (groups[g]?.floor ?? 0)).length
  const moved = sizes.reduce(
    (all, size, g) => all + Math.max(0, (groups[g]?.stay ?? 0) + (groups[g]?.loose ?? 0) - size),
    0,
  )
  const uneven = sizes.reduce((all, size) => all + size ** 2, 0)
  return [total - sum(sizes), under, moved, uneven]
}

const inAll = (groups: readonly SizedGroup[], people: number) =>
  groups.reduce((all, { stay, loose }) => all + stay + loose, people)

/** Every way to spread people over groups, tried one by one. */
function byTrying(groups: readonly SizedGroup[], people: number, used = 0): number[] {
  const total = inAll(groups, people)
  let best: { cost: number[] } | null = null
  const go = (i: number, sizes: number[]) => {
    if (sum(sizes) > total) return
    const group = groups[i]
    if (!group) {
      if (sizes.filter((size) => size > 0).length < used) return
      const cost = costIn(groups, total, sizes)
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

const inOrder = ({ left, under, moved, uneven }: PlanCost) => [left, under, moved, uneven]
const sum = (list: readonly number[]) => list.reduce((total, size) => total + size, 0)

it('gives the best sizes that trying all of them finds', () => {
  fc.assert(
    fc.property(fc.array(group, { minLength: 1, maxLength: 4 }), fc.nat(8), (groups, people) => {
      const { sizes, cost } = bestSizes(groups, people)
      expect(inOrder(cost)).toEqual(byTrying(groups, people))
      expect(costIn(groups, inAll(groups, people), sizes)).toEqual(inOrder(cost))
    }),
    { numRuns: 600 },
  )
})

it('gives a bound that no sizes beat when it may spend nothing on a proof, and sizes that add up', () => {
  fc.assert(
    fc.property(fc.array(group, { minLength: 1, maxLength: 4 }), fc.nat(8), (groups, people) => {
      const quick = bestSizes(groups, people, null)
      const best = byTrying(groups, people)
      expect(less(best, inOrder(quick.bound))).toBe(false)
      expect(less(inOrder(quick.cost), best)).toBe(false)
      expect(sum(quick.sizes)).toBe(sum(bestSizes(groups, people).sizes))
    }),
    { numRuns: 600 },
  )
})

it('gives the best sizes that use as many groups as are needed', () => {
  fc.assert(
    fc.property(
      fc.array(group, { minLength: 1, maxLength: 4 }),
      fc.nat(8),
      fc.nat(4),
      (groups, people, used) => {
        const sizes = bestSizesUsing(groups, people, used, workOf(Number.POSITIVE_INFINITY))
        const best = byTrying(groups, people, used)
        const most = byTrying(groups, people)[0] ?? 0
        // It seats as many as there is room for; that this leaves too few groups with people is for others to say.
        if (sizes) {
          expect(inOrder(sizes.cost)).toEqual(best)
          expect(costIn(groups, inAll(groups, people), sizes.sizes)).toEqual(best)
          expect(sizes.sizes.filter((size) => size > 0).length).toBeGreaterThanOrEqual(used)
        } else expect(best.length === 0 || (best[0] ?? 0) > most).toBe(true)
      },
    ),
    { numRuns: 600 },
  )
})

it('draws sizes that are as good as the best, by lot but for evenness', () => {
  fc.assert(
    fc.property(
      fc.array(group, { minLength: 1, maxLength: 5 }),
      fc.nat(12),
      fc.nat(),
      fc.boolean(),
      (groups, people, lot, byLot) => {
        const { sizes, cost } = bestSizes(groups, people)
        const drawn = sizeDraw(groups, people, byLot).draw(drawStream(lot, 'sizes'))
        expect(sum(drawn)).toBe(sum(sizes))
        const under = drawn.filter((size, g) => size > 0 && size < (groups[g]?.floor ?? 0)).length
        const moved = drawn.reduce((all, size, g) => {
          const { stay = 0, loose = 0 } = groups[g] ?? {}
          return all + Math.max(0, stay + loose - size)
        }, 0)
        expect({ under, moved }).toEqual({ under: cost.under, moved: cost.moved })
        if (!byLot) expect(drawn.reduce((all, size) => all + size * size, 0)).toBe(cost.uneven)
        drawn.forEach((size, g) => {
          const { stay = 0, most = 0, loose = 0, mayEmpty } = groups[g] ?? {}
          expect(size >= stay || (mayEmpty && size === 0)).toBe(true)
          expect(size).toBeLessThanOrEqual(Math.max(most, stay + loose))
        })
      },
    ),
    { numRuns: 600 },
  )
})

it('spreads 118 people over 36 groups of four as evenly as can be', () => {
  const groups = Array.from({ length: 36 }, () => ({ stay: 0, loose: 0, most: 4, floor: 2, mayEmpty: false }))
  const { sizes, cost } = bestSizes(groups, 118)
  expect(sizes.filter((size) => size === 4)).toHaveLength(10)
  expect(sizes.filter((size) => size === 3)).toHaveLength(26)
  expect(cost).toMatchObject({ left: 0, under: 0, moved: 0 })
})
