import type { PlanCost } from './cost.ts'

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

/** A size that a group may have, with what it costs as one number. */
export interface Option {
  size: number
  cost: number
}

/** Groups that are alike, by their indices, with the sizes they may have. */
export interface Kind extends Shape {
  members: number[]
}

/** The sizes that a group may have, and the corners of their lower convex hull, smallest size first. */
interface Shape {
  options: readonly Option[]
  hull: readonly Option[]
}

/** Shapes seen lately, for the weights that were asked for last: a search asks for the same ones again and again. */
const seen = { weights: '', shapes: new Map<number | string, Shape>() }
const MOST_SHAPES = 20_000

function shapesFor(perMoved: number, perUnder: number, even: boolean) {
  const weights = `${perMoved} ${perUnder} ${even}`
  if (seen.weights !== weights || seen.shapes.size >= MOST_SHAPES) {
    seen.weights = weights
    seen.shapes = new Map()
  }
  return (key: number | string, make: () => Option[]): Shape => {
    const known = seen.shapes.get(key)
    if (known) return known
    const options = make()
    const shape = { options, hull: hullOf(options) }
    seen.shapes.set(key, shape)
    return shape
  }
}

/** Groups with the same key are alike. A number where the parts are small enough, which is far quicker. */
function keyOf(stay: number, loose: number, most: number, floor: number, mayEmpty: boolean): number | string {
  if (stay < 4_096 && loose < 4_096 && most < 8_192 && floor < 4_096)
    return (((stay * 4_096 + loose) * 8_192 + most) * 4_096 + floor) * 2 + (mayEmpty ? 1 : 0)
  return `${stay} ${loose} ${most} ${floor} ${mayEmpty}`
}

/** Sizes to be found: one for each group, that add up to `wanted`. */
export interface SizeProblem {
  kinds: Kind[]
  count: number
  wanted: number
  /** People for whom no group has room. */
  left: number
  /** A cost as one number, taken apart. */
  partsOf: (cost: number) => PlanCost
}

/**
 * What is to be found, with costs as whole numbers in which a group under its floor outweighs any number of people
 * moved, and one of those any unevenness.
 * @param people people to seat besides those who sit there, whether they stay or are loose
 * @param seats how many seats for newcomers a group without a limit counts as having; when it is given, evenness
 *   counts for nothing and every size is an option. Else sizes that no best answer has are left out.
 * @throws RangeError when there are too many people and groups to count with
 */
export function sizeProblem(groups: readonly SizedGroup[], people: number, seats?: number): SizeProblem {
  const even = seats === undefined
  const total = groups.reduce((sum, { stay, loose }) => sum + stay + loose, people)
  const room = groups.reduce((sum, { most }) => sum + most, 0)
  const wanted = Math.min(total, room)
  const level = even ? levelFor(groups, wanted) : 0
  const floors = groups.reduce((most, { floor }) => Math.max(most, floor), 1)
  const largest = groups.map(({ stay, loose, most, floor }) => {
    const here = stay + loose
    const cap = even ? Math.max(level + 1, Math.max(here, floor) + floors) : here + seats
    return Math.max(stay, Math.min(most, cap, Math.max(stay, wanted)))
  })
  const { perMoved, perUnder } = weightsFor(groups, total, largest, even)
  const shapes = shapesFor(perMoved, perUnder, even)
  const kinds = new Map<number | string, Kind>()
  for (let i = 0; i < groups.length; i++) {
    const group = groups[i] as SizedGroup
    const { stay, loose, floor, mayEmpty } = group
    const most = largest[i] ?? 0
    const key = keyOf(stay, loose, most, floor, mayEmpty)
    const known = kinds.get(key)
    if (known) {
      known.members.push(i)
      continue
    }
    const { options, hull } = shapes(key, () => {
      const made: Option[] = []
      const add = (size: number) => {
        const under = size > 0 && size < floor ? perUnder : 0
        const moved = Math.max(0, stay + loose - size) * perMoved
        made.push({ size, cost: under + moved + (even ? size * size : 0) })
      }
      if (mayEmpty && stay > 0) add(0)
      for (let size = stay; size <= most; size++) add(size)
      return made
    })
    kinds.set(key, { options, hull, members: [i] })
  }
  const left = total - wanted
  const partsOf = (cost: number): PlanCost => ({
    left,
    under: Math.floor(cost / perUnder),
    moved: Math.floor((cost % perUnder) / perMoved),
    uneven: cost % perMoved,
  })
  return { kinds: [...kinds.values()], count: groups.length, wanted, left, partsOf }
}

