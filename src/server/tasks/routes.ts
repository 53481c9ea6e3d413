import * as own from '../../contract/ownWork.ts'
import * as contract from '../../contract/tasks.ts'
import { sayBytes } from '../../core/files.ts'
import { type Instant, shift } from '../../core/instant.ts'
import { countWords, takesHandIns } from '../../core/task.ts'
import { sayInstant } from '../../core/zone.ts'
import type { Course } from '../courses/store.ts'
import type { Disk } from '../files/disk.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { LedgerKind } from '../ledger/store.ts'
import type { Allowance } from '../mail/allowance.ts'
import { receiptMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Enrolment } from '../roster/store.ts'
import { mateNamesShown, namesFor } from '../seats/namesFor.ts'
import { type Edit, note } from '../sheets/edit.ts'
import type { Editing } from '../sheets/editing.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { endDifference, setDifference } from './differences.ts'
import { addTask, changeTask, setTaskRemoved, standingTask, taskOn } from './edits.ts'
import { criteriaOf } from './owners.ts'
import { HOLD, ownWork } from './ownViews.ts'
import { reachedTask } from './reached.ts'
import { giveShares } from './shares.ts'
import type { HandIn, Owner, Task } from './store.ts'
import { workView } from './views.ts'
import { sendHandIns } from './zip.ts'

