import type { StudentSheet } from '../../contract/seats.ts'
import type { Instant } from '../../core/instant.ts'
import { takesHandIns } from '../../core/task.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { partsFor } from './gates.ts'

/**
 * How many tasks of a sheet are there for a student, locked ones included, how many wait to be handed in, and
 * how many are locked for want of a group.
 */
export function tasksThere(
  sheet: Sheet,
  student: Pick<Enrolment, 'id'>,
  now: Instant,
  stores: Stores,
): StudentSheet['tasks'] {
  const { tasks, seats } = stores
  const all = tasks.ofSheet(sheet.id)
  if (all.length === 0) return { there: 0, open: 0, locked: 0 }
  const held = seats.heldBy(sheet.id, student.id).map(({ group_id }) => group_id)
  let there = 0
  let open = 0
  let locked = 0
  for (const task of all) {
    const parts = partsFor(task, student.id, held, now, stores)
    if (parts.length === 0) continue
    there += 1
    if (parts.some(({ gate }) => gate.state === 'locked')) locked += 1
    const waits = parts.some(
      ({ owner, gate }) => owner !== null && takesHandIns(gate) && !tasks.stands(task.id, owner),
    )
    if (waits) open += 1
  }
  return { there, open, locked }
}
