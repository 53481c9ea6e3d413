import { MOST_FILES } from '../../core/files.ts'
import type { MayRead } from '../files/routes.ts'
import type { AimRules, Uploading } from '../files/uploads.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import type { Stores } from '../stores.ts'
import { createReads, workOn } from '../tasks/owners.ts'
import type { Owner } from '../tasks/store.ts'
import { mayMark } from '../tasks/views.ts'
import { readsMark } from './own.ts'

/** Files that whoever marks a work gives back with its mark. */
export function feedbackAim(
  stores: Stores,
): AimRules<{ kind: 'feedback'; task: number; group: number | null; student: number | null }> {
  const { tasks, groups, courses, remarks } = stores
  const ownerOf = (aim: { group: number | null; student: number | null }) =>
    ({ group_id: aim.group, student_id: aim.student }) as Owner
  return {
    room(aim, { sheet, enrolment }) {
      const task = tasks.byId(aim.task)
      const course = courses.byId(sheet.course_id)
      const owner = ownerOf(aim)
      if (!task || task.removed_at !== null || !course || enrolment.role === 'student') throw notFound()
      if (!createReads(enrolment, sheet, stores)(owner)) throw notFound()
      if (mayMark(enrolment, course) === 'none')
        throw new ProblemError('not-allowed', 'On this course tutors read the work; instructors mark it.')
      const { fileBytes, groupBytes } = groups.extras(sheet.id)
      return { fileBytes, left: groupBytes, files: MOST_FILES - remarks.files(task.id, owner).length }
    },
    take(aim, file) {
      remarks.addFile(file.id, aim.task, ownerOf(aim))
    },
  }
}

/**
 * What a file that goes back with a mark is for.
 * @param owner whose mark: a group’s code, or a student’s
 * @throws ProblemError `not-found` where there is no such work for whoever asks
 */
export function feedbackFor(
  { sheet, enrolment }: Uploading,
  taskCode: string,
  owner: string,
  stores: Stores,
): { kind: 'feedback'; task: number; group: number | null; student: number | null } {
  const task = stores.tasks.byCode(sheet.id, taskCode)
  if (!task || task.removed_at !== null || enrolment.role === 'student') throw notFound()
  const reads = createReads(enrolment, sheet, stores)
  const work = workOn(task, sheet, stores).find((one) => one.code === owner && reads(one.owner))
  if (!work) throw notFound('There is no such group or student for this task any more.')
  return { kind: 'feedback', task: task.id, group: work.owner.group_id, student: work.owner.student_id }
}

/** Whether a file that goes back with a mark is read: by staff who read the work, by students once the mark is out. */
export function readsFeedback(stores: Stores): MayRead {
  return (file, by) => {
    const meant = stores.remarks.fileFor(file.id)
    if (!meant) return undefined
    const { sheet, enrolment } = by
    if (enrolment.status !== 'active') return false
    if (enrolment.role !== 'student') return createReads(enrolment, sheet, stores)(meant)
    return readsMark(meant.task_id, meant, by, stores)
  }
}
