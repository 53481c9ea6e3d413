import type { Lot } from '../lot.ts'
import type { Placement } from './placing.ts'
import type { Pool } from './prepare.ts'

/** People in an order that is drawn, whatever order they come in. */
export function drawnQueue(people: readonly string[], lot: Lot): string[] {
  return lot.shuffle(people.toSorted((a, b) => (a < b ? -1 : 1)))
}

/**
 * Where everybody of a pool sits when it is done, by group, seats given in the order of a queue. Those who are nowhere
 * in it are left.
 */
export function seatsOf(
  pool: Pool,
  placement: Placement,
  sizes: readonly number[],
  queued: readonly string[],
): string[][] {
  const inUnits = new Set(pool.units.flatMap(({ people }) => people))
  const emptied = pool.groups.map(({ fixed }, g) => fixed.length > 0 && sizes[g] === 0)
  const seated = pool.groups.map(({ fixed }, g) => (emptied[g] ? [] : [...fixed]))
  pool.units.forEach(({ people }, i) => {
    const at = placement[i]
    if (at != null) seated[at]?.push(...people)
  })
  const waiting = new Set(pool.plain)
  pool.groups.forEach(({ fixed, loose }, g) => {
    const own = seated[g] ?? []
    if (emptied[g]) for (const person of fixed) waiting.add(person)
    for (const person of loose) {
      if (inUnits.has(person)) continue
      if (own.length < (sizes[g] ?? 0)) own.push(person)
      else waiting.add(person)
    }
  })
  const next = queued.filter((person) => waiting.has(person))
  let taken = 0
  seated.forEach((own, g) => {
    while (own.length < (sizes[g] ?? 0) && taken < next.length) own.push(next[taken++] as string)
  })
  return seated
}
