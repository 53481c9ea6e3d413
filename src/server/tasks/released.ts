import type { ReleasedMark } from '../../contract/ownWork.ts'
import { totalOf } from '../../core/marks.ts'
import { markedFor } from '../../core/task.ts'
import type { Mark } from '../marks/store.ts'
import type { Stores } from '../stores.ts'
import { criteriaOf } from './owners.ts'
import type { HandIn, Owner, Task } from './store.ts'

/** Whether a version was handed in for somebody. */
export function counts({ members }: HandIn, enrolmentId: number): boolean {
  return (JSON.parse(members) as number[]).includes(enrolmentId)
}

/**
 * The reader's own mark once it is released: the one set apart for them, else the group's.
 * @param handIns every version of that owner, oldest first
 * @param given the marks of the task
 */
export function releasedMark(
  task: Task,
  owner: Owner,
  handIns: readonly HandIn[],
  given: readonly Mark[],
  readerId: number,
  { there }: Pick<Stores, 'there'>,
): ReleasedMark | null {
  // Whoever joined later has no part in it.
  const standing = handIns.findLast(({ taken_back_at }) => taken_back_at === null)
  const whose = markedFor({
    handedIn: standing ? (JSON.parse(standing.members) as number[]) : null,
    there: owner.group_id === null ? null : there.ofGroup(task.id, owner.group_id),
    now: [readerId],
  })
  if (!whose.includes(readerId)) return null
  const own = given.filter(
    ({ group_id, student_id }) => group_id === owner.group_id && student_id === owner.student_id,
  )
  const apart = own.find(({ apart_id }) => apart_id === readerId)
  const mark = apart ?? own.find(({ apart_id }) => apart_id === null)
  if (!mark || mark.released_at === null) return null
  const placements = JSON.parse(mark.placements) as Record<string, number>
  return {
    points: totalOf({ criteria: criteriaOf(task) }, { placements, points: mark.points }),
    placements,
    feedback: mark.feedback,
    apart: apart !== undefined,
    releasedAt: mark.released_at,
  }
}
