import type { Lot } from '../lot.ts'
import type { Pool, PoolUnit } from './prepare.ts'
import { bestSizes, drawnSizes, type SizeCost, type SizedGroup } from './sizes.ts'

/** Where each unit of a pool is placed: a group's index, or null for left out. */
export type Placement = readonly (number | null)[]

export interface Found {
  placement: Placement
  sizes: number[]
  cost: SizeCost
  /** True when nothing better exists. */
  proven: boolean
  /** The fewest that would be left, were there no keepings. */
  leastLeft: number
}

export interface SearchOptions {
  /** Whether sizes are to be as even as can be; else they are drawn. */
  even: boolean
  lot: Lot
  /** The group that each unit's first person would get, were there no keepings. */
  wished: (sizes: readonly number[]) => readonly (number | null)[]
  /** Called now and then with the share of the search's allowance that is used up, 0 to 1. */
  onProgress?: (share: number) => void
}

/** Groups looked at before a search is given up, over all of its steps. It bounds time without a clock. */
const ALLOWANCE = 600_000

/** True when one cost is better than another. */
export function better(a: SizeCost, b: SizeCost): boolean {
  for (const part of ['left', 'under', 'moved', 'uneven'] as const) {
    if (a[part] !== b[part]) return a[part] < b[part]
  }
  return false
}

/**
 * Places the units of a pool so that, with everybody else filled in, the outcome is the best there is.
 * First without keepings, which no plan can beat; then units are placed to fit those sizes, which nearly always
 * works and then is proven; else by branch and bound over the units, with the sizes for the rest as the bound (Land
 * and Doig, "An automatic method of solving discrete programming problems", Econometrica 28, 1960).
 */
export function searchPool(pool: Pool, options: SearchOptions): Found {
  const { even, lot, onProgress } = options
  const nobody = pool.units.map((): Unplaced => undefined)
  const bound = evaluate(pool, nobody, even)
  const done = (placement: Placement, proven: boolean): Found => {
    const { sizes, cost } = evaluate(pool, placement, even)
    const final = even ? sizes : drawnSizes(groupsWith(pool, placement), sizes, lot)
    return { placement, sizes: final, cost, proven, leastLeft: bound.cost.left }
  }
  if (pool.units.length === 0) return done([], true)
  const targets = even ? bound.sizes : drawnSizes(groupsWith(pool, nobody), bound.sizes, lot)
  const dived = dive(pool, targets, options.wished(targets), lot)
  const first = evaluate(pool, dived, even).cost
  if (!better(bound.cost, first)) return done(dived, true)

  let best: Placement = dived
  let bestCost = first
  let used = 0
  let proven = true
  const order = pool.units
    .map((unit, i) => ({ i, weight: unit.people.length * 1_000 + unit.apart.length + unit.never.size }))
    .sort((a, b) => b.weight - a.weight || a.i - b.i)
    .map(({ i }) => i)
  const descend = (depth: number, placed: Unplaced[]): void => {
    const i = order[depth]
    if (i === undefined) return
    const children = choicesFor(pool, i, placed).map((group) => {
      const next = [...placed]
      next[i] = group
      used += pool.groups.length + 1
      return { next, cost: evaluate(pool, next, even).cost }
    })
    onProgress?.(Math.min(1, used / ALLOWANCE))
    children.sort((a, b) => (better(a.cost, b.cost) ? -1 : better(b.cost, a.cost) ? 1 : 0))
    for (const { next, cost } of children) {
      if (!better(cost, bestCost)) break
      if (depth === order.length - 1) {
        best = next.map((group) => group ?? null)
        bestCost = cost
      } else if (used > ALLOWANCE) proven = false
      else descend(depth + 1, next)
      if (!better(bound.cost, bestCost)) return
    }
  }
  descend(0, nobody)
  return done(best, proven || !better(bound.cost, bestCost))
}

/** A unit's place while it is searched: undefined while nothing is decided. */
type Unplaced = number | null | undefined

