import type { Instant } from '../../core/instant.ts'
import { fitPlacements, type Placements, totalOf } from '../../core/marks.ts'
import type { Stores } from '../stores.ts'
import { criteriaOf } from '../tasks/owners.ts'
import type { Task } from '../tasks/store.ts'
import type { AskedChange, AskedFeedback } from './import.ts'
import type { Mark } from './store.ts'
import { keepWhoWasThere } from './whoWasThere.ts'

interface Taking {
  now: Instant
  personId: number
  stores: Stores
}

/**
 * Makes the changes of marks that a file asks for. The caller holds the transaction.
 * @returns members set apart whose mark came out with it, since that of their group is out, and who are told
 */
export function takeMarks(
  { changes, feedback }: { changes: readonly AskedChange[]; feedback: readonly AskedFeedback[] },
  taking: Taking,
): { task: Task; member: number }[] {
  const told = changes.flatMap((change) => {
    const out = takeMark(change, taking)
    keepWhoWasThere(change.task, change.work, taking.stores)
    return out && change.member !== null ? [{ task: change.task, member: change.member }] : []
  })
  for (const one of feedback) takeFeedback(one, taking)
  return told
}

/** Changes one mark; true where one that was there comes out by it. */
function takeMark(
  { task, work, member, to }: AskedChange,
  { now, personId, stores: { marks } }: Taking,
): boolean {
  const known = member === null ? work.mark : (work.apart.find(({ apart_id }) => apart_id === member) ?? null)
  if (to === null) {
    if (known) marks.drop(known.id)
    return false
  }
  const fields = fieldsOf(task, known, to)
  // Somebody set apart from a mark that is out has theirs out with it, once it is whole.
  const whole = totalOf(
    { criteria: criteriaOf(task) },
    { placements: JSON.parse(fields.placements), points: fields.points },
  )
  const out = member === null || whole === null ? null : (work.mark?.released_at ?? null)
  if (!known) {
    marks.add(task.id, work.owner, member, fields, { now, personId, releasedAt: out })
    return false
  }
  marks.change(known.id, fields, now, personId)
  if (out === null || known.released_at !== null) return false
  marks.release(known.id, now)
  return true
}

function fieldsOf(
  task: Task,
  known: Mark | null,
  to: number | string,
): Pick<Mark, 'placements' | 'points' | 'feedback'> {
  const { placements = '{}', feedback = '' } = known ?? {}
  if (typeof to === 'number') return { placements, points: to, feedback }
  // Where somebody was placed on a row that is gone stays, in case it comes back.
  const criteria = criteriaOf(task)
  const before = JSON.parse(placements) as Placements
  const ids = new Set(criteria.map(({ id }) => id))
  const gone = Object.entries(before).filter(([id]) => !ids.has(id))
  const next = { ...Object.fromEntries(gone), ...fitPlacements(criteria, JSON.parse(to) as Placements) }
  return { placements: JSON.stringify(next), points: null, feedback }
}

function takeFeedback(
  { task, work, member, to }: AskedFeedback,
  { now, personId, stores: { marks } }: Taking,
): void {
  // As it stands now: the points of the same file may have made it.
  const known = marks
    .ofTask(task.id)
    .find(
      ({ group_id, student_id, apart_id }) =>
        group_id === work.owner.group_id && student_id === work.owner.student_id && apart_id === member,
    )
  if (known)
    marks.change(
      known.id,
      { placements: known.placements, points: known.points, feedback: to },
      now,
      personId,
    )
  else if (member === null)
    marks.add(
      task.id,
      work.owner,
      null,
      { placements: '{}', points: null, feedback: to },
      { now, personId, releasedAt: null },
    )
}
