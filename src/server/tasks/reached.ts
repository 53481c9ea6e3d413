import type { Instant } from '../../core/instant.ts'
import { type TaskGate, taskGate } from '../../core/task.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { storedOwners, termsOf } from './ownViews.ts'
import type { Owner, Task } from './store.ts'

/**
 * A task as it stands for a student, and whose the work is.
 * @param group the own group for which it is, by code; null where each hands in singly
 * @throws ProblemError `not-found` for what is not there for them, `task-locked` without a group
 */
export function reachedTask(
  { sheet, enrolment, now }: { sheet: Sheet; enrolment: Enrolment; now: Instant },
  code: string,
  group: string | null,
  stores: Stores,
): { task: Task; owner: Owner; state: TaskGate['state'] } {
  const { tasks, seats, sheets } = stores
  const task = tasks.byCode(sheet.id, code)
  const held = seats.heldBy(sheet.id, enrolment.id).map(({ group_id }) => group_id)
  const gate = task && task.removed_at === null ? taskGate(termsOf(task, stores), held, now) : null
  if (!task || !gate || gate.state === 'hidden' || enrolment.status !== 'active') throw notFound()
  if (gate.state === 'locked')
    throw new ProblemError(
      'task-locked',
      'It is for those in a group. Take a seat on the sheet, and it opens.',
    )
  const groupId = group === null ? null : (sheets.group(group)?.id ?? 0)
  const owner = storedOwners(task, enrolment.id, held, stores).find(({ group_id }) => group_id === groupId)
  if (!owner) throw fieldProblem('group', 'You do not sit in that group any more. Load the page anew.')
  return { task, owner, state: gate.state }
}
