import type { StudentSheet } from '../../contract/seats.ts'
import type { Instant } from '../../core/instant.ts'
import { takesHandIns, taskGate } from '../../core/task.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { storedOwners, termsOf } from './ownViews.ts'

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
    const gate = taskGate(termsOf(task, stores), held, now)
    if (gate.state === 'hidden') continue
    there += 1
    if (gate.state === 'locked' && gate.reason === 'no-group') locked += 1
    if (!takesHandIns(gate)) continue
    const owners = storedOwners(task, student.id, held, stores)
    if (owners.some((owner) => !tasks.stands(task.id, owner))) open += 1
  }
  return { there, open, locked }
}
