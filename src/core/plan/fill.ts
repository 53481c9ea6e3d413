import { drawLots } from '../lot.ts'
import { surnameOrder } from '../names.ts'
import type { Pool } from './prepare.ts'
import type { Placement } from './search.ts'
import type { PlanMethod } from './types.ts'

/** Somebody in the order in which a method seats people, with their name to sort by. */
export interface Queued {
  key: string
  name: string
}

/** People in the order in which free seats are given to them: drawn, or by surname. */
export function queue(people: readonly Queued[], method: PlanMethod, lotNumber: number): string[] {
  const inOrder = people.toSorted((a, b) => (a.key < b.key ? -1 : 1))
  const ordered =
    method === 'surname'
      ? inOrder.toSorted(surnameOrder(({ name }) => name))
      : drawLots(lotNumber).shuffle(inOrder)
  return ordered.map(({ key }) => key)
}

/** Where everybody of a pool sits when it is done, by group. Those who are nowhere in it are left. */
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
