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
    const standing = tasks.standing(task.id, { group_id: groupId, student_id: null })
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
