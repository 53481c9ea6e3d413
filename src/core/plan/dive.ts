import type { Lot } from '../lot.ts'
import { put as count, fitsIn, occupancy } from './placing.ts'
import type { Pool, PoolUnit } from './prepare.ts'

/** Units in the order in which they are hardest to place: large ones first, then those with many in their way. */
export function hardestFirst(pool: Pool): number[] {
  return pool.units
    .map((unit, i) => ({ i, weight: unit.people.length * 1_000 + unit.apart.length + unit.never.size }))
    .sort((a, b) => b.weight - a.weight || a.i - b.i)
    .map(({ i }) => i)
}

/**
 * Places units one after the other, to fit sizes where that can be; one that fits nowhere may send another elsewhere,
 * and what then still fits nowhere is left out.
 * @param wished the group that each unit would rather have
 */
export function dive(
  pool: Pool,
  targets: readonly number[],
  order: readonly number[],
  lot: Lot,
  wished: readonly (number | null)[] = [],
): (number | null)[] {
  const placed: (number | null)[] = pool.units.map(() => null)
  const inside = occupancy(pool, placed)
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
    count(pool, i, group, inside, sign)
    stayers[group] = (stayers[group] ?? 0) - sign * home
    comers[group] = (comers[group] ?? 0) - sign * (unit.people.length - home)
  }
  const meets = (i: number, group: number) => {
    const unit = pool.units[i] as PoolUnit
    const home = unit.homes.filter((at) => at === group).length
    const enough = home <= (stayers[group] ?? 0) && unit.people.length - home <= (comers[group] ?? 0)
    return enough && fitsIn(pool, i, group, placed, inside)
  }
  const groups = pool.groups.length
  const find = (i: number, test: (i: number, group: number) => boolean): number | null => {
    const unit = pool.units[i] as PoolUnit
    const near = [...unit.homes, wished[i] ?? null, unit.only].find(
      (g) => g !== null && g !== undefined && test(i, g),
    )
    if (near != null) return near
    const start = lot.below(Math.max(1, groups))
    for (let n = 0; n < groups; n++) if (test(i, (start + n) % groups)) return (start + n) % groups
    return null
  }
  const stuck: number[] = []
  for (const i of order) {
    const group = find(i, meets)
    if (group !== null) put(i, group, 1)
    else if (!giveWay(i, placed, meets, find, put)) stuck.push(i)
  }
  for (const i of stuck) {
    const group = find(i, (at, g) => fitsIn(pool, at, g, placed, inside))
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
