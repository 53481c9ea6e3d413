import type { Instant } from '../../core/instant.ts'
import type { Stores } from '../stores.ts'
import { groupsCounted } from './counted.ts'
import { partsFor, type TaskPart } from './gates.ts'
import type { Task } from './store.ts'

/** A part of a task that a student has; past where it is of a group that they have left. */
export type OwnPart = TaskPart & { past: boolean }

/**
 * Everything that a student has of a task: what is there for them now, and what counts for them of groups they have left.
 * @param held ids of the groups in which the student sits
 */
export function ownParts(
  task: Task,
  readerId: number,
  held: readonly number[],
  now: Instant,
  stores: Stores,
): OwnPart[] {
  const current = partsFor(task, readerId, held, now, stores).map((part) => ({ ...part, past: false }))
  // What differs for a group is nothing to whoever has left it.
  const past = groupsCounted(task, readerId, stores)
    .filter((id) => !held.includes(id))
    .map(
      (group_id): OwnPart => ({
        owner: { group_id, student_id: null },
        task,
        gate: { state: task.hands_in === 1 ? 'over' : 'no-hand-in' },
        past: true,
      }),
    )
  return [...current, ...past]
}
