import type { Instant } from '../../core/instant.ts'
import type { TaskGate } from '../../core/task.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { partsOf } from './gates.ts'
import type { Owner, Task } from './store.ts'

/**
 * A task as it is and stands for a student, and whose the work is.
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
  const parts = partsOf(task, enrolment.id, held, now, stores)
  if (parts.length === 0 || enrolment.status !== 'active') throw notFound()
  const reached = parts.flatMap((part) => (part.owner === null ? [] : [part]))
  if (reached.length === 0)
    throw new ProblemError(
      'task-locked',
      'It is for those in a group. Take a seat on the sheet, and it opens.',
    )
  const groupId = group === null ? null : (sheets.group(group)?.id ?? 0)
  const part = reached.find(({ owner }) => owner.group_id === groupId)
  if (!part) throw fieldProblem('group', 'You do not sit in that group any more. Load the page anew.')
  return { task: part.task, owner: part.owner, state: part.gate.state }
}
