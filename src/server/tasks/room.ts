import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import type { Owner, Task } from './store.ts'

/** How much more may be brought for a hand-in (bytes): the limits are those of the group's files. */
export function workRoom(
  task: Task,
  sheet: Sheet,
  owner: Owner,
  { groups, tasks, files }: Pick<Stores, 'groups' | 'tasks' | 'files'>,
): { fileBytes: number; left: number } {
  const { fileBytes, groupBytes } = groups.extras(sheet.id)
  if (task.takes_files === 0) return { fileBytes, left: 0 }
  const own = tasks.ofOwner(task.id, owner)
  const ids = new Set([
    ...tasks.draftFiles(task.id, owner),
    ...own.flatMap((one) => JSON.parse(one.files) as number[]),
  ])
  const used = files.byIds([...ids]).reduce((sum, { size }) => sum + size, 0)
  return { fileBytes, left: Math.max(0, groupBytes - used) }
}
