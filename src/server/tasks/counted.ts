import type { Stores } from '../stores.ts'
import type { Task } from './store.ts'

/** The groups in which something of a task counts for a student: a hand-in, or a mark given because they were there. */
export function groupsCounted(
  task: Task,
  studentId: number,
  { tasks, there }: Pick<Stores, 'tasks' | 'there'>,
): number[] {
  const handed = tasks.countedIn(task.id, studentId).flatMap((group) => group ?? [])
  // Once the group hands in, it is for whoever that counts.
  const was = there
    .groupsOf(task.id, studentId)
    .filter((group) => !tasks.stands(task.id, { group_id: group, student_id: null }))
  return [...new Set([...handed, ...was])]
}