/** What one person moved, and one group under its floor, count beside unevenness. */
function weightsFor(
  groups: readonly SizedGroup[],
  total: number,
  largest: readonly number[],
  even: boolean,
): { perMoved: number; perUnder: number } {
  const weights = (squares: number, movable: number) => {
    const perMoved = (even ? squares : 0) + 1
    return { perMoved, perUnder: perMoved * (movable + 1) }
  }
  const fits = ({ perUnder }: { perUnder: number }) =>
    perUnder * (groups.length + 1) <= Number.MAX_SAFE_INTEGER
  // Where it can be, the same for the same number of people, so that shapes are found again.
  const simple = weights(total * total, total)
  if (fits(simple)) return simple
  const squares = largest.reduce((sum, size) => sum + size * size, 0)
  const movable = groups.reduce((sum, { stay, loose, mayEmpty }) => sum + loose + (mayEmpty ? stay : 0), 0)
  const close = weights(squares, movable)
  if (!fits(close)) throw new RangeError('Too many people and groups to plan for.')
  return close
}

/**
 * The size that no group needs to pass so that all are seated, floors left aside: as water stands in basins. Groups
 * that cannot reach their floor count only where the others do not suffice, and then nothing is left out.
 */
function levelFor(groups: readonly SizedGroup[], wanted: number): number {
  const usable = groups.filter(({ most, floor }) => most >= floor)
  const held = (level: number) => usable.reduce((sum, { most }) => sum + Math.min(most, level), 0)
  if (held(wanted) < wanted) return wanted
  let [low, high] = [0, wanted]
  while (low < high) {
    const middle = Math.floor((low + high) / 2)
    if (held(middle) >= wanted) high = middle
    else low = middle + 1
  }
  return low
}

/** Sizes that nearly add up, with a proof of how good any can be. */
export interface Relaxed {
  /** A size for each group; together they are `missing` short of what is wanted. */
  base: number[]
  missing: number
  /** What one person more costs there. */
  slope: number
  /** No sizes that add up cost less; not rounded. */
  bound: number
  /** Sizes that add up, good but perhaps not best; null where none were found. */
  found: { sizes: number[]; cost: number } | null
}

interface Step {
  kind: number
  edge: number
  width: number
  slope: number
}

/**
 * The relaxation: on the lower convex hulls of the options the flattest steps are taken first, which is best, until
 * one does not fit whole (Sinha and Zoltners, "The multiple-choice knapsack problem", Operations Research 27, 1979).
 * What is missing then is made up from the steps after it as far as they fit.
 */
