import { drawStream, type Lot } from '../lot.ts'
import { bandsOf, type Stray, type Weighed, weighedIn } from './sizeBand.ts'
import { costOfSizes, relax, type SizedGroup, type SizeProblem, sizeProblem } from './sizeProblem.ts'
import { bestSizes } from './sizes.ts'

/** Draws sizes of a best answer, again and again. */
export interface SizeDraw {
  draw: (lot: Lot) => number[]
  /** True when each way to seat people that is as good as any is exactly as likely as any other. */
  exact: boolean
  /** The largest size that each group may get. */
  most: readonly number[]
  /** Steps that one draw takes, about. */
  steps: number
}

/** States of the table of ways beyond which sizes are drawn by trying instead. */
const MOST_STATES = 6_000_000
const MOST_STEPS = 80_000_000
const MOST_TRIES = 20_000
/** Groups drawn in all tries of one draw. */
const MOST_TRIED = 4_000_000

/**
 * Prepares to draw sizes. Every way to seat the people that is as good as any is as likely as any other, so sizes
 * count by the number of ways they come about. By lot a way says who takes which free seat (a group without a limit
 * has as many as there are people to seat), and evenness counts for nothing; else it says who is in which group.
 *
 * Ways are counted by a dynamic program over the groups and drawn backwards through it. Where its table would be too
 * large, each group's size is drawn alone, weighted so that sums come out right on the average, until a draw adds up
 * and is as good as the best, which leaves the chances as they should be.
 */
export function sizeDraw(groups: readonly SizedGroup[], people: number, byLot: boolean): SizeDraw {
  const best = bestSizes(groups, people)
  const seated = best.sizes.reduce((sum, size) => sum + size, 0)
  const here = groups.reduce((sum, { stay, loose }) => sum + stay + loose, 0)
  const comers = seated - here + best.cost.moved
  if (comers === 0 && best.cost.moved === 0)
    return { draw: () => best.sizes, exact: true, most: best.sizes, steps: 0 }
  const free = groups.map(({ stay, loose, most }) =>
    most === Number.POSITIVE_INFINITY ? comers : Math.max(0, most - stay - loose),
  )
  if (byLot && best.cost.moved === 0 && groups.every((group) => neverUnder(group))) {
    const most = groups.map(({ stay, loose }, i) => stay + loose + (free[i] ?? 0))
    return { draw: (lot) => sizesBySeat(groups, free, comers, lot), exact: true, most, steps: comers }
  }
  const problem = sizeProblem(groups, people, byLot ? comers : undefined)
  const relaxed = { ...relax(problem), found: { sizes: best.sizes, cost: costOfBest(problem, best.sizes) } }
  const weights = weightsFor(groups, free, byLot)
  const { weighed } = weighedIn(problem, relaxed)
  const most = [...relaxed.base]
  for (const { group, strays } of weighed)
    most[group] = (most[group] ?? 0) + strays.reduce((far, { by }) => Math.max(far, by), 0)
  const from = { base: relaxed.base, missing: relaxed.missing, weighed, weights, most }
  const ways = waysIn(from)
  const more = relaxed.found.cost - costOfBest(problem, relaxed.base)
  return byTable(from, ways) ?? byTrying(from, ways, more, best.sizes, problem)
}

/** Whether a group is never too small for want of newcomers: it costs nothing, however many come. */
function neverUnder({ stay, loose, floor, mayEmpty }: SizedGroup): boolean {
  return (floor <= 1 || stay + loose >= floor) && !mayEmpty
}

function costOfBest({ kinds }: SizeProblem, sizes: readonly number[]): number {
  return costOfSizes(kinds, sizes)
}

/** Free seats drawn one by one, every one as likely as any other. */
function sizesBySeat(
  groups: readonly SizedGroup[],
  free: readonly number[],
  comers: number,
  lot: Lot,
): number[] {
  const ends: number[] = []
  let all = 0
  for (const seats of free) {
    all += seats
    ends.push(all)
  }
  // Whichever are fewer are drawn: the seats taken, or those that stay free.
  const taking = comers <= all / 2
  const drawn = new Set<number>()
  while (drawn.size < (taking ? comers : all - comers)) drawn.add(lot.below(all))
  const sizes = groups.map(({ stay, loose }, i) => stay + loose + (taking ? 0 : (free[i] ?? 0)))
  for (const seat of drawn) {
    const group = placeIn(ends, seat)
    sizes[group] = (sizes[group] ?? 0) + (taking ? 1 : -1)
  }
  return sizes
}

