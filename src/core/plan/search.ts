import { drawStream, type Lot } from '../lot.ts'
import { type Bound, boundOf } from './bounds.ts'
import { better, type PlanCost } from './cost.ts'
import { dive, hardestFirst } from './dive.ts'
import { evaluate, fitsIn, occupancy, type Placement, stepsOf, type Unplaced } from './placing.ts'
import type { Pool } from './prepare.ts'
import { giveBack, isSpent, shareOf, type Work } from './work.ts'

export interface Found {
  placement: Placement
  sizes: number[]
  cost: PlanCost
  /** No plan costs less; the same as `cost` where this one is proven best. */
  bound: PlanCost
  /** The fewest that would be left, were there no keepings. */
  leastLeft: number
}

export interface SearchOptions {
  /** Whether sizes are to be as even as can be. */
  even: boolean
  work: Work
  /** The group that each unit would rather have, by the sizes aimed at. */
  wished?: (sizes: readonly number[]) => readonly (number | null)[]
  /** Called with the first answer and each better one. */
  onBetter?: (found: Found) => void
}

/**
 * Places the units of a pool so that, with everybody else filled in, the outcome is the best there is.
 * First a bound that no plan can beat, and units placed to fit its sizes, which nearly always works and then is
 * proven. Else that answer is made better by moves and swaps (local search with kicks: Lourenço, Martin and Stützle,
 * "Iterated local search", 2003), and what is left of the work goes to branch and bound over the units, with the
 * sizes for the rest as the bound (Land and Doig, "An automatic method of solving discrete programming problems",
 * Econometrica 28, 1960).
 */
export function searchPool(pool: Pool, options: SearchOptions): Found {
  const { even, work, wished, onBetter } = options
  const bound = boundOf(pool, even, work)
  const foundAt = (placement: Placement, by: PlanCost): Found => {
    const { sizes, cost } = evaluate(pool, placement, even, work)
    return { placement, sizes, cost, bound: better(by, cost) ? by : cost, leastLeft: bound.leastLeft }
  }
  if (pool.units.length === 0) {
    const only = foundAt([], bound.cost)
    onBetter?.(only)
    return only
  }
  // What is drawn here guides the search alone: who sits where is drawn afterwards, from the lot number.
  const lot = drawStream(0, 'search')
  const order = hardestFirst(pool)
  let best = foundAt(dive(pool, bound.sizes, order, lot, wished?.(bound.sizes)), bound.cost)
  onBetter?.(best)
  const done = () => !better(bound.cost, best.cost) || isSpent(work)
  const take = (placement: Placement) => {
    const next = foundAt(placement, bound.cost)
    if (!better(next.cost, best.cost)) return
    best = next
    onBetter?.(best)
  }
  for (let i = 0; i < 20 && !done(); i++) {
    const turned = order.length > 1 ? lot.shuffle(order) : order
    take(dive(pool, bound.sizes, i % 2 ? turned : order, lot))
    work.spent += stepsOf(pool) * pool.units.length
  }
  // Small pools are proven soonest by trying everything; of large ones a good answer is wanted first.
  const trial = shareOf(work, 0.02)
  let proven = !done() && branch(pool, even, bound, best, trial, take)
  giveBack(work, trial)
  if (!proven && !done()) {
    const share = shareOf(work, 0.4)
    improve(pool, even, bound, best.placement, share, lot, take)
    giveBack(work, share)
    proven = !done() && branch(pool, even, bound, best, work, take)
  }
  return proven ? { ...best, bound: best.cost } : best
}

/** Makes a placement better by moving units, swapping them, and shaking it up where that leads no further. */
function improve(
  pool: Pool,
  even: boolean,
  bound: Bound,
  from: Placement,
  work: Work,
  lot: Lot,
  take: (placement: Placement) => void,
): void {
  const count = pool.groups.length
  const quick = (placed: Placement) => {
    work.spent += stepsOf(pool)
    return evaluate(pool, placed, even, null).cost
  }
  let best: (number | null)[] = [...from]
  let bestCost = quick(best)
  let now = [...best]
  let nowCost = bestCost
  let stale = 0
  while (!isSpent(work) && better(bound.cost, bestCost)) {
    const next = neighbour(pool, now, lot, count)
    if (next) {
      const cost = quick(next)
      if (!better(nowCost, cost)) {
        stale = better(cost, nowCost) ? 0 : stale + 1
        now = next
        nowCost = cost
      } else stale += 1
      if (better(nowCost, bestCost)) {
        best = [...now]
        bestCost = nowCost
        take(best)
      }
    } else {
      stale += 1
      work.spent += pool.units.length
    }
    if (stale > 40 * pool.units.length) {
      now = shaken(pool, best, lot, count)
      nowCost = quick(now)
      stale = 0
    }
  }
}

