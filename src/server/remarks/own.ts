import type { OwnRemarks } from '../../contract/remarks.ts'
import type { Instant } from '../../core/instant.ts'
import type { Course } from '../courses/store.ts'
import { fileViews } from '../files/views.ts'
import { notFound } from '../http/problem.ts'
import type { Enrolment } from '../roster/store.ts'
import { namesFor } from '../seats/namesFor.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { criteriaOf } from '../tasks/owners.ts'
import { ownParts } from '../tasks/ownParts.ts'
import { counts, releasedMark } from '../tasks/released.ts'
import type { HandIn, Owner, Task } from '../tasks/store.ts'
import { handInView } from '../tasks/views.ts'
import { remarkViews } from './views.ts'

/** A student’s own work with a mark that is out. */
export interface OwnWorkReached {
  task: Task
  owner: Owner
  /** Every version, oldest first, and those of them that stand and are the reader’s to see. */
  all: HandIn[]
  shown: HandIn[]
}

interface Asking {
  sheet: Sheet
  enrolment: Enrolment
  now: Instant
}

/**
 * Every work of a student for a task on which they may read what was said: what is theirs, with a mark that is theirs too
 * and is out.
 */
function readable(task: Task, { sheet, enrolment, now }: Asking, stores: Stores): OwnWorkReached[] {
  const { seats, tasks, marks } = stores
  if (task.removed_at !== null || enrolment.role !== 'student' || enrolment.status !== 'active') return []
  const held = seats.heldBy(sheet.id, enrolment.id).map(({ group_id }) => group_id)
  const given = marks.ofTask(task.id)
  return ownParts(task, enrolment.id, held, now, stores).flatMap(({ owner, past }): OwnWorkReached[] => {
    if (owner === null) return []
    const all = tasks.ofOwner(task.id, owner)
    if (!releasedMark(task, owner, all, given, enrolment.id, stores)) return []
    const shown = all.filter((one) => one.taken_back_at === null && (!past || counts(one, enrolment.id)))
    return [{ task, owner, all, shown }]
  })
}

/** Whether a student reads what goes back with the mark of an owner for a task. */
export function readsMark(taskId: number, owner: Owner, by: Asking, stores: Stores): boolean {
  const task = stores.tasks.byId(taskId)
  return (
    task !== undefined &&
    readable(task, by, stores).some(
      (one) => one.owner.group_id === owner.group_id && one.owner.student_id === owner.student_id,
    )
  )
}

/**
 * The work that a student asks for: of a group, by its code, or `self`.
 * @throws ProblemError `not-found` where nothing is theirs to read
 */
export function reachOwn(by: Asking, code: string, owner: string, stores: Stores): OwnWorkReached {
  const task = stores.tasks.byCode(by.sheet.id, code)
  const groupId = owner === 'self' ? null : (stores.sheets.group(owner)?.id ?? 0)
  const reached = task && readable(task, by, stores).find((one) => one.owner.group_id === groupId)
  if (!reached) throw notFound('There are no remarks for you here, or not yet. Look at your tasks.')
  return reached
}

/** What a student has of the remarks on their work. */
export function ownRemarksView(
  { task, owner, all, shown }: OwnWorkReached,
  sheet: Sheet,
  course: Course,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): OwnRemarks {
  const { sheets, remarks } = stores
  const nameOf = namesFor(sheet, reader, now, stores)
  // Whoever the work counts for as well was a mate, whatever became of the group.
  const mates = new Set(
    shown.filter((one) => counts(one, reader.id)).flatMap(({ members }) => JSON.parse(members) as number[]),
  )
  const named = (id: number) => nameOf(id, mates.has(id))
  const group = owner.group_id === null ? undefined : sheets.groupById(owner.group_id)
  return {
    now,
    sheet: { code: sheet.code, title: sheet.title, courseCode: course.course_code, zone: course.zone },
    task: { code: task.code, title: task.title, criteria: criteriaOf(task) },
    owner: group?.code ?? 'self',
    group: group ? (sheets.topicById(group.topic_id)?.title ?? '') : null,
    handIns: shown
      .toReversed()
      .map((one) => handInView(one, (id) => nameOf(id, counts(one, reader.id) && counts(one, id)), stores)),
    remarks: remarkViews({ task, owner, all, shown }, reader, named, stores),
    files: fileViews(remarks.files(task.id, owner), named, stores),
    mayAnswer: task.answers === 1 && sheet.archived_at === null,
  }
}