/** The logarithm of the number of ways in which a group comes to a size, but for a factor that all groups share. */
type Weights = (group: number, size: number) => number

function weightsFor(groups: readonly SizedGroup[], free: readonly number[], byLot: boolean): Weights {
  const factorials = [0]
  const logOf = (n: number): number => {
    for (let i = factorials.length; i <= n; i++) factorials.push((factorials[i - 1] ?? 0) + Math.log(i))
    return factorials[n] ?? 0
  }
  const choose = (n: number, k: number) =>
    k < 0 || k > n ? Number.NEGATIVE_INFINITY : logOf(n) - logOf(k) - logOf(n - k)
  return (i, size) => {
    const { stay, loose, mayEmpty } = groups[i] as SizedGroup
    const comers = size - stay - loose
    if (mayEmpty && stay > 0 && size === 0) return 0
    if (comers < 0) return choose(loose, -comers)
    return byLot ? choose(free[i] ?? 0, comers) : -logOf(comers)
  }
}

interface From {
  base: readonly number[]
  missing: number
  weighed: readonly Weighed[]
  weights: Weights
  most: readonly number[]
}

/** The logarithms of how many ways each size stands for, beside the relaxation's. */
function logsOf({ base, weights }: From, { group, strays }: Weighed): number[] {
  return strays.map(({ by }) => weights(group, (base[group] ?? 0) + by))
}

/**
 * Ways as numbers, each person more counted by the same factor: that leaves all chances as they are, since as many
 * are seated in every case, and keeps what is likely from vanishing beside sizes that no draw comes to.
 */
function waysOf(logs: readonly number[], strays: readonly Stray[], tilt: number): number[] {
  const tilted = logs.map((log, s) => log + (strays[s]?.by ?? 0) * tilt)
  const most = tilted.reduce((far, log) => Math.max(far, log), Number.NEGATIVE_INFINITY)
  return tilted.map((log) => Math.exp(log - most))
}

/**
 * The ways of each group, counted with the factor with which sums come out right on the average when each group is
 * drawn alone. Groups that are alike share their strays, and are counted once.
 */
function waysIn(from: From): readonly (readonly number[])[] {
  const alike = new Map<readonly Stray[], { logs: number[]; count: number }>()
  for (const one of from.weighed) {
    const known = alike.get(one.strays)
    if (known) known.count += 1
    else alike.set(one.strays, { logs: logsOf(from, one), count: 1 })
  }
  const meanAt = (tilt: number) => {
    let mean = 0
    for (const [strays, { logs, count }] of alike) {
      let [all, sum] = [0, 0]
      waysOf(logs, strays, tilt).forEach((way, s) => {
        all += way
        sum += way * (strays[s]?.by ?? 0)
      })
      mean += (count * sum) / all
    }
    return mean
  }
  let [low, high] = [-40, 40]
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2
    if (meanAt(middle) < from.missing) low = middle
    else high = middle
  }
  const ways = new Map([...alike].map(([strays, { logs }]) => [strays, waysOf(logs, strays, low)]))
  return from.weighed.map(({ strays }) => ways.get(strays) ?? [])
}

/** Least cost and number of ways, for each sum that can be reached so far. */
interface Layer {
  from: number
  costs: Float64Array
  ways: Float64Array
  /** By what the ways were divided. */
  scale: number
}

function byTable(from: From, ways: readonly (readonly number[])[]): SizeDraw | null {
  const { base, missing, weighed } = from
  const bands = bandsOf(weighed, missing)
  const width = (i: number) => Math.max(0, (bands[i]?.to ?? 0) - (bands[i]?.from ?? 0) + 1)
  const states = bands.reduce((sum, _, i) => sum + width(i), 0)
  const steps = weighed.reduce((sum, { strays }, i) => sum + strays.length * width(i), 0)
  if (states > MOST_STATES || steps > MOST_STEPS) return null
  const layers: Layer[] = bands.map((band, i) => ({
    from: band.from,
    costs: new Float64Array(width(i)).fill(Number.POSITIVE_INFINITY),
    ways: new Float64Array(width(i)),
    scale: 1,
  }))
  const [first] = layers
  if (first) {
    first.costs[-first.from] = 0
    first.ways[-first.from] = 1
  }
  weighed.forEach(({ strays }, i) => {
    grow(layers[i] as Layer, layers[i + 1] as Layer, strays, ways[i] ?? [])
  })
  const draw = (lot: Lot): number[] => {
    const sizes = [...base]
    let sum = missing
    for (let i = weighed.length - 1; i >= 0; i--) {
      const { group, strays } = weighed[i] as Weighed
      const [before, after] = [layers[i] as Layer, layers[i + 1] as Layer]
      const cost = after.costs[sum - after.from] as number
      // What stands in the table is the number of ways, divided so that it stays small.
      let at = lot.next() * (after.ways[sum - after.from] as number) * after.scale
      let chosen = 0
      for (let s = 0; s < strays.length; s++) {
        const { by, more } = strays[s] as Stray
        const place = sum - by - before.from
        if ((before.costs[place] ?? Number.POSITIVE_INFINITY) + more !== cost) continue
        const count = (before.ways[place] as number) * (ways[i]?.[s] ?? 0)
        if (count > 0) chosen = s
        if (at < count) break
        at -= count
      }
      const by = strays[chosen]?.by ?? 0
      sizes[group] = (base[group] ?? 0) + by
      sum -= by
    }
    return sizes
  }
  const all = weighed.reduce((sum, { strays }) => sum + strays.length, 0)
  return { draw, exact: true, most: from.most, steps: all / 2 }
}

