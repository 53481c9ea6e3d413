import type { GroupTask } from '../../contract/groups.ts'
import type { Instant } from '../../core/instant.ts'
import { takesHandIns, taskGate } from '../../core/task.ts'
import type { As } from '../groups/reach.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { createAsFor } from './asFor.ts'
import { termsOf } from './gates.ts'
import type { Owner, Task } from './store.ts'

/** The tasks that a group hands in together, as its page lists them: those not there yet are seen by staff alone. */
export function groupTasks(sheet: Sheet, groupId: number, as: As, now: Instant, stores: Stores): GroupTask[] {
  const { tasks } = stores
  return tasks.ofSheet(sheet.id).flatMap((task): GroupTask[] => {
    if (task.for_whom === 'students') return []
    const owner: Owner = { group_id: groupId, student_id: null }
    const theirs = createAsFor(task, stores)(owner).task
    const gate = taskGate(termsOf(theirs, stores), [groupId], now)
    const forThem = task.for_whom === 'groups' || tasks.groups(task.id).includes(groupId)
    if (!forThem || (as === 'member' && gate.state === 'hidden')) return []
    const standing = tasks.stands(task.id, owner)
    const past = theirs.due_at !== null && now >= theirs.due_at
    return [
      {
        code: task.code,
        title: task.title,
        dueAt: theirs.due_at,
        state: standing ? (standing.late === 1 ? 'late' : 'handed-in') : stateWithout(theirs, past),
        open: takesHandIns(gate),
      },
    ]
  })
}

function stateWithout({ hands_in }: Task, past: boolean): GroupTask['state'] {
  if (hands_in === 0) return past ? 'took-place' : 'ahead'
  return past ? 'missing' : 'not-due'
}

/**
 * How many tasks each group has not handed in though they are due, by its id. Groups that lack none are left out, and
 * those in which nobody sits: from them nothing is awaited.
 */
export function missingIn(
  sheet: Sheet,
  groupIds: readonly number[],
  now: Instant,
  stores: Stores,
): Map<number, number> {
  const { tasks, seats } = stores
  const missing = new Map<number, number>()
  const counts = seats.counts(sheet.id)
  const seated = groupIds.filter((id) => (counts.get(id) ?? 0) > 0)
  for (const task of tasks.ofSheet(sheet.id)) {
    if (task.for_whom === 'students') continue
    const asFor = createAsFor(task, stores)
    const chosen = task.for_whom === 'groups' ? null : new Set(tasks.groups(task.id))
    const standing = tasks.standingGroups(task.id)
    for (const id of seated) {
      if (standing.has(id) || chosen?.has(id) === false) continue
      const { due_at, hands_in } = asFor({ group_id: id, student_id: null }).task
      if (hands_in === 1 && due_at !== null && now >= due_at) missing.set(id, (missing.get(id) ?? 0) + 1)
    }
  }
  return missing
}
