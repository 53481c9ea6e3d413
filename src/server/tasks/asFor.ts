import type { Instant } from '../../core/instant.ts'
import { differenceFor, type WorkOwner } from '../../core/task.ts'
import type { Stores } from '../stores.ts'
import type { Difference } from './differenceStore.ts'
import type { Owner, Task } from './store.ts'

type Asked = Pick<Stores, 'differences' | 'lists' | 'seats' | 'sheets'>

/** A task as it is for one owner of work, and the difference that made it so. */
export interface TaskFor {
  task: Task
  difference: Difference | null
}

/**
 * How a task is for each owner of work: with what differs for them, and dated by their group where that is so. The one
 * place that knows of differences: whatever shows a task, counts it, or lets something be done for it asks here.
 */
export function createAsFor(task: Task, stores: Asked): (owner: Owner) => TaskFor {
  const { differences, lists, seats } = stores
  const all = differences.ofTask(task.id)
  if (all.length === 0 && task.dated_by === 'task') return () => ({ task, difference: null })
  const seatsOf = (owner: Owner): number[] =>
    owner.group_id !== null
      ? [owner.group_id]
      : seats.heldBy(task.sheet_id, owner.student_id).map(({ group_id }) => group_id)
  return (owner) => {
    const held = seatsOf(owner)
    const difference = differenceFor(all, coreOwner(owner), held, (list, student) =>
      lists.members(list).has(student),
    )
    const differing = difference === null ? task : { ...task, ...difference.fields }
    if (differing.dated_by === 'task') return { task: differing, difference }
    return { task: { ...differing, due_at: firstDate(held, stores) }, difference }
  }
}

/** The first date of some groups; null where none has one. */
function firstDate(groups: readonly number[], { sheets }: Pick<Stores, 'sheets'>): Instant | null {
  return groups.flatMap((id) => sheets.groupById(id)?.starts_at ?? []).toSorted()[0] ?? null
}

function coreOwner(owner: Owner): WorkOwner<number> {
  return owner.group_id !== null
    ? { kind: 'group', group: owner.group_id }
    : { kind: 'student', student: owner.student_id }
}
