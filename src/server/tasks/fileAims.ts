import { MOST_FILES, sayBytes } from '../../core/files.ts'
import { takesHandIns } from '../../core/task.ts'
import type { MayRead } from '../files/routes.ts'
import type { AimRules } from '../files/uploads.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import type { Stores } from '../stores.ts'
import { groupsCounted } from './counted.ts'
import { partsOf } from './gates.ts'
import { createReads } from './owners.ts'
import { workRoom } from './room.ts'
import type { HandIn, Owner } from './store.ts'

/** Files brought for a hand-in by those whose work it is, while it can be handed in. */
export function workAim(
  stores: Stores,
): AimRules<{ kind: 'work'; task: number; group: number | null; student: number | null }> {
  const { tasks, seats } = stores
  const ownerOf = (aim: { group: number | null; student: number | null }) =>
    ({ group_id: aim.group, student_id: aim.student }) as Owner
  return {
    room(aim, { sheet, enrolment, now }) {
      const held = seats.heldBy(sheet.id, enrolment.id).map(({ group_id }) => group_id)
      const part = partsOf(tasks.byId(aim.task), enrolment.id, held, now, stores).find(
        ({ owner }) => owner?.group_id === aim.group && owner?.student_id === aim.student,
      )
      if (!part?.owner) throw notFound()
      const { task, owner, gate } = part
      if (!takesHandIns(gate))
        throw new ProblemError('task-over', 'It is too late to hand anything in. Ask your instructor.')
      if (task.takes_files === 0)
        throw new ProblemError('extra-off', 'For this task no files are handed in. Give a link, or write.')
      const room = workRoom(task, sheet, owner, stores)
      return { ...room, files: MOST_FILES - tasks.draftFiles(task.id, owner).length }
    },
    take(aim, file, _, telling) {
      tasks.addDraftFile(aim.task, ownerOf(aim), file.id)
      if (aim.group !== null) telling.page(aim.group)
    },
  }
}

/** Files that instructors put beside a task. */
export function taskAim(stores: Stores): AimRules<{ kind: 'task'; task: number }> {
  const { tasks, groups, ledger } = stores
  return {
    room({ task: id }, { sheet, enrolment }) {
      const task = tasks.byId(id)
      if (!task || task.removed_at !== null || enrolment.role !== 'instructor') throw notFound()
      const { fileBytes, groupBytes } = groups.extras(sheet.id)
      return { fileBytes, left: groupBytes, files: MOST_FILES - tasks.taskFiles(id).length }
    },
    take({ task: id }, file, { sheet, enrolment, now }) {
      tasks.addTaskFile(id, file.id)
      const task = tasks.byId(id)
      const detail = {
        task: task?.code,
        named: task?.title,
        files: { from: null, to: `${file.name}, ${sayBytes(file.size)}` },
      }
      ledger.note({ sheetId: sheet.id, at: now, actorId: enrolment.person_id, kind: 'task-changed', detail })
    },
  }
}

/**
 * Whether a file of a task is read. What was brought or handed in: by those whose work it is and for whom it counted, by
 * their tutors, by instructors. What comes with a task: by staff, and by students for whom the task is there.
 */
export function readsTaskFile(stores: Stores): MayRead {
  const { tasks, seats, sheets } = stores
  return (file, { sheet, enrolment, now }) => {
    if (enrolment.status !== 'active') return false
    const held = seats.heldBy(sheet.id, enrolment.id).map(({ group_id }) => group_id)
    const attachedTo = tasks.taskWith(file.id)
    if (attachedTo !== undefined) {
      if (enrolment.role !== 'student') return true
      const task = tasks.byId(attachedTo)
      if (!task || task.removed_at !== null) return false
      return (
        partsOf(task, enrolment.id, held, now, stores).some(({ owner }) => owner !== null) ||
        groupsCounted(task, enrolment.id, stores).length > 0
      )
    }
    const draft = tasks.draftWith(file.id)
    const handIns = tasks.handInsWith(file.id)
    const owner = draft ?? handIns[0]
    if (!owner) return undefined
    if (enrolment.role !== 'student')
      return (
        createReads(enrolment, sheet, { sheets, seats })(owner as Owner) ||
        handIns.some((one) => readsAgain(one, enrolment.id))
      )
    const own = owner.group_id === null ? owner.student_id === enrolment.id : held.includes(owner.group_id)
    return own || handIns.some(({ members }) => countsFor(members))

    /** Whether the work was drawn for somebody's second reading. */
    function readsAgain({ task_id, group_id, student_id }: HandIn, readerId: number): boolean {
      return stores.second
        .ofTask(task_id)
        .some(
          (one) => one.reader_id === readerId && one.group_id === group_id && one.student_id === student_id,
        )
    }
    function countsFor(members: string): boolean {
      return (JSON.parse(members) as number[]).includes(enrolment.id)
    }
  }
}
