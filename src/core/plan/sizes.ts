import type { Lot } from '../lot.ts'

/** A group as its size is planned. People are counted, not named: within a pool anybody may sit anywhere. */
export interface SizedGroup {
  /** People who sit there and stay. */
  stay: number
  /** People who sit there and may be moved; each who does not stay counts as moved. */
  loose: number
  /** Most people, never fewer than `stay`; Infinity where there is no limit. */
  most: number
  /** Fewer people than this, unless nobody at all, are too few to work. */
  floor: number
  /** Whether those who stay may be moved all together, so that nobody is left there. */
  mayEmpty: boolean
}

/** What is wanted of sizes, the first before the second and so on; less of each is better. */
export interface SizeCost {
  /** People without a seat. */
  left: number
  /** Groups with people, but fewer than their floor. */
  under: number
  /** People who lose the seat they have. */
  moved: number
  /** Sum over the groups of the squared distance from the mean size, rounded: how uneven they are. */
  uneven: number
}

export interface Sizes {
  /** People in each group, in the order of the groups. */
  sizes: number[]
  cost: SizeCost
}

/** A size that a group may have, with what it costs. */
interface Option {
  size: number
  cost: number
}

/**
 * The best sizes for a number of people over groups: fewest left, then fewest groups under their floor, then fewest
 * moved, then most even.
 *
 * The costs of sizes are separate but not convex (a group may be empty or reach its floor, not lie between), so this
 * is a multiple-choice knapsack with one equation. Its relaxation is solved on the lower convex hulls of the options
 * by taking the flattest steps first (Sinha and Zoltners, "The multiple-choice knapsack problem", Operations Research
 * 27, 1979). The exact answer then lies near it: in a best answer no set of groups differs from the relaxation by a
 * total of nothing, so fewer than 2D groups differ by at most D each, D being the widest range of one group (the
 * argument of Eisenbrand and Weismantel, "Proximity results and faster algorithms for integer programming using the
 * Steinitz lemma", ACM Transactions on Algorithms 16, 2020). A dynamic program over that narrow band is exact, in
 * time linear in the number of groups.
 * @param people people to seat besides those who sit there, whether they stay or are loose
 * @param even false when it does not matter how even the sizes are
 */
export function bestSizes(groups: readonly SizedGroup[], people: number, even = true): Sizes {
  const seated = groups.reduce((sum, { stay, loose }) => sum + stay + loose, 0)
  const capped = withLimits(groups, seated + people)
  const room = capped.reduce((sum, { most }) => sum + most, 0)
  const wanted = Math.min(seated + people, room)
  const left = seated + people - wanted
  const mean = groups.length > 0 ? Math.round(wanted / groups.length) : 0
  const unevenness = (size: number) => (even ? (size - mean) ** 2 : 0)
  const weights = weightsFor(capped, unevenness)
  const options = capped.map((group) => optionsOf(group, unevenness, weights))
  const sizes = nearestExact(options, wanted)
  return { sizes, cost: costOf(capped, sizes, left, unevenness) }
}

/** A cost as one number for each of its parts' weights. */
interface Weights {
  under: number
  moved: number
}

const CAREFUL_SUM = Number.MAX_SAFE_INTEGER

function weightsFor(groups: readonly SizedGroup[], unevenness: (size: number) => number): Weights {
  const widest = groups.reduce((sum, { stay, most, mayEmpty }) => {
    return sum + Math.max(unevenness(most), unevenness(mayEmpty ? 0 : stay))
  }, 0)
  const movable = groups.reduce((sum, { stay, loose }) => sum + stay + loose, 0)
  const moved = widest + 1
  const under = moved * (movable + 1)
  if (under * (groups.length + 1) > CAREFUL_SUM)
    throw new RangeError('Too many people and groups to plan for.')
  return { moved, under }
}

/**
 * Gives groups without a limit one that no best answer passes: among them sizes differ by one at most once all are
 * used, and while one is not used, none holds as many as two floors would need.
 */
function withLimits(groups: readonly SizedGroup[], total: number): SizedGroup[] {
  const endless = groups.filter(({ most }) => most === Number.POSITIVE_INFINITY)
  const floors = Math.max(1, ...endless.map(({ floor }) => floor))
  const share = Math.ceil(total / Math.max(1, endless.length)) + 1
  const enough = Math.min(total, Math.max(2 * floors, share))
  return groups.map((group) => {
    const { stay, loose, most } = group
    if (most < Number.POSITIVE_INFINITY)
      return { ...group, most: Math.max(stay, Math.min(most, Math.max(total, stay))) }
    return { ...group, most: Math.max(stay + loose, enough) }
  })
}

function isUnder({ floor }: SizedGroup, size: number): boolean {
  return size > 0 && size < floor
}

function movedAt({ stay, loose }: SizedGroup, size: number): number {
  return Math.max(0, stay + loose - size)
}

function optionsOf(
  group: SizedGroup,
  unevenness: (size: number) => number,
  { under, moved }: Weights,
): Option[] {
  const options: Option[] = []
  const add = (size: number) => {
    const cost = (isUnder(group, size) ? under : 0) + movedAt(group, size) * moved + unevenness(size)
    options.push({ size, cost })
  }
  if (group.mayEmpty && group.stay > 0) add(0)
  for (let size = group.stay; size <= group.most; size++) add(size)
  return options
}

