import type { GroupTask } from '../../contract/groups.ts'
import type { Instant } from '../../core/instant.ts'
import { takesHandIns, taskGate } from '../../core/task.ts'
import type { As } from '../groups/reach.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { termsOf } from './ownViews.ts'

/** The tasks that a group hands in together, as its page lists them: those not there yet are seen by staff alone. */
export function groupTasks(sheet: Sheet, groupId: number, as: As, now: Instant, stores: Stores): GroupTask[] {
  const { tasks } = stores
  return tasks.ofSheet(sheet.id).flatMap((task): GroupTask[] => {
    if (task.for_whom === 'students') return []
    const gate = taskGate(termsOf(task, stores), [groupId], now)
    const forThem = task.for_whom === 'groups' || tasks.groups(task.id).includes(groupId)
    if (!forThem || (as === 'member' && gate.state === 'hidden')) return []
    const standing = tasks.stands(task.id, { group_id: groupId, student_id: null })
    const missing = task.due_at !== null && now >= task.due_at
    return [
      {
        code: task.code,
        title: task.title,
        dueAt: task.due_at,
        state: standing ? (standing.late === 1 ? 'late' : 'handed-in') : missing ? 'missing' : 'not-due',
        open: takesHandIns(gate),
      },
    ]
  })
}

/** How many tasks each group has not handed in though they are due, by its id; groups that lack none are left out. */
export function missingIn(
  sheet: Sheet,
  groupIds: readonly number[],
  now: Instant,
  { tasks }: Stores,
): Map<number, number> {
  const missing = new Map<number, number>()
  for (const task of tasks.ofSheet(sheet.id)) {
    if (task.for_whom === 'students' || task.due_at === null || now < task.due_at) continue
    const chosen = task.for_whom === 'groups' ? null : new Set(tasks.groups(task.id))
    const standing = tasks.standingGroups(task.id)
    for (const id of groupIds)
      if (!standing.has(id) && (chosen?.has(id) ?? true)) missing.set(id, (missing.get(id) ?? 0) + 1)
  }
  return missing
}
