import type { PlanCost } from './cost.ts'
import type { Pool, PoolUnit } from './prepare.ts'
import type { SizedGroup } from './sizeProblem.ts'
import { bestSizes, type Sizes } from './sizes.ts'
import type { Work } from './work.ts'

/** Where each unit of a pool is placed: a group's index, or null for left out. */
export type Placement = readonly (number | null)[]

/** A unit's place while it is searched: undefined while nothing is decided. */
export type Unplaced = number | null | undefined

/** People of units in each group, and how many of them come there anew. */
export interface Occupancy {
  people: number[]
  comers: number[]
}

export function occupancy(pool: Pool, placed: readonly Unplaced[]): Occupancy {
  const people = pool.groups.map(() => 0)
  const comers = pool.groups.map(() => 0)
  placed.forEach((group, i) => {
    if (group != null) put(pool, i, group, { people, comers }, 1)
  })
  return { people, comers }
}

/** Counts a unit in a group, or out of it. */
export function put(pool: Pool, i: number, g: number, { people, comers }: Occupancy, sign: 1 | -1): void {
  const unit = pool.units[i] as PoolUnit
  people[g] = (people[g] ?? 0) + sign * unit.people.length
  comers[g] = (comers[g] ?? 0) + sign * comersIn(unit, g)
}

/** How many of a unit's people do not sit in a group today. */
export function comersIn({ homes }: PoolUnit, g: number): number {
  return homes.reduce<number>((count, home) => (home === g ? count : count + 1), 0)
}

/** Whether a unit may be placed in a group, beside the units that are. */
export function fitsIn(
  pool: Pool,
  i: number,
  g: number,
  placed: readonly Unplaced[],
  { people, comers }: Occupancy,
): boolean {
  const unit = pool.units[i] as PoolUnit
  if (unit.only !== null && unit.only !== g) return false
  if (unit.never.has(g)) return false
  const { limit, fixed } = pool.groups[g] as Pool['groups'][number]
  const room = fixed.length + (people[g] ?? 0) + unit.people.length <= limit
  // Whoever sits there already may stay past the limit, as long as nobody comes.
  if (!room && (comers[g] ?? 0) + comersIn(unit, g) > 0) return false
  return unit.apart.every((other) => placed[other] !== g)
}

/** The groups of a pool as sizes are planned for them, with units where they are placed. */
export function groupsWith(pool: Pool, placed: readonly Unplaced[]): SizedGroup[] {
  const comers = pool.groups.map(() => 0)
  const groups = pool.groups.map(({ fixed, loose, limit, floor, mayEmpty }) => ({
    stay: fixed.length,
    loose: loose.length,
    most: limit,
    floor,
    mayEmpty,
  }))
  pool.units.forEach((unit, i) => {
    const place = placed[i]
    if (place === undefined) return
    for (const home of unit.homes) {
      const group = home === null ? undefined : groups[home]
      if (group) group.loose -= 1
    }
    const group = place === null ? undefined : groups[place]
    if (!group || place === null) return
    group.stay += unit.people.length
    group.mayEmpty = false
    comers[place] = (comers[place] ?? 0) + comersIn(unit, place)
  })
  groups.forEach((group, g) => {
    // Nobody comes past the limit; those who sit past it already may stay.
    const here = group.stay + group.loose
    group.most = Math.max(group.stay, comers[g] ? group.most : Math.max(group.most, here))
  })
  return groups
}

/** The people of a pool who come to a group from nowhere, once some units are placed. */
export function peopleToSeat(pool: Pool, placed: readonly Unplaced[]): number {
  return pool.units.reduce(
    (sum, { homes }, i) =>
      placed[i] === undefined ? sum + homes.filter((home) => home === null).length : sum,
    pool.plain.length,
  )
}

/**
 * The best sizes with units where they are placed, units not yet placed counted as if they had no keepings.
 * @param work what may be spent on the exact answer; null for a quick one and a bound
 */
export function evaluate(pool: Pool, placed: readonly Unplaced[], even: boolean, work: Work | null): Sizes {
  let left = 0
  let moved = 0
  pool.units.forEach((unit, i) => {
    const place = placed[i]
    if (place === undefined) return
    if (place === null) left += unit.people.length
    moved += unit.homes.filter((home) => home !== null && home !== place).length
  })
  const { sizes, cost, bound } = bestSizes(groupsWith(pool, placed), peopleToSeat(pool, placed), work)
  const whole = (own: PlanCost): PlanCost => ({
    left: own.left + left,
    under: own.under,
    moved: own.moved + moved,
    uneven: even ? own.uneven : 0,
  })
  return { sizes, cost: whole(cost), bound: whole(bound) }
}

/** What one quick evaluation costs, in steps. */
export function stepsOf(pool: Pool): number {
  return pool.groups.length * 100 + pool.units.length * 4
}