function costOf(
  groups: readonly SizedGroup[],
  sizes: readonly number[],
  left: number,
  unevenness: (size: number) => number,
): SizeCost {
  let under = 0
  let moved = 0
  let uneven = 0
  groups.forEach((group, i) => {
    const size = sizes[i] ?? 0
    if (isUnder(group, size)) under += 1
    moved += movedAt(group, size)
    uneven += unevenness(size)
  })
  return { left, under, moved, uneven }
}

/** The corners of the lower convex hull of a group's options, smallest size first. */
function hullOf(options: readonly Option[]): Option[] {
  const hull: Option[] = []
  for (const option of options) {
    while (hull.length >= 2 && slope(hull.at(-2), option) <= slope(hull.at(-2), hull.at(-1))) hull.pop()
    hull.push(option)
  }
  return hull
}

function slope(from: Option | undefined, to: Option | undefined): number {
  return from && to ? (to.cost - from.cost) / (to.size - from.size) : 0
}

/** The relaxation: sizes on the corners of the hulls, as near to the total from below as whole steps come. */
function relaxedSizes(
  options: readonly (readonly Option[])[],
  wanted: number,
): { sizes: number[]; missing: number } {
  const steps: { group: number; width: number; slope: number }[] = []
  const sizes = options.map((own, group) => {
    const hull = hullOf(own)
    for (let i = 1; i < hull.length; i++) {
      const width = (hull[i]?.size ?? 0) - (hull[i - 1]?.size ?? 0)
      steps.push({ group, width, slope: slope(hull[i - 1], hull[i]) })
    }
    return hull[0]?.size ?? 0
  })
  // Within a group slopes rise, so sorting all of them keeps each group's own order.
  steps.sort((a, b) => a.slope - b.slope || a.group - b.group)
  let missing = wanted - sizes.reduce((sum, size) => sum + size, 0)
  for (const { group, width } of steps) {
    if (missing <= 0) break
    if (width > missing) break
    sizes[group] = (sizes[group] ?? 0) + width
    missing -= width
  }
  return { sizes, missing }
}

/** The exact best, by a dynamic program over how far the sizes so far stray from the relaxation. */
function nearestExact(options: readonly (readonly Option[])[], wanted: number): number[] {
  const { sizes: base, missing } = relaxedSizes(options, wanted)
  // A relaxation that comes out whole is the answer.
  if (missing === 0) return base
  const ranges = options.map((own) => (own.at(-1)?.size ?? 0) - (own[0]?.size ?? 0))
  const widest = ranges.reduce((most, range) => Math.max(most, range), 0)
  const all = ranges.reduce((sum, range) => sum + range, 0)
  const reach = Math.min(widest * widest + widest, all)
  const width = 2 * reach + 1
  let costs = new Float64Array(width).fill(Number.POSITIVE_INFINITY)
  costs[reach] = 0
  const choices = options.map((own, group) => {
    const next = new Float64Array(width).fill(Number.POSITIVE_INFINITY)
    const chosen = new Int32Array(width).fill(-1)
    // The size that the relaxation chose comes first, so that where two are as good, it is kept.
    const tried = own.map((_, i) => i)
    const home = own.findIndex(({ size }) => size === base[group])
    if (home > 0) tried.unshift(...tried.splice(home, 1))
    for (const i of tried) {
      const { size, cost } = own[i] as Option
      const shift = size - (base[group] ?? 0)
      const from = Math.max(0, -shift)
      const to = Math.min(width, width - shift)
      for (let at = from; at < to; at++) {
        const total = (costs[at] as number) + cost
        if (total < (next[at + shift] as number)) {
          next[at + shift] = total
          chosen[at + shift] = i
        }
      }
    }
    costs = next
    return chosen
  })
  const sizes = [...base]
  let at = reach + missing
  for (let group = options.length - 1; group >= 0; group--) {
    const option = options[group]?.[choices[group]?.[at] ?? -1]
    if (!option) throw new Error('No sizes add up to the people to seat.')
    sizes[group] = option.size
    at -= option.size - (base[group] ?? 0)
  }
  return sizes
}

/**
 * Sizes as a lot gives them: the groups that have people in a best answer keep as many as that answer needs of them,
 * and each seat beyond is drawn, every free one as likely as any other.
 * @param best sizes of a best answer, which says how many are seated, which groups work and who is moved
 */
export function drawnSizes(groups: readonly SizedGroup[], best: readonly number[], lot: Lot): number[] {
  const total = best.reduce((sum, size) => sum + size, 0)
  const ranges = withLimits(groups, total).map((group, i) => {
    const { stay, loose, floor, most } = group
    const size = best[i] ?? 0
    const here = stay + loose
    // Who is moved is settled: a group that loses people keeps its size, one that keeps all has them at least.
    if (size === 0 || size < here) return { least: size, most: size }
    return size < floor
      ? { least: here, most: Math.min(most, floor - 1) }
      : { least: Math.max(here, floor), most }
  })
  const sizes = ranges.map(({ least }) => least)
  const free = ranges.flatMap(({ least, most }, i) => Array.from({ length: most - least }, () => i))
  const missing = total - sizes.reduce((sum, size) => sum + size, 0)
  for (const i of lot.shuffle(free).slice(0, missing)) sizes[i] = (sizes[i] ?? 0) + 1
  return sizes
}