/** The groups in which a unit may be placed beside those placed already, and leaving it out. Groups that are alike count once. */
function choicesFor(pool: Pool, i: number, placed: readonly Unplaced[]): (number | null)[] {
  const unit = pool.units[i] as PoolUnit
  const inside = occupancy(pool, placed)
  const seen = new Set<string>()
  const groups = pool.groups.flatMap((group, g) => {
    if (!fits(pool, unit, g, placed, inside)) return []
    const alike = inside[g] === 0 && group.fixed.length === 0 && group.loose.length === 0 && !isNamed(pool, g)
    if (alike) {
      const kind = `${group.most} ${group.floor}`
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

function occupancy(pool: Pool, placed: readonly Unplaced[]): number[] {
  const inside = pool.groups.map(() => 0)
  placed.forEach((group, i) => {
    if (group != null) inside[group] = (inside[group] ?? 0) + (pool.units[i]?.people.length ?? 0)
  })
  return inside
}

function fits(
  pool: Pool,
  unit: PoolUnit,
  g: number,
  placed: readonly Unplaced[],
  inside: readonly number[],
): boolean {
  if (unit.only !== null && unit.only !== g) return false
  if (unit.never.has(g)) return false
  const { most, fixed } = pool.groups[g] as Pool['groups'][number]
  if (fixed.length + (inside[g] ?? 0) + unit.people.length > most) return false
  return unit.apart.every((other) => placed[other] !== g)
}

/** The groups of a pool as sizes are planned for them, with units where they are placed. */
function groupsWith(pool: Pool, placed: readonly Unplaced[]): SizedGroup[] {
  const groups = pool.groups.map(({ fixed, loose, most, floor, mayEmpty }) => ({
    stay: fixed.length,
    loose: loose.length,
    most,
    floor,
    mayEmpty,
  }))
  pool.units.forEach(({ people, homes }, i) => {
    const place = placed[i]
    if (place === undefined) return
    for (const home of homes) {
      const group = home === null ? undefined : groups[home]
      if (group) group.loose -= 1
    }
    const group = place === null ? undefined : groups[place]
    if (!group) return
    group.stay += people.length
    group.mayEmpty = false
  })
  return groups
}

/** The best sizes with units where they are placed, units not yet placed counted as if they had no keepings. */
function evaluate(
  pool: Pool,
  placed: readonly Unplaced[],
  even: boolean,
): { sizes: number[]; cost: SizeCost } {
  let people = pool.plain.length
  let left = 0
  let moved = 0
  pool.units.forEach((unit, i) => {
    const place = placed[i]
    if (place === undefined) people += unit.homes.filter((home) => home === null).length
    else {
      if (place === null) left += unit.people.length
      moved += unit.homes.filter((home) => home !== null && home !== place).length
    }
  })
  const { sizes, cost } = bestSizes(groupsWith(pool, placed), people, even)
  return { sizes, cost: { ...cost, left: cost.left + left, moved: cost.moved + moved } }
}

/** Places units one after the other, to fit sizes where that can be; those that fit nowhere are left out. */
function dive(
  pool: Pool,
  targets: readonly number[],
  wished: readonly (number | null)[],
  lot: Lot,
): (number | null)[] {
  const placed: (number | null)[] = pool.units.map(() => null)
  const inside = pool.groups.map(() => 0)
  /** Seats that newcomers and those who sit there may have, if sizes are to stay as they are meant. */
  const comers = pool.groups.map(({ fixed, loose }, g) =>
    Math.max(0, (targets[g] ?? 0) - fixed.length - loose.length),
  )
  const stayers = pool.groups.map(({ fixed, loose }, g) =>
    Math.min(loose.length, (targets[g] ?? 0) - fixed.length),
  )
  const put = (i: number, group: number, sign: 1 | -1) => {
    const unit = pool.units[i] as PoolUnit
    const home = unit.homes.filter((at) => at === group).length
    placed[i] = sign === 1 ? group : null
    inside[group] = (inside[group] ?? 0) + sign * unit.people.length
    stayers[group] = (stayers[group] ?? 0) - sign * home
    comers[group] = (comers[group] ?? 0) - sign * (unit.people.length - home)
  }
  const meets = (i: number, group: number) => {
    const unit = pool.units[i] as PoolUnit
    const home = unit.homes.filter((at) => at === group).length
    const enough = home <= (stayers[group] ?? 0) && unit.people.length - home <= (comers[group] ?? 0)
    return enough && fits(pool, unit, group, placed, inside)
  }
  const count = pool.groups.length
  const find = (i: number, test: (i: number, group: number) => boolean): number | null => {
    const unit = pool.units[i] as PoolUnit
    const near = [...unit.homes, wished[i] ?? null, unit.only].find(
      (g) => g !== null && g !== undefined && test(i, g),
    )
    if (near != null) return near
    const start = lot.below(Math.max(1, count))
    for (let n = 0; n < count; n++) if (test(i, (start + n) % count)) return (start + n) % count
    return null
  }
  const order = pool.units
    .map((unit, i) => ({ i, weight: unit.people.length * 1_000 + unit.apart.length + unit.never.size }))
    .sort((a, b) => b.weight - a.weight || a.i - b.i)
  const stuck: number[] = []
  for (const { i } of order) {
    const group = find(i, meets)
    if (group !== null) put(i, group, 1)
    else if (!giveWay(i, placed, meets, find, put)) stuck.push(i)
  }
  for (const i of stuck) {
    const group = find(i, (at, g) => fits(pool, pool.units[at] as PoolUnit, g, placed, inside))
    if (group !== null) put(i, group, 1)
  }
  return placed
}

/** Places a unit by sending one that is in its way to another group. False when nobody can give way. */
function giveWay(
  i: number,
  placed: readonly (number | null)[],
  meets: (i: number, group: number) => boolean,
  find: (i: number, test: (i: number, group: number) => boolean) => number | null,
  put: (i: number, group: number, sign: 1 | -1) => void,
): boolean {
  for (let other = 0; other < placed.length; other++) {
    const at = placed[other]
    if (at == null) continue
    put(other, at, -1)
    if (meets(i, at)) {
      put(i, at, 1)
      const elsewhere = find(other, (unit, group) => group !== at && meets(unit, group))
      if (elsewhere !== null) {
        put(other, elsewhere, 1)
        return true
      }
      put(i, at, -1)
    }
    put(other, at, 1)
  }
  return false
}
