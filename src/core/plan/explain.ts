import type { Pool } from './prepare.ts'
import type { Placement } from './search.ts'
import type { MoveReason, PlanInput } from './types.ts'

/** What a reason follows from. */
export interface Around {
  input: PlanInput
  /** Those that hold. */
  keepings: PlanInput['keepings']
  pool: Pool
  placement: Placement
  sizes: readonly number[]
  /** The seat that is given up. */
  from: string | null
  dissolved: ReadonlySet<string>
}

/**
 * Why somebody is seated in a group. The first of these that holds: their group is emptied, somebody they keep
 * together with is there, somebody they keep apart from is where they would else be, the group needs them to reach
 * its floor, nowhere else is room; else the method.
 */
export function reasonFor(person: string, group: number, around: Around): MoveReason {
  const { input, keepings, pool, placement, sizes, from } = around
  const emptied = pool.groups.find(({ key }) => key === from)
  if (
    from !== null &&
    (around.dissolved.has(from) || (emptied?.mayEmpty && sizes[pool.groups.indexOf(emptied)] === 0))
  ) {
    return { code: 'dissolved' }
  }
  const index = pool.units.findIndex(({ people }) => people.includes(person))
  const unit = pool.units[index]
  if (unit) {
    const mates = keepings
      .filter(({ kind, people }) => kind === 'together' && people.includes(person))
      .flatMap(({ people }) => people.filter((other) => other !== person))
    if (mates.length > 0) return { code: 'together', with: [...new Set(mates)] }
    const others = keepings
      .filter(({ kind, people }) => kind === 'apart' && people.includes(person))
      .flatMap(({ people }) => people.filter((other) => other !== person))
    if (placement[index] === group && others.length > 0) return { code: 'apart', from: [...new Set(others)] }
  }
  const { fixed, loose, floor } = pool.groups[group] as Pool['groups'][number]
  if (floor > 1 && fixed.length + loose.length < floor && (sizes[group] ?? 0) >= floor)
    return { code: 'floor' }
  const room = pool.groups.filter(({ most }, g) => g === group || most > (sizes[g] ?? 0))
  if (room.length === 1 && pool.groups.length > 1) return { code: 'only-room' }
  return { code: input.method === 'evenly' ? 'even' : input.method }
}
