import type { PlanCost } from './cost.ts'
import { nearestExact } from './sizeBand.ts'
import { costOfSizes, relax, type SizedGroup, type SizeProblem, sizeProblem } from './sizeProblem.ts'
import { type Work, workOf } from './work.ts'

export interface Sizes {
  /** People in each group, in the order of the groups. */
  sizes: number[]
  cost: PlanCost
  /** No sizes cost less; the same as `cost` where these are the best. */
  bound: PlanCost
}

/**
 * The best sizes for a number of people over groups: fewest left, then fewest groups under their floor, then fewest
 * moved, then most even.
 *
 * The costs of sizes are separate but not convex (a group may be empty or reach its floor, not lie between), so this
 * is a multiple-choice knapsack with one equation. Its relaxation (`relax`) gives a bound and an answer; where they
 * do not meet, a dynamic program over the sizes that could still be better decides (`nearestExact`).
 * @param people people to seat besides those who sit there, whether they stay or are loose
 * @param work what may be spent on the proof; null for none, so that `bound` may lie below `cost`
 */
export function bestSizes(
  groups: readonly SizedGroup[],
  people: number,
  work: Work | null = workOf(Number.POSITIVE_INFINITY),
): Sizes {
  const problem = sizeProblem(groups, people)
  const relaxed = relax(problem)
  const { found } = relaxed
  const least = Math.ceil(relaxed.bound - Math.max(1e-6, Math.abs(relaxed.bound) * 1e-15))
  if (work) work.spent += problem.kinds.reduce((sum, { options }) => sum + options.length, groups.length)
  if (found && found.cost <= least) return answer(problem, found.sizes, found.cost, found.cost)
  const exact = work && nearestExact(problem, relaxed, work)
  if (exact) {
    const cost = costOfSizes(problem.kinds, exact)
    return answer(problem, exact, cost, cost)
  }
  if (found) return answer(problem, found.sizes, found.cost, least)
  // Whatever the work that is left: without any answer there is nothing to go on from.
  const sizes = nearestExact(problem, relaxed, workOf(Number.POSITIVE_INFINITY))
  if (!sizes) throw new Error('No sizes add up to the people to seat.')
  const cost = costOfSizes(problem.kinds, sizes)
  return answer(problem, sizes, cost, cost)
}

function answer({ partsOf }: SizeProblem, sizes: number[], cost: number, bound: number): Sizes {
  return { sizes, cost: partsOf(cost), bound: partsOf(bound) }
}

/**
 * The best sizes among those in which at least so many groups have people: what people who all keep apart from each
 * other need. A dynamic program over how many sit in the groups so far, and how many of those have people.
 * @returns null where there are none, or where it would cost more work than is left
 */
export function bestSizesUsing(
  groups: readonly SizedGroup[],
  people: number,
  used: number,
  work: Work,
): Sizes | null {
  const problem = sizeProblem(groups, people)
  const { kinds, wanted } = problem
  const width = wanted + 1
  const states = (used + 1) * width
  const steps = kinds.reduce((sum, { options, members }) => sum + options.length * members.length, 0) * states
  if (work.spent + steps > work.most) return null
  work.spent += steps
  const order = kinds.flatMap(({ options, members }) => members.map((group) => ({ options, group })))
  let costs = new Float64Array(states).fill(Number.POSITIVE_INFINITY)
  costs[0] = 0
  const choices = order.map(({ options }) => {
    const next = new Float64Array(states).fill(Number.POSITIVE_INFINITY)
    const chosen = new Int32Array(states).fill(-1)
    options.forEach(({ size, cost }, option) => {
      for (let n = 0; n <= used; n++) {
        const to = size > 0 ? Math.min(used, n + 1) : n
        for (let sum = 0; sum + size < width; sum++) {
          const total = (costs[n * width + sum] as number) + cost
          const at = to * width + sum + size
          if (total < (next[at] as number)) {
            next[at] = total
            chosen[at] = option * (used + 1) + n
          }
        }
      }
    })
    costs = next
    return chosen
  })
  let at = used * width + wanted
  if (costs[at] === Number.POSITIVE_INFINITY) return null
  const cost = costs[at] as number
  const sizes = new Array<number>(groups.length).fill(0)
  for (let i = order.length - 1; i >= 0; i--) {
    const from = choices[i]?.[at] ?? 0
    const { options, group } = order[i] as (typeof order)[number]
    const size = options[Math.floor(from / (used + 1))]?.size ?? 0
    sizes[group] = size
    at = (from % (used + 1)) * width + (at % width) - size
  }
  return answer(problem, sizes, cost, cost)
}
