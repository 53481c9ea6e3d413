import type { InferType } from 'yup'
import * as contract from '../../contract/remarks.ts'
import { shownAs } from '../../core/files.ts'
import { fitPoints } from '../../core/marks.ts'
import { fitPassage, MOST_REMARKS } from '../../core/remarks.ts'
import type { Course } from '../courses/store.ts'
import type { Disk } from '../files/disk.ts'
import { sendFile } from '../http/files.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { createReads, criteriaOf, type Work, workOn } from '../tasks/owners.ts'
import type { HandIn, Task } from '../tasks/store.ts'
import { mayMark } from '../tasks/views.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { ownRemarksView, reachOwn } from './own.ts'
import { jobFor } from './pdf/job.ts'
import type { PdfMaker } from './pdf/maker.ts'
import type { Remark, RemarkFields } from './store.ts'
import { remarksView, remarkViews } from './views.ts'

type Placed = Pick<InferType<typeof contract.remarkBody>, 'version' | 'file' | 'place'>
type Said = Pick<InferType<typeof contract.remarkBody>, 'words' | 'criterion' | 'points'>

/** Remarks on works: made by those who mark, read by students once their mark is out, answered once. */
export function bindRemarks(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  disk: Disk,
  pdfs: PdfMaker,
): void {
  const { tasks, remarks, files, roster } = stores

  const workOf = (sheet: Sheet, enrolment: Enrolment, code: string, owner: string): Work => {
    const task = tasks.byCode(sheet.id, code)
    if (!task || task.removed_at !== null) throw notFound('The sheet has no such task.')
    const reads = createReads(enrolment, sheet, stores)
    const work = workOn(task, sheet, stores).find((one) => one.code === owner && reads(one.owner))
    if (!work) throw notFound('There is no such group or student for this task any more.')
    return work
  }
  const remarkOf = (work: Work, code: string): Remark => {
    const remark = remarks.byCode(work.task.id, code)
    const { owner } = work
    if (!remark || remark.group_id !== owner.group_id || remark.student_id !== owner.student_id)
      throw notFound('There is no such remark on this work.')
    return remark
  }
  const mayWrite = (enrolment: Enrolment, course: Course) => {
    if (mayMark(enrolment, course) === 'none')
      throw new ProblemError('not-allowed', 'On this course tutors read the work; instructors mark it.')
  }

  serve(contract.remarks, ({ sheet, course, enrolment, params }) =>
    remarksView(workOf(sheet, enrolment, params.task, params.owner), sheet, course, enrolment, stores),
  )

  serve(contract.addRemark, ({ sheet, course, enrolment, params, body, now }) => {
    unit.onSheet(sheet, now, () => {
      const work = workOf(sheet, enrolment, params.task, params.owner)
      mayWrite(enrolment, course)
      const { task, owner } = work
      // Sent again: its answer was lost on the way, or it was undone and is done anew.
      const known = remarks.byKey(task.id, enrolment.id, body.key)
      if (known) {
        remarks.setRemoved(known.id, null)
        return
      }
      if (remarks.ofOwner(task.id, owner).length >= MOST_REMARKS)
        throw fieldProblem(
          'words',
          `A work has ${MOST_REMARKS} remarks at most. Say the rest in the feedback.`,
        )
      const fields = { ...whereIn(work, body), ...whatOf(work.task, body) }
      remarks.add(task.id, owner, fields, { byId: enrolment.id, key: body.key, now })
    })
    return remarksView(workOf(sheet, enrolment, params.task, params.owner), sheet, course, enrolment, stores)
  })

  serve(contract.changeRemark, ({ sheet, course, enrolment, params, body, now }) => {
    unit.onSheet(sheet, now, () => {
      const work = workOf(sheet, enrolment, params.task, params.owner)
      mayWrite(enrolment, course)
      const known = remarkOf(work, params.remark)
      if (known.removed_at !== null)
        throw new ProblemError(
          'remark-changed',
          'Somebody took this remark away meanwhile. What you wrote is still in its field.',
        )
      if (known.edition !== body.edition) {
        const name = roster.enrolment(known.by_id)?.name ?? 'Somebody'
        throw new ProblemError(
          'remark-changed',
          `The remark by ${name} was changed meanwhile. Nothing was overwritten; look at it, then go on.`,
        )
      }
      const where = body.move
        ? whereIn(work, body.move)
        : { version: known.version, file_id: known.file_id, place: known.place }
      remarks.change(known.id, { ...where, ...whatOf(work.task, body) }, now)
    })
    return remarksView(workOf(sheet, enrolment, params.task, params.owner), sheet, course, enrolment, stores)
  })

  serve(contract.removeRemark, ({ sheet, course, enrolment, params, now }) => {
    unit.onSheet(sheet, now, () => {
      const work = workOf(sheet, enrolment, params.task, params.owner)
      mayWrite(enrolment, course)
      const known = remarkOf(work, params.remark)
      if (known.removed_at === null) remarks.setRemoved(known.id, now)
    })
    return remarksView(workOf(sheet, enrolment, params.task, params.owner), sheet, course, enrolment, stores)
  })

  serve(contract.restoreRemark, ({ sheet, course, enrolment, params, now }) => {
    unit.onSheet(sheet, now, () => {
      const work = workOf(sheet, enrolment, params.task, params.owner)
      mayWrite(enrolment, course)
      remarks.setRemoved(remarkOf(work, params.remark).id, null)
    })
    return remarksView(workOf(sheet, enrolment, params.task, params.owner), sheet, course, enrolment, stores)
  })

  serve(contract.removeFeedbackFile, ({ sheet, course, enrolment, params, now }) => {
    unit.onSheet(sheet, now, () => {
      const work = workOf(sheet, enrolment, params.task, params.owner)
      mayWrite(enrolment, course)
      const file = files.byCode(sheet.id, params.file)
      if (!file || !remarks.files(work.task.id, work.owner).includes(file.id))
        throw notFound('That file does not go back with this mark.')
      remarks.dropFile(file.id)
      files.drop(file.id)
    })
    return remarksView(workOf(sheet, enrolment, params.task, params.owner), sheet, course, enrolment, stores)
  })

  serve(contract.remarkedPdf, async ({ res, sheet, course, enrolment, person, params }) => {
    const work = workOf(sheet, enrolment, params.task, params.owner)
    const { task, owner, handIns } = work
    const handIn = versionOf(params.file, handIns, work.standing ?? handIns.at(-1))
    const nameOf = (id: number) => roster.enrolment(id)?.name ?? ''
    const views = remarkViews({ task, owner, all: handIns, shown: handIns }, enrolment, nameOf, stores)
    const job = jobFor({ task, owner, handIn, views, sheet, course }, nameOf, disk, stores)
    const content = Buffer.from(await pdfs.make(job, person.id))
    sendFile(res, [task.title, job.owner, 'with remarks.pdf'], { type: 'application/pdf', content })
    return undefined
  })

  serve(contract.ownRemarks, ({ sheet, course, enrolment, params, now }) => {
    const reached = reachOwn({ sheet, enrolment, now }, params.task, params.owner, stores)
    return ownRemarksView(reached, sheet, course, enrolment, now, stores)
  })

  serve(contract.answerRemark, ({ sheet, course, enrolment, params, body, now }) => {
    unit.onSheet(sheet, now, () => {
      const reached = reachOwn({ sheet, enrolment, now }, params.task, params.owner, stores)
      const shown = ownRemarksView(reached, sheet, course, enrolment, now, stores)
      const known = remarks.byCode(reached.task.id, params.remark)
      if (!known || !shown.remarks.some(({ code }) => code === params.remark))
        throw notFound('That remark is not there any more.')
      if (!shown.mayAnswer)
        throw new ProblemError('remark-answered', 'Your instructor takes no answers to remarks here.')
      if (remarks.isAnswered(known.id, enrolment.id))
        throw new ProblemError('remark-answered', 'You have answered this remark; it is answered once.')
      remarks.answer(known.id, enrolment.id, body.words, now)
    })
    const reached = reachOwn({ sheet, enrolment, now }, params.task, params.owner, stores)
    return ownRemarksView(reached, sheet, course, enrolment, now, stores)
  })

  serve(contract.ownRemarkedPdf, async ({ res, sheet, course, enrolment, person, params, now }) => {
    const reached = reachOwn({ sheet, enrolment, now }, params.task, params.owner, stores)
    const { task, owner, shown } = reached
    const handIn = versionOf(params.file, shown, shown.at(-1))
    const view = ownRemarksView(reached, sheet, course, enrolment, now, stores)
    const by = view.handIns.find(({ version }) => version === handIn.version)?.by ?? ''
    const job = jobFor({ task, owner, handIn, views: view.remarks, sheet, course }, () => by, disk, stores)
    const content = Buffer.from(await pdfs.make(job, person.id))
    sendFile(res, [task.title, job.owner, 'with remarks.pdf'], { type: 'application/pdf', content })
    return undefined
  })

  /** The version that a file’s name asks for. */
  function versionOf(file: string, handIns: readonly HandIn[], newest: HandIn | undefined): HandIn {
    const asked = /^version-(\d{1,6})\.pdf$/.exec(file)?.[1]
    const found =
      asked !== undefined
        ? handIns.find(({ version }) => version === Number(asked))
        : file === 'work.pdf'
          ? newest
          : undefined
    if (!found) throw notFound('There is no such version of the work.')
    return found
  }

  /** Where something new is said, once the work has such a place. */
  function whereIn(
    work: Work,
    { version, file, place }: Placed,
  ): Pick<RemarkFields, 'version' | 'file_id' | 'place'> {
    const handIn = work.handIns.find((one) => one.version === version)
    if (!handIn) throw fieldProblem('version', 'There is no such version of the work.')
    if (handIn.taken_back_at !== null)
      throw new ProblemError(
        'version-withdrawn',
        `Version ${version} was withdrawn by its group, so nothing new is said on it. What you wrote is still in its field.`,
      )
    if (file === null) {
      const passage = place.kind === 'passage' ? fitPassage(handIn.text, place.start, place.end) : null
      if (!passage || (place.kind === 'passage' && place.end > handIn.text.length))
        throw fieldProblem('place', 'The text has no such passage. Mark it again.')
      return { version, file_id: null, place: JSON.stringify(passage) }
    }
    const known = files.byCode(work.task.sheet_id, file)
    if (!known || !(JSON.parse(handIn.files) as number[]).includes(known.id))
      throw fieldProblem('file', `Version ${version} has no such file.`)
    const kind = shownAs(known.type)
    const fits =
      kind === 'text'
        ? place.kind === 'passage' && place.end <= known.size
        : place.kind !== 'passage' && (kind === 'pages' || (kind === 'picture' && place.page === 1))
    if (!fits) throw fieldProblem('place', `“${known.name}” has no such place. Mark it again.`)
    return { version, file_id: known.id, place: JSON.stringify(place) }
  }

  /** What is said, once it says something, and its points are there to be had. */
  function whatOf(
    task: Task,
    { words, criterion, points }: Said,
  ): Pick<RemarkFields, 'words' | 'criterion' | 'points'> {
    if (words === '' && points === null)
      throw fieldProblem('words', 'The remark says nothing. Write something, or give points.')
    const criteria = criteriaOf(task)
    const named = criterion === null ? null : criteria.find(({ id }) => id === criterion)
    if (named === undefined) throw fieldProblem('criterion', 'The task has no such criterion any more.')
    if (points !== null && named === null && criteria.length > 0)
      throw fieldProblem('criterion', 'Say to which criterion the points belong.')
    const most = named ? named.points : task.points
    if (points !== null && Math.abs(points) > most)
      throw fieldProblem(
        'points',
        named ? `“${named.title}” brings ${most} points at most.` : `The task brings ${most} points at most.`,
        'points-past-most',
      )
    const given = points === null ? null : Math.sign(points) * fitPoints(Math.abs(points), most)
    return { words, criterion: named?.id ?? null, points: given }
  }
}
