import { better, type PlanCost } from './cost.ts'
import { comersIn, evaluate, fitsIn, groupsWith, occupancy, peopleToSeat } from './placing.ts'
import type { Pool } from './prepare.ts'
import { bestSizes, bestSizesUsing, type Sizes } from './sizes.ts'
import type { Work } from './work.ts'

/** What no plan of a pool can beat, with sizes that a plan as good as that would have. */
export interface Bound extends Pick<Sizes, 'sizes'> {
  cost: PlanCost
  /** The fewest that would be left, were there no keepings. */
  leastLeft: number
  /** True when keepings cost nothing, as far as this bound tells. */
  free: boolean
}

/**
 * A bound from three things that keepings force. People who all keep apart need a group each (a colouring needs as
 * many colours as its largest clique has members), so whoever finds no group of their own is left: a matching tells
 * how many (Kuhn, "The Hungarian method for the assignment problem", Naval Research Logistics Quarterly 2, 1955;
 * greedy by weight, since what can be matched is a matroid). At least as many groups have people as are seated of
 * them. And those who sit together today and keep apart cannot all stay, nor those who keep together and sit apart.
 */
export function boundOf(pool: Pool, even: boolean, work: Work): Bound {
  const nobody = pool.units.map(() => undefined)
  const free = evaluate(pool, nobody, even, work)
  const freely = { sizes: free.sizes, cost: free.bound, leastLeft: free.bound.left, free: true }
  const away = sentAway(pool)
  const moved = away.groups.reduce((sum, own) => sum + own, 0) + away.more
  const forced = leftByKeeping(pool)
  const left = Math.max(free.bound.left, forced)
  const used = pool.cliques.reduce((most, clique) => Math.max(most, clique.length - left), 0)
  const enough = free.sizes.filter((size) => size > 0).length >= used
  if (left === free.bound.left && enough && moved === 0) return freely
  const groups = groupsWith(pool, nobody).map((group, g) => {
    const loose = group.loose - (away.groups[g] ?? 0) - (away.spread[g] ?? 0)
    const { limit = 0 } = pool.groups[g] ?? {}
    return { ...group, loose, most: Math.max(limit, group.stay + loose) }
  })
  const others = groups.reduce((sum, { loose }, g) => sum + (pool.groups[g]?.loose.length ?? 0) - loose, 0)
  const people = peopleToSeat(pool, nobody) + others - (left - free.bound.left)
  // Where those who are left have seats today, sizes say nothing.
  if (people < 0) return { ...freely, cost: { ...free.bound, left, uneven: 0, under: 0 }, free: false }
  const sized =
    (enough ? null : bestSizesUsing(groups, people, used, work)) ?? bestSizes(groups, people, work)
  const cost = {
    left: Math.max(left, sized.bound.left),
    under: sized.bound.under,
    moved: sized.bound.moved + moved,
    uneven: even ? sized.bound.uneven : 0,
  }
  return {
    sizes: sized.sizes,
    cost: better(cost, free.bound) ? free.bound : cost,
    leastLeft: free.bound.left,
    free: false,
  }
}

/**
 * How many people of each group cannot all stay in it, whatever is done. Of units whose people sit in more than one
 * group it is not known who moves: they are taken out of their groups (`spread`), and as few as must are counted
 * (`more`).
 */
function sentAway(pool: Pool): { groups: number[]; spread: number[]; more: number } {
  const groups = pool.groups.map(() => 0)
  const spread = pool.groups.map(() => 0)
  let more = 0
  const counted = new Set<number>()
  pool.units.forEach(({ homes, never, only }, i) => {
    const at = homes.filter((home) => home !== null)
    const places = new Set(at)
    if (places.size > 1) {
      const most = Math.max(...[...places].map((place) => at.filter((home) => home === place).length))
      for (const home of at) spread[home] = (spread[home] ?? 0) + 1
      more += at.length - most
      counted.add(i)
    }
    const [home] = at
    if (places.size !== 1 || home === undefined) return
    if (!never.has(home) && (only === null || only === home)) return
    groups[home] = (groups[home] ?? 0) + at.length
    counted.add(i)
  })
  for (const clique of pool.cliques.toSorted((a, b) => b.length - a.length)) {
    const byHome = new Map<number, number[]>()
    for (const i of clique) {
      const homes = pool.units[i]?.homes ?? []
      const [home] = homes.filter((at) => at !== null)
      if (home !== undefined && !counted.has(i)) byHome.set(home, [...(byHome.get(home) ?? []), i])
    }
    for (const [home, units] of byHome) {
      if (units.length < 2) continue
      const sitting = units.map((i) => pool.units[i]?.homes.filter((at) => at === home).length ?? 0)
      const all = sitting.reduce((sum, n) => sum + n, 0)
      groups[home] = (groups[home] ?? 0) + all - Math.max(...sitting)
      for (const i of units) counted.add(i)
    }
  }
  // Where somebody joins those who sit, for whom there is no room, either these go there or others make room.
  pool.units.forEach((unit) => {
    const at = unit.homes.filter((home) => home !== null)
    const [home] = at
    if (home === undefined || at.some((other) => other !== home) || at.length === unit.homes.length) return
    const { fixed, loose, limit } = pool.groups[home] as Pool['groups'][number]
    // Those whose unit sits in more than one group may go from here, and are counted already.
    const here = fixed.length + loose.length - (spread[home] ?? 0)
    const over = here + comersIn(unit, home) - limit
    if (over > 0) groups[home] = Math.max(groups[home] ?? 0, Math.min(at.length, over))
  })
  return { groups, spread, more }
}

/** People who are left because those who keep apart outnumber the groups they could be in. */
function leftByKeeping(pool: Pool): number {
  const counted = new Set<number>()
  let left = 0
  // Rules that share nobody add up.
  for (const clique of pool.cliques.toSorted((a, b) => b.length - a.length)) {
    if (clique.some((unit) => counted.has(unit))) continue
    for (const unit of clique) counted.add(unit)
    left += unmatched(pool, clique)
  }
  return left
}

/** The fewest people of a clique who get no group of their own. */
function unmatched(pool: Pool, clique: readonly number[]): number {
  const empty = pool.units.map(() => undefined)
  const inside = occupancy(pool, empty)
  const unitIn = new Array<number | undefined>(pool.groups.length)
  const seat = (unit: number, tried: Set<number>): boolean => {
    for (let g = 0; g < pool.groups.length; g++) {
      if (tried.has(g) || !fitsIn(pool, unit, g, empty, inside)) continue
      tried.add(g)
      const other = unitIn[g]
      if (other !== undefined && !seat(other, tried)) continue
      unitIn[g] = unit
      return true
    }
    return false
  }
  const sizeOf = (unit: number) => pool.units[unit]?.people.length ?? 0
  let left = 0
  for (const unit of clique.toSorted((a, b) => sizeOf(b) - sizeOf(a))) {
    if (!seat(unit, new Set())) left += sizeOf(unit)
  }
  return left
}