/** A placement that differs by one move or one swap; null where what was drawn does not fit. */
function neighbour(
  pool: Pool,
  placed: readonly (number | null)[],
  lot: Lot,
  count: number,
): (number | null)[] | null {
  const i = lot.below(pool.units.length)
  const next = [...placed]
  if (lot.below(2) === 0) {
    const g = lot.below(count)
    next[i] = null
    if (!fitsIn(pool, i, g, next, occupancy(pool, next))) return null
    next[i] = g
    return next
  }
  const j = lot.below(pool.units.length)
  const [a, b] = [placed[i] ?? null, placed[j] ?? null]
  if (a === b) return null
  next[i] = null
  next[j] = null
  if (b !== null) {
    if (!fitsIn(pool, i, b, next, occupancy(pool, next))) return null
    next[i] = b
  }
  if (a !== null) {
    if (!fitsIn(pool, j, a, next, occupancy(pool, next))) return null
    next[j] = a
  }
  return next
}

/** A placement with some of its units put elsewhere, whatever that costs. */
function shaken(pool: Pool, best: readonly (number | null)[], lot: Lot, count: number): (number | null)[] {
  const next = [...best]
  for (let n = 0; n < 3 + pool.units.length / 10; n++) {
    const i = lot.below(pool.units.length)
    next[i] = null
    const g = lot.below(count)
    if (fitsIn(pool, i, g, next, occupancy(pool, next))) next[i] = g
  }
  return next
}

/**
 * Tries all placements that could be better than the best known, the most promising first.
 * @returns true when all were tried, so that the best known is proven
 */
function branch(
  pool: Pool,
  even: boolean,
  bound: Bound,
  known: Found,
  work: Work,
  take: (placement: Placement) => void,
): boolean {
  let bestCost = known.cost
  let sound = true
  const order = hardestFirst(pool)
  const twins = twinsBefore(pool, order)
  const descend = (depth: number, placed: Unplaced[]): boolean => {
    const i = order[depth]
    if (i === undefined) return true
    const children = choicesFor(pool, i, placed, twins.get(i) ?? null).map((group) => {
      const next = [...placed]
      next[i] = group
      work.spent += stepsOf(pool)
      const last = depth === order.length - 1
      const { cost, bound: least } = evaluate(pool, next, even, last ? work : null)
      // Sizes that could not be proven are no proof of the whole.
      if (last && better(least, cost) && better(least, bestCost)) sound = false
      return { next, cost: last ? cost : least }
    })
    children.sort((a, b) => (better(a.cost, b.cost) ? -1 : better(b.cost, a.cost) ? 1 : 0))
    for (const { next, cost } of children) {
      if (!better(cost, bestCost)) break
      if (depth === order.length - 1) {
        bestCost = cost
        take(next.map((group) => group ?? null))
      } else if (isSpent(work) || !descend(depth + 1, next)) return false
      if (!better(bound.cost, bestCost)) return true
    }
    return true
  }
  const tried = descend(
    0,
    pool.units.map((): Unplaced => undefined),
  )
  return tried && sound
}

/** For each unit one placed before it that is in no way different: of two such, the later group is for the later one. */
function twinsBefore(pool: Pool, order: readonly number[]): Map<number, number> {
  const twins = new Map<number, number>()
  const seen = new Map<string, number>()
  for (const i of order) {
    const unit = pool.units[i]
    if (!unit || unit.homes.some((home) => home !== null)) continue
    // Those who keep apart from each other are alike as well, if they keep apart from the same others.
    const around = [...unit.apart, i].sort((a, b) => a - b).join()
    const away = [...unit.apart].sort((a, b) => a - b).join()
    const place = `${unit.people.length} ${unit.only} ${[...unit.never].sort((a, b) => a - b).join()}`
    for (const key of [`${place} in ${around}`, `${place} from ${away}`]) {
      const before = seen.get(key)
      if (before !== undefined) twins.set(i, before)
      seen.set(key, i)
    }
  }
  return twins
}

/** The groups in which a unit may be placed beside those placed already, and leaving it out. Groups that are alike count once. */
function choicesFor(
  pool: Pool,
  i: number,
  placed: readonly Unplaced[],
  twin: number | null,
): (number | null)[] {
  const inside = occupancy(pool, placed)
  const seen = new Set<string>()
  const before = twin === null ? undefined : placed[twin]
  // Where one like it was left out, so is this one.
  if (before === null) return [null]
  const groups = pool.groups.flatMap((group, g) => {
    if (before !== undefined && g < before) return []
    if (!fitsIn(pool, i, g, placed, inside)) return []
    const alike =
      inside.people[g] === 0 && group.fixed.length === 0 && group.loose.length === 0 && !isNamed(pool, g)
    if (alike) {
      const kind = `${group.limit} ${group.floor}`
      if (seen.has(kind)) return []
      seen.add(kind)
    }
    return [g]
  })
  return [...groups, null]
}

function isNamed({ units }: Pool, group: number): boolean {
  return units.some(({ only, homes, never }) => only === group || homes.includes(group) || never.has(group))
}
