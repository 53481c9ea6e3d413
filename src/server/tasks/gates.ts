import type { Instant } from '../../core/instant.ts'
import { ownersFor, type TaskGate, type TaskTerms, taskGate } from '../../core/task.ts'
import type { Stores } from '../stores.ts'
import { createAsFor } from './asFor.ts'
import type { Owner, Task } from './store.ts'

/** What decides whether a task is there for somebody, groups by their ids. */
export function termsOf(task: Task, { tasks }: Pick<Stores, 'tasks'>, meant = true): TaskTerms<number> {
  return {
    meant,
    out: task.out_at !== null,
    handsIn: task.hands_in === 1,
    availableFrom: task.available_from,
    dueAt: task.due_at,
    late: task.late,
    lateUntil: task.late_until,
    forWhom: task.for_whom,
    groups: task.for_whom === 'some-groups' ? tasks.groups(task.id) : [],
    withoutGroup: task.without_group,
  }
}

/** How a task stands for a student: locked, with nobody whose work it would be, or there for one owner of work. */
export type TaskPart =
  | { owner: null; task: Task; gate: Extract<TaskGate, { state: 'locked' }> }
  | { owner: Owner; task: Task; gate: Exclude<TaskGate, { state: 'locked' | 'hidden' }> }

/**
 * What is there of a task for a student: nothing where it is hidden, else one part for each own group that it is for, or
 * one for themselves, each as it is for that owner. One for a list is there for those who are on it, and stays there for
 * whoever has handed in or was marked.
 * @param held ids of the groups in which the student sits
 */
export function partsFor(
  task: Task,
  studentId: number,
  held: readonly number[],
  now: Instant,
  stores: Stores,
): TaskPart[] {
  const { tasks, lists, marks } = stores
  const self: Owner = { group_id: null, student_id: studentId }
  const meant =
    task.list_id === null ||
    lists.members(task.list_id).has(studentId) ||
    tasks.stands(task.id, self) !== undefined ||
    marks.isMarked(task.id, self)
  const terms = termsOf(task, stores, meant)
  const owners = ownersFor(terms, studentId, held).map(
    (owner): Owner =>
      owner.kind === 'group'
        ? { group_id: owner.group, student_id: null }
        : { group_id: null, student_id: owner.student },
  )
  const asFor = createAsFor(task, stores)
  const parts = owners.flatMap((owner): TaskPart[] => {
    const own = asFor(owner).task
    const gate = taskGate({ ...termsOf(own, stores, meant), groups: terms.groups }, held, now)
    if (gate.state === 'hidden') return []
    return gate.state === 'locked' ? [{ owner: null, task: own, gate }] : [{ owner, task: own, gate }]
  })
  if (owners.length > 0) return parts
  const gate = taskGate(terms, held, now)
  return gate.state === 'locked' ? [{ owner: null, task, gate }] : []
}

/** The parts of a task that is not removed; none for one that is. */
export function partsOf(
  task: Task | undefined,
  studentId: number,
  held: readonly number[],
  now: Instant,
  stores: Stores,
): TaskPart[] {
  return task && task.removed_at === null ? partsFor(task, studentId, held, now, stores) : []
}