export function relax({ kinds, count, wanted }: SizeProblem): Relaxed {
  const steps: Step[] = []
  const hulls = kinds.map(({ hull }, kind) => {
    for (let edge = 1; edge < hull.length; edge++) {
      const [from, to] = [hull[edge - 1] as Option, hull[edge] as Option]
      const width = to.size - from.size
      steps.push({ kind, edge, width, slope: (to.cost - from.cost) / width })
    }
    return hull
  })
  const firsts = kinds.map(({ members }) => members[0] ?? 0)
  // Within a kind slopes rise, so sorting all of them keeps each kind's own order.
  steps.sort((a, b) => a.slope - b.slope || (firsts[a.kind] ?? 0) - (firsts[b.kind] ?? 0) || a.edge - b.edge)
  /** How many groups of a kind have taken each step. */
  const taken = hulls.map((hull) => new Array<number>(hull.length).fill(0))
  kinds.forEach(({ members }, kind) => {
    if (taken[kind]) taken[kind][0] = members.length
  })
  let cost = 0
  let missing = wanted
  hulls.forEach((hull, kind) => {
    const groups = kinds[kind]?.members.length ?? 0
    cost += (hull[0]?.cost ?? 0) * groups
    missing -= (hull[0]?.size ?? 0) * groups
  })
  let at = 0
  let slope = 0
  const take = ({ kind, edge, width, slope: rise }: Step): boolean => {
    const own = taken[kind] as number[]
    const ready = (own[edge - 1] ?? 0) - (own[edge] ?? 0)
    const n = Math.min(ready, Math.floor(missing / width))
    own[edge] = (own[edge] ?? 0) + n
    missing -= n * width
    cost += n * Math.round(rise * width)
    return n === ready
  }
  for (; at < steps.length && missing > 0; at++) {
    const step = steps[at] as Step
    slope = step.slope
    if (!take(step)) break
  }
  const sizesNow = () => {
    const sizes = new Array<number>(count).fill(0)
    kinds.forEach(({ members }, kind) => {
      const hull = hulls[kind] as readonly Option[]
      const own = taken[kind] as number[]
      members.forEach((group, rank) => {
        let edge = 0
        while (edge + 1 < hull.length && (own[edge + 1] ?? 0) > rank) edge += 1
        sizes[group] = hull[edge]?.size ?? 0
      })
    })
    return sizes
  }
  const base = sizesNow()
  const short = missing
  const bound = cost + slope * missing
  for (at += 1; at < steps.length && missing > 0; at++) take(steps[at] as Step)
  const sizes = sizesNow()
  const made = missing === 0 ? cost : makeUp(kinds, sizes, missing)
  return { base, missing: short, slope, bound, found: made === null ? null : { sizes, cost: made } }
}

/** Seats those who are missing, as cheaply as changing one group after the other comes. Changes the sizes; gives the cost. */
function makeUp(kinds: readonly Kind[], sizes: number[], missing: number): number | null {
  let open = missing
  while (open > 0) {
    let best: { group: number; size: number; rise: number } | null = null
    for (const { options, members } of kinds) {
      const seen = new Set<number>()
      for (const group of members) {
        const now = sizes[group] ?? 0
        if (seen.has(now)) continue
        seen.add(now)
        const cost = options.find(({ size }) => size === now)?.cost ?? 0
        for (const option of options) {
          const more = option.size - now
          if (more <= 0 || more > open) continue
          const rise = (option.cost - cost) / more
          if (
            best === null ||
            rise < best.rise ||
            (rise === best.rise && more > best.size - (sizes[best.group] ?? 0))
          )
            best = { group, size: option.size, rise }
        }
      }
    }
    if (best === null) return null
    open -= best.size - (sizes[best.group] ?? 0)
    sizes[best.group] = best.size
  }
  return costOfSizes(kinds, sizes)
}

export function costOfSizes(kinds: readonly Kind[], sizes: readonly number[]): number {
  let cost = 0
  for (const { options, members } of kinds) {
    const first = options[0]?.size ?? 0
    const second = options[1]?.size ?? 0
    for (const group of members) {
      const size = sizes[group] ?? 0
      // Sizes follow each other, but for the first where a group may be emptied.
      const at = size === first ? 0 : size - second + 1
      cost += options[at]?.cost ?? 0
    }
  }
  return cost
}

/** The corners of the lower convex hull of a group's options, smallest size first. */
function hullOf(options: readonly Option[]): Option[] {
  const hull: Option[] = []
  for (const option of options) {
    while (hull.length >= 2 && rise(hull.at(-2), option) <= rise(hull.at(-2), hull.at(-1))) hull.pop()
    hull.push(option)
  }
  return hull
}

function rise(from: Option | undefined, to: Option | undefined): number {
  return from && to ? (to.cost - from.cost) / (to.size - from.size) : 0
}