/** Tasks: set by instructors, handed in by students for their group or themselves. */
export function bindTasks(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  mailer: Mailer,
  allowance: Allowance,
  disk: Disk,
): void {
  const { tasks, seats, sheets, roster, ledger, files, marks, there } = stores

  const edited = ({ sheet, course, person, enrolment, now }: Editing, change: (edit: Edit) => void) => {
    unit.onSheet(sheet, now, (current) => change({ sheet: current, course, person, now, stores }))
    return workView(sheets.byId(sheet.id) ?? sheet, course, enrolment, now, stores)
  }
  serve(contract.work, ({ sheet, course, enrolment, now }) => workView(sheet, course, enrolment, now, stores))
  serve(contract.knownCriteria, ({ course }) =>
    stores.sheets.ofCourse(course.id).flatMap((sheet) =>
      stores.tasks.ofSheet(sheet.id).flatMap((task) => {
        const criteria = criteriaOf(task)
        if (criteria.length === 0) return []
        const { code, title } = task
        return [{ sheet: sheet.code, sheetTitle: sheet.title, task: code, title, criteria }]
      }),
    ),
  )
  serve(contract.addTask, (context) => edited(context, (edit) => addTask(edit, context.body)))
  serve(contract.changeTask, (context) =>
    edited(context, (edit) => {
      changeTask(edit, standingTask(edit, context.params.task), context.body)
    }),
  )
  serve(contract.removeTask, (context) =>
    edited(context, (edit) => setTaskRemoved(edit, taskOn(edit, context.params.task), true)),
  )
  serve(contract.restoreTask, (context) =>
    edited(context, (edit) => setTaskRemoved(edit, taskOn(edit, context.params.task), false)),
  )

  serve(contract.addDifference, (context) =>
    edited(context, (edit) =>
      setDifference(edit, standingTask(edit, context.params.task), null, context.body),
    ),
  )
  serve(contract.changeDifference, (context) =>
    edited(context, (edit) =>
      setDifference(edit, standingTask(edit, context.params.task), context.params.difference, context.body),
    ),
  )
  serve(contract.removeDifference, (context) =>
    edited(context, (edit) =>
      endDifference(edit, standingTask(edit, context.params.task), context.params.difference),
    ),
  )

  serve(contract.handInsZip, async ({ res, sheet, course, enrolment, params }) => {
    const task = tasks.byCode(sheet.id, params.task)
    if (!task || task.removed_at !== null) throw notFound('The sheet has no such task.')
    await sendHandIns(res, task, { sheet, course, reader: enrolment }, { stores, disk })
    return undefined
  })

  serve(own.ownWork, ({ sheet, course, enrolment, now }) => ownWork(sheet, course, enrolment, now, stores))

  serve(own.handIn, ({ sheet, course, enrolment, person, params, body, now }) => {
    unit.onSheet(sheet, now, () => {
      const { task, owner, state } = reached(sheet, enrolment, params.task, body.group, now)
      if (!takesHandIns({ state })) throw notTaken(task, course)
      allowance.spend('hand-ins', enrolment.id, now)
      const text = task.takes_text === 1 ? body.text.trim() : ''
      const links = task.takes_links === 1 ? body.links : []
      const before = tasks.ofOwner(task.id, owner)
      const chosen = task.takes_files === 1 ? filesToHandIn(task, owner, before, body.files) : []
      const words = countWords(text)
      if (task.most_words !== null && words > task.most_words) {
        const most = task.most_words.toLocaleString('en')
        const message = `The text has ${words.toLocaleString('en')} words; ${most} are the most. What you wrote is kept.`
        throw fieldProblem('text', message, 'too-many-words')
      }
      if (text === '' && links.length === 0 && chosen.length === 0) {
        throw new ProblemError(
          'hand-in-empty',
          'Write something, or add a link or a file, before you hand it in.',
        )
      }
      const newest = before.at(-1)
      if ((newest?.version ?? 0) !== body.after) {
        const who = newest ? namesFor(sheet, enrolment, now, stores)(newest.by_id) : 'Somebody'
        const when = newest ? ` ${sayInstant(newest.handed_at, course.zone)}` : ''
        throw new ProblemError(
          'handed-in-meanwhile',
          `${who} handed in version ${newest?.version}${when}. Look at it; what you wrote is kept.`,
        )
      }
      const inTime = before.findLast(({ taken_back_at }) => taken_back_at === null)
      if (state === 'late' && inTime?.late === 0 && body.instead !== true)
        throw new ProblemError(
          'late-instead',
          `Version ${inTime.version} was handed in in time, and is what counts. This one would be late, and count instead. What you wrote is kept.`,
        )
      const members = membersOf(owner)
      tasks.handIn(
        task.id,
        owner,
        {
          version: (newest?.version ?? 0) + 1,
          by_id: enrolment.id,
          text,
          links: JSON.stringify(links),
          late: state === 'late' ? 1 : 0,
          members,
          files: chosen,
        },
        now,
      )
      const draft = tasks.draft(task.id, owner)
      if (draft) tasks.dropDraft(draft.id)
      for (const file of chosen) tasks.dropDraftFile(file)
      record(sheet, 'work-handed-in', task, owner, members, person.id, now)
      for (const member of members)
        receipt(
          sheet,
          course,
          { task, owner, by: enrolment, late: state === 'late', files: chosen },
          member,
          now,
        )
    })
    return ownWork(sheet, course, enrolment, now, stores)
  })

  serve(own.takeBack, ({ sheet, course, enrolment, person, params, body, now }) => {
    unit.onSheet(sheet, now, () => {
      const { task, owner, state } = reached(sheet, enrolment, params.task, body.group, now)
      const standing = tasks.standing(task.id, owner)
      if (!standing)
        throw new ProblemError('nothing-handed-in', 'Nothing is handed in, so there is nothing to withdraw.')
      if (state !== 'open')
        throw new ProblemError(
          'task-over',
          'It is due already: what was handed in stays. Ask your instructor.',
        )
      // A mark that was given stays with those for whom it was handed in.
      if (owner.group_id !== null && marks.isMarked(task.id, owner))
        there.set(task.id, owner.group_id, JSON.parse(standing.members) as number[])
      tasks.takeBack(task.id, owner, now)
      tasks.saveDraft(task.id, owner, { text: standing.text, links: standing.links, holderId: null }, now)
      for (const file of JSON.parse(standing.files) as number[]) tasks.addDraftFile(task.id, owner, file)
      record(sheet, 'work-taken-back', task, owner, JSON.parse(standing.members) as number[], person.id, now)
    })
    return ownWork(sheet, course, enrolment, now, stores)
  })

  serve(own.saveDraft, ({ sheet, course, enrolment, params, body, now }) => {
    unit.onSheet(sheet, now, (_, telling) => {
      const { task, owner, state } = reached(sheet, enrolment, params.task, body.group, now)
      if (!takesHandIns({ state })) throw notTaken(task, course)
      const draft = tasks.draft(task.id, owner)
      const held = draft && draft.held_at !== null && draft.held_at > shift(now, -HOLD)
      if (draft && held && draft.holder_id !== null && draft.holder_id !== enrolment.id) {
        const who = namesFor(sheet, enrolment, now, stores)(draft.holder_id)
        throw new ProblemError(
          'draft-held',
          `${who} is writing. You can write once they let go of it, or have not saved for two minutes.`,
        )
      }
      const { text, links, over } = body
      if (over !== undefined && (draft?.saved_at ?? null) !== over) {
        throw new ProblemError(
          'draft-changed',
          'It was changed elsewhere meanwhile, perhaps in another tab. Nothing was overwritten.',
        )
      }
      const takes = draft?.holder_id !== enrolment.id || !held
      tasks.saveDraft(task.id, owner, { text, links: JSON.stringify(links), holderId: enrolment.id }, now)
      // Who writes now shows to the others at once.
      if (takes && owner.group_id !== null) telling.page(owner.group_id)
    })
    return ownWork(sheet, course, enrolment, now, stores)
  })
  serve(own.letGoDraft, ({ sheet, course, enrolment, params, body, now }) => {
    unit.onSheet(sheet, now, (_, telling) => {
      const { task, owner } = reached(sheet, enrolment, params.task, body.group, now)
      const draft = tasks.draft(task.id, owner)
      if (draft?.holder_id === enrolment.id) tasks.letGoDraft(draft.id)
      if (owner.group_id !== null) telling.page(owner.group_id)
    })
    return ownWork(sheet, course, enrolment, now, stores)
  })

  serve(own.setShares, ({ sheet, course, enrolment, params, body, now }) => {
    unit.onSheet(sheet, now, () => {
      const task = tasks.byCode(sheet.id, params.task)
      const group = sheets.group(body.group)
      if (!task || task.removed_at !== null || group?.sheet_id !== sheet.id || enrolment.status !== 'active')
        throw notFound()
      giveShares(task, group.id, { sheet, reader: enrolment, now }, body, stores)
    })
    return ownWork(sheet, course, enrolment, now, stores)
  })

  serve(own.removeDraftFile, ({ sheet, course, enrolment, params, body, now }) => {
    unit.onSheet(sheet, now, () => {
      const { task, owner } = reached(sheet, enrolment, params.task, body.group, now)
      const file = files.byCode(sheet.id, params.file)
      if (!file || !tasks.draftFiles(task.id, owner).includes(file.id))
        throw notFound('That file was deleted meanwhile.')
      tasks.dropDraftFile(file.id)
      if (tasks.handInsWith(file.id).length === 0) files.drop(file.id)
    })
    return ownWork(sheet, course, enrolment, now, stores)
  })
  serve(contract.removeTaskFile, (context) =>
    edited(context, (edit) => {
      const task = taskOn(edit, context.params.task)
      const file = files.byCode(context.sheet.id, context.params.file)
      if (!file || !tasks.taskFiles(task.id).includes(file.id))
        throw notFound('That file was deleted meanwhile.')
      tasks.dropTaskFile(file.id)
      files.drop(file.id)
      note(edit, 'task-changed', { task: task.code, named: task.title, files: { from: file.name, to: null } })
    }),
  )

  /** The files that are handed in: those brought, or handed in before by the same owner. */
  function filesToHandIn(
    task: Task,
    owner: Owner,
    before: readonly HandIn[],
    codes: readonly string[],
  ): number[] {
    const known = new Set([
      ...tasks.draftFiles(task.id, owner),
      ...before.flatMap((one) => JSON.parse(one.files) as number[]),
    ])
    const byCode = new Map(files.byIds([...known]).map(({ id, code }) => [code, id]))
    return [...new Set(codes)].map((code, i) => {
      const id = byCode.get(code)
      if (id === undefined)
        throw fieldProblem(`files[${i}]`, 'One of the files was deleted meanwhile. Look at the list again.')
      return id
    })
  }

  const reached = (sheet: Sheet, student: Enrolment, code: string, group: string | null, now: Instant) =>
    reachedTask({ sheet, enrolment: student, now }, code, group, stores)

  /** For whom it counts: the active students of the group at this moment, or the student. */
  function membersOf({ group_id, student_id }: Owner): number[] {
    if (group_id === null) return [student_id]
    return seats
      .ofGroup(group_id)
      .map(({ enrolment_id }) => enrolment_id)
      .filter((id) => roster.enrolment(id)?.status === 'active')
  }

  function record(
    sheet: Sheet,
    kind: LedgerKind,
    task: Task,
    { group_id }: Owner,
    members: readonly number[],
    actorId: number,
    at: Instant,
  ): void {
    const detail = { task: task.code, title: task.title, ...(group_id !== null && { group: group_id }) }
    for (const enrolmentId of members)
      ledger.note({ sheetId: sheet.id, at, actorId, kind, enrolmentId, detail })
  }

  function receipt(
    sheet: Sheet,
    course: Course,
    work: { task: Task; owner: Owner; by: Enrolment; late: boolean; files: readonly number[] },
    memberId: number,
    now: Instant,
  ): void {
    const { task, owner, by, late } = work
    const member = roster.enrolment(memberId)
    if (!member) return
    const names = files.byIds(work.files).map(({ name, size }) => `${name}, ${sayBytes(size)}`)
    const who = member.id === by.id ? null : namesFor(sheet, member, now, stores)(by.id)
    const done = {
      course: course.course_code,
      task: task.title,
      by: who,
      group: owner.group_id !== null,
      late,
      at: sayInstant(now, course.zone),
      asks: task.shares !== 'no' && owner.group_id !== null && mateNamesShown(sheet, now),
    }
    mailer.send(receiptMail(member.email, done, names))
  }
}

function notTaken({ due_at, late_until, hands_in }: Task, { zone }: Course): ProblemError {
  if (hands_in === 0)
    return new ProblemError(
      'no-hand-in',
      'Nothing is handed in for this task: it is marked as it takes place.',
    )
  const end = late_until ?? due_at
  return new ProblemError(
    'task-over',
    `It was due ${end === null ? 'before' : sayInstant(end, zone)}. What you wrote is kept on this page; ask your instructor.`,
  )
}