function grow(before: Layer, after: Layer, strays: readonly Stray[], ways: readonly number[]): void {
  const { costs, ways: counts } = after
  for (let at = 0; at < before.costs.length; at++) {
    const cost = before.costs[at] as number
    if (cost === Number.POSITIVE_INFINITY) continue
    const shift = before.from + at - after.from
    const count = before.ways[at] as number
    for (let s = 0; s < strays.length; s++) {
      const { by, more } = strays[s] as Stray
      const to = shift + by
      if (to < 0 || to >= costs.length) continue
      const total = cost + more
      const known = costs[to] as number
      if (total > known) continue
      const own = count * (ways[s] as number)
      counts[to] = total < known ? own : (counts[to] as number) + own
      costs[to] = total
    }
  }
  // Only the ratios count, so they are kept from growing out of what a number holds.
  const most = counts.reduce((far, count) => Math.max(far, count), 0)
  if (most === 0) return
  after.scale = most
  for (let at = 0; at < counts.length; at++) counts[at] = (counts[at] as number) / most
}

/**
 * Each group drawn alone, until all of them add up. Where that hardly ever happens (sizes that leave no play), the best
 * sizes are given to groups that are alike in drawn order instead.
 */
function byTrying(
  from: From,
  ways: readonly (readonly number[])[],
  more: number,
  best: readonly number[],
  { kinds }: SizeProblem,
): SizeDraw {
  const { base, missing, weighed } = from
  const totals = new Map<readonly number[], number[]>()
  for (const own of ways) {
    let all = 0
    if (totals.has(own)) continue
    totals.set(
      own,
      own.map((way) => {
        all += way
        return all
      }),
    )
  }
  const tables = ways.map((own) => totals.get(own) ?? [])
  const tryOnce = (lot: Lot): number[] | null => {
    const sizes = [...base]
    let [sum, cost] = [0, 0]
    weighed.forEach(({ group, strays }, i) => {
      const table = tables[i] as number[]
      const stray = strays[placeIn(table, lot.next() * (table.at(-1) ?? 0))]
      sum += stray?.by ?? 0
      cost += stray?.more ?? 0
      sizes[group] = (base[group] ?? 0) + (stray?.by ?? 0)
    })
    return sum === missing && cost === more ? sizes : null
  }
  const tries = Math.max(50, Math.min(MOST_TRIES, Math.floor(MOST_TRIED / (weighed.length + 1))))
  const drawn = (lot: Lot): number[] | null => {
    for (let i = 0; i < tries; i++) {
      const sizes = tryOnce(lot)
      if (sizes) return sizes
    }
    return null
  }
  const exact = drawn(drawStream(0, 'is there play')) !== null
  const draw = (lot: Lot): number[] => {
    const found = exact ? drawn(lot) : null
    if (found) return found
    const sizes = [...best]
    for (const { members } of kinds) {
      const own = lot.shuffle(members.map((group) => sizes[group] ?? 0))
      members.forEach((group, i) => {
        sizes[group] = own[i] ?? 0
      })
    }
    return sizes
  }
  return { draw, exact, most: from.most, steps: (exact ? 200 : 1) * weighed.length }
}

/** The first index whose running total lies above a number. */
function placeIn(totals: readonly number[], at: number): number {
  let [low, high] = [0, totals.length - 1]
  while (low < high) {
    const middle = (low + high) >> 1
    if ((totals[middle] ?? 0) > at) high = middle
    else low = middle + 1
  }
  return low
}
