import { costOfSizes, type Kind, type Relaxed, type SizeProblem } from './sizeProblem.ts'
import type { Work } from './work.ts'

/** Another size than the relaxation's, that could still be part of an answer as good as the one at hand. */
export interface Stray {
  /** By how many people it differs from the relaxation's size. */
  by: number
  /** What it costs more, or less. */
  more: number
}

/** A group with the sizes that are still to be weighed, the relaxation's own first. */
export interface Weighed {
  group: number
  strays: Stray[]
}

/**
 * Groups with more than one size to be weighed. A size whose cost beyond the relaxation's slope is more than what lies
 * between the bound and the answer at hand is in no better answer (reduced-cost fixing, as in Pisinger, "A minimal
 * algorithm for the multiple-choice knapsack problem", European Journal of Operational Research 83, 1995).
 */
export function weighedIn({ kinds }: SizeProblem, relaxed: Relaxed): { weighed: Weighed[]; gap: number } {
  const { base, slope, bound, found } = relaxed
  const gap = found === null ? Number.POSITIVE_INFINITY : found.cost - bound
  const slack = gap + 0.5 + Math.abs(bound) * 1e-12
  const weighed: Weighed[] = []
  for (const kind of kinds) {
    const known = new Map<number, Stray[]>()
    for (const group of kind.members) {
      const size = base[group] ?? 0
      const strays = known.get(size) ?? straysOf(kind, size, slope, slack)
      known.set(size, strays)
      if (strays.length > 1) weighed.push({ group, strays })
    }
  }
  return { weighed, gap: slack }
}

function straysOf({ options }: Kind, size: number, slope: number, slack: number): Stray[] {
  const own = options.find((option) => option.size === size)?.cost ?? 0
  const strays: Stray[] = [{ by: 0, more: 0 }]
  for (const option of options) {
    const [by, more] = [option.size - size, option.cost - own]
    if (by !== 0 && more - slope * by <= slack) strays.push({ by, more })
  }
  return strays
}

/** How far sums may stray while groups are weighed one after the other: before each, and after the last. */
export function bandsOf(weighed: readonly Weighed[], missing: number): { from: number; to: number }[] {
  const least = weighed.map(({ strays }) => strays.reduce((most, { by }) => Math.min(most, by), 0))
  const most = weighed.map(({ strays }) => strays.reduce((far, { by }) => Math.max(far, by), 0))
  const widest = weighed.reduce((far, _, i) => Math.max(far, (most[i] ?? 0) - (least[i] ?? 0)), 0)
  // In a best answer no set of groups differs from the relaxation by a total of nothing, so that, put in a good order,
  // sums never stray further than this (the argument of Eisenbrand and Weismantel, "Proximity results and faster
  // algorithms for integer programming using the Steinitz lemma", ACM Transactions on Algorithms 16, 2020).
  const reach = widest * widest + widest + Math.abs(missing)
  const bands = Array.from({ length: weighed.length + 1 }, () => ({ from: -reach, to: reach }))
  let [low, high] = [0, 0]
  for (let i = 0; i <= weighed.length; i++) {
    const band = bands[i] as { from: number; to: number }
    band.from = Math.max(band.from, low)
    band.to = Math.min(band.to, high)
    low += least[i] ?? 0
    high += most[i] ?? 0
  }
  ;[low, high] = [missing, missing]
  for (let i = weighed.length; i >= 0; i--) {
    const band = bands[i] as { from: number; to: number }
    band.from = Math.max(band.from, low)
    band.to = Math.min(band.to, high)
    low -= most[i - 1] ?? 0
    high -= least[i - 1] ?? 0
  }
  return bands
}

/**
 * The exact best sizes, by a dynamic program over how far sums stray from the relaxation.
 * @returns null where it would take more work than is left
 */
export function nearestExact(problem: SizeProblem, relaxed: Relaxed, work: Work): number[] | null {
  const { base, missing, slope } = relaxed
  const { weighed, gap } = weighedIn(problem, relaxed)
  const bands = bandsOf(weighed, missing)
  const width = (i: number) => Math.max(0, (bands[i]?.to ?? 0) - (bands[i]?.from ?? 0) + 1)
  const steps = weighed.reduce((sum, { strays }, i) => sum + strays.length * width(i), 0)
  if (work.spent + steps > work.most) return null
  work.spent += steps
  let costs = new Float64Array(width(0)).fill(Number.POSITIVE_INFINITY)
  if (width(0) > 0) costs[-(bands[0]?.from ?? 0)] = 0
  const choices = weighed.map(({ strays }, i) => {
    const [{ from }, next] = [bands[i], bands[i + 1]] as { from: number; to: number }[] as [
      { from: number },
      { from: number; to: number },
    ]
    const after = new Float64Array(width(i + 1)).fill(Number.POSITIVE_INFINITY)
    const chosen = new Int32Array(width(i + 1)).fill(-1)
    for (let at = 0; at < costs.length; at++) {
      const cost = costs[at] as number
      const sum = from + at
      if (cost === Number.POSITIVE_INFINITY || cost - slope * sum > gap) continue
      for (let s = 0; s < strays.length; s++) {
        const { by, more } = strays[s] as Stray
        const to = sum + by - next.from
        if (to < 0 || to >= after.length) continue
        if (cost + more < (after[to] as number)) {
          after[to] = cost + more
          chosen[to] = s
        }
      }
    }
    costs = after
    return chosen
  })
  const last = missing - (bands[weighed.length]?.from ?? 0)
  const end = costs[last]
  const { found } = relaxed
  if (end === undefined || end === Number.POSITIVE_INFINITY) return found?.sizes ?? null
  const sizes = [...base]
  let sum = missing
  for (let i = weighed.length - 1; i >= 0; i--) {
    const { group, strays } = weighed[i] as Weighed
    const stray = strays[choices[i]?.[sum - (bands[i + 1]?.from ?? 0)] ?? 0]
    sizes[group] = (base[group] ?? 0) + (stray?.by ?? 0)
    sum -= stray?.by ?? 0
  }
  if (!found) return sizes
  return costOfSizes(problem.kinds, sizes) < found.cost ? sizes : found.sizes
}
