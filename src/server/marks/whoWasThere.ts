import type { Stores } from '../stores.ts'
import type { Work } from '../tasks/owners.ts'
import type { Task } from '../tasks/store.ts'
import type { Mark } from './store.ts'

/**
 * Keeps whose a mark is, after one of a group changed: where nothing stands handed in, those who sit there when it is
 * first given. Where it is taken away wholly they are forgotten, unless somebody said by hand who was there.
 * @param work as it was before the change
 */
export function keepWhoWasThere(task: Task, work: Work, { marks, there }: Stores): void {
  const { group_id } = work.owner
  if (group_id === null || work.standing) return
  const begun = marks.ofTask(task.id).some((mark) => mark.group_id === group_id && saysSomething(mark))
  if (!begun && !there.isByHand(task.id, group_id)) there.forget(task.id, group_id)
  else if (begun && there.ofGroup(task.id, group_id) === null) there.set(task.id, group_id, work.members)
}

function saysSomething({ placements, points, feedback }: Mark): boolean {
  return points !== null || feedback !== '' || placements !== '{}'
}
