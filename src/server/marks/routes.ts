import * as contract from '../../contract/marks.ts'
import { fitPlacements, fitPoints, type Placements, pastMost, totalOf } from '../../core/marks.ts'
import type { Course } from '../courses/store.ts'
import { sendFile } from '../http/files.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import { markedMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { createReads, criteriaOf, type Work, workOn } from '../tasks/owners.ts'
import type { Task } from '../tasks/store.ts'
import { mayMark, workView } from '../tasks/views.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { deskView } from './deskView.ts'
import { courseMarks, marksExport } from './exports.ts'
import { readMarks } from './import.ts'
import { notingMarks } from './noteMarks.ts'
import { createPresence } from './presence.ts'
import type { Mark } from './store.ts'
import { takeMarks } from './takeMarks.ts'
import { keepWhoWasThere } from './whoWasThere.ts'

/** Marks: given at the desk, seen by students once they are released. */
export function bindMarks(serve: Serve, stores: Stores, unit: UnitOfWork, mailer: Mailer): void {
  const { tasks, marks, roster, ledger, there } = stores
  const taskOf = (sheet: Sheet, code: string): Task => {
    const task = tasks.byCode(sheet.id, code)
    if (!task || task.removed_at !== null) throw notFound('The sheet has no such task.')
    return task
  }
  serve(contract.desk, ({ sheet, course, enrolment, params, now }) =>
    deskView(taskOf(sheet, params.task), sheet, course, enrolment, now, stores),
  )

  serve(contract.setMark, ({ sheet, course, enrolment, person, params, body, now }) => {
    const task = taskOf(sheet, params.task)
    unit.onSheet(sheet, now, () => {
      const reads = createReads(enrolment, sheet, stores)
      const work = workOn(task, sheet, stores).find((one) => one.code === body.owner && reads(one.owner))
      if (!work) throw fieldProblem('owner', 'There is no such group or student for this task any more.')
      if (mayMark(enrolment, course) === 'none')
        throw new ProblemError('not-allowed', 'On this course tutors read the work; instructors mark it.')
      const criteria = criteriaOf(task)
      const given = { placements: body.placements, points: body.points }
      const past = pastMost({ points: task.points, criteria }, given)
      if (past.length > 0) {
        const named = criteria.find(({ id }) => id === past[0])
        const most = named ? `“${named.title}” brings ${named.points}` : `The task brings ${task.points}`
        throw fieldProblem(past[0] ?? 'points', `${most} points at most.`, 'points-past-most')
      }
      const apartId = body.apart === null ? null : memberOf(work, body.apart)
      const known =
        apartId === null ? work.mark : (work.apart.find(({ apart_id }) => apart_id === apartId) ?? null)
      if ((known?.version ?? 0) !== body.version) {
        const by = known ? roster.personById(known.changed_by) : undefined
        const who = by ? (roster.enrolmentIn(course.id, by.id)?.name ?? by.email) : 'Somebody'
        throw new ProblemError(
          'marked-meanwhile',
          `${who} changed this mark meanwhile. Nothing of theirs was overwritten; look at it, then go on.`,
        )
      }
      // Where somebody was placed on a row that is gone stays, in case it comes back.
      const ids = new Set(criteria.map(({ id }) => id))
      const gone = Object.entries(known ? (JSON.parse(known.placements) as Placements) : {}).filter(
        ([id]) => !ids.has(id),
      )
      const placements = { ...Object.fromEntries(gone), ...fitPlacements(criteria, body.placements) }
      const fields = {
        placements: JSON.stringify(placements),
        points: criteria.length > 0 || body.points === null ? null : fitPoints(body.points, task.points),
        feedback: body.feedback,
      }
      // Somebody set apart from a mark that is out has theirs out with it, once it is whole.
      const out = apartId === null ? null : (work.mark?.released_at ?? null)
      const whole = totalOf({ criteria }, { placements, points: fields.points }) !== null
      const noting = { sheet, actorId: person.id, now, stores }
      notingMarks([{ task, owners: new Set([work.code]) }], noting, () => {
        if (body.clear && known && apartId !== null) marks.drop(known.id)
        else if (known) {
          marks.change(known.id, fields, now, person.id)
          if (apartId !== null && out !== null && whole && known.released_at === null) {
            marks.release(known.id, now)
            tell(sheet, course, task, apartId)
          }
        } else {
          const releasedAt = whole ? out : null
          marks.add(task.id, work.owner, apartId, fields, { now, personId: person.id, releasedAt })
        }
        keepWhoWasThere(task, work, stores)
      })
    })
    return deskView(task, sheet, course, enrolment, now, stores)

    function memberOf({ members }: Work, code: string): number {
      const id = members.find((member) => roster.enrolment(member)?.code === code)
      if (id === undefined) throw fieldProblem('apart', 'That person is not among those whose work it is.')
      return id
    }
  })

  serve(contract.setThere, ({ sheet, course, enrolment, person, params, body, now }) => {
    const task = taskOf(sheet, params.task)
    unit.onSheet(sheet, now, () => {
      const reads = createReads(enrolment, sheet, stores)
      const work = workOn(task, sheet, stores).find((one) => one.code === body.owner && reads(one.owner))
      const group = work?.owner.group_id ?? null
      if (!work || group === null)
        throw fieldProblem('owner', 'There is no such group for this task any more.')
      if (mayMark(enrolment, course) === 'none')
        throw new ProblemError('not-allowed', 'On this course tutors read the work; instructors mark it.')
      if (work.standing)
        throw new ProblemError(
          'handed-in-meanwhile',
          'The group has handed in, so the mark is for those for whom it was handed in.',
        )
      const students = new Map(
        roster.everybody(course.id).flatMap((one) => (one.role === 'student' ? [[one.code, one.id]] : [])),
      )
      const people = [...new Set(body.people)].map((code, i) => {
        const id = students.get(code)
        if (id === undefined)
          throw fieldProblem(`people[${i}]`, 'That person is no student of this course any more.')
        return id
      })
      if (people.length === 0)
        throw fieldProblem('people', 'Somebody has to have been there. Take the mark away instead.')
      const before = new Set(work.members)
      const came = people.filter((id) => !before.has(id))
      const gone = work.members.filter((id) => !people.includes(id))
      there.set(task.id, group, people)
      there.setByHand(task.id, group)
      for (const enrolmentId of [...came, ...gone]) {
        const was = came.includes(enrolmentId)
        const detail = { task: task.code, title: task.title, group, there: was, reason: body.reason }
        const kind = 'there-corrected'
        ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind, enrolmentId, detail })
        if (was && work.mark?.released_at != null) tell(sheet, course, task, enrolmentId)
      }
    })
    return deskView(task, sheet, course, enrolment, now, stores)
  })

  serve(contract.previewMarks, ({ sheet, course, body }) => readMarks(body, sheet, course, stores).preview)

  serve(contract.importMarks, ({ sheet, course, enrolment, person, body, now }) => {
    unit.onSheet(sheet, now, () => {
      const { preview, changes, feedback } = readMarks(body, sheet, course, stores)
      if (preview.fingerprint !== body.fingerprint) {
        throw new ProblemError(
          'marked-meanwhile',
          'Marks were changed since the file was looked at. Nothing was taken; look at it again.',
        )
      }
      if (preview.faults.length > 0 && !body.skipFaults)
        throw new ProblemError('marks-have-faults', 'Some lines are wrong. Mend them, or leave them out.')
      const given = [...new Set(changes.map(({ task }) => task))].map((task) => ({ task, owners: null }))
      const noting = { sheet, actorId: person.id, now, stores }
      let made: ReturnType<typeof takeMarks> = []
      notingMarks(given, noting, () => {
        made = takeMarks({ changes, feedback }, { now, personId: person.id, stores })
      })
      for (const { task, member } of made) tell(sheet, course, task, member)
    })
    return workView(sheet, course, enrolment, now, stores)
  })

  const presence = createPresence()
  serve(contract.deskPlace, ({ sheet, enrolment, params, body, now }) => {
    const task = taskOf(sheet, params.task)
    const reads = createReads(enrolment, sheet, stores)
    const readable = new Set(
      workOn(task, sheet, stores)
        .filter(({ owner }) => reads(owner))
        .map(({ code }) => code),
    )
    if (!readable.has(body.owner))
      throw fieldProblem('owner', 'There is no such work for this task any more.')
    const others = presence.place(task.id, { name: enrolment.name, by: enrolment.id, owner: body.owner }, now)
    return { others: others.filter(({ owner }) => readable.has(owner)) }
  })

  serve(contract.marksFile, async ({ res, sheet, course, params, now }) => {
    const file = await marksExport(params.file, sheet, course, now, stores)
    if (!file) throw notFound('There is no such file. Choose one from the list under Work.')
    sendFile(res, [course.course_code, sheet.title, 'marks', params.file], file)
    return undefined
  })

  serve(contract.courseMarksFile, async ({ res, course, params, now }) => {
    const file = await courseMarks(params.file, course, now, stores)
    if (!file) throw notFound('There is no such file. Choose one from the list on the roster’s page.')
    sendFile(res, [course.course_code, params.file], file)
    return undefined
  })

  serve(contract.releaseMarks, ({ sheet, course, enrolment, person, params, body, now }) => {
    const task = taskOf(sheet, params.task)
    unit.onSheet(sheet, now, () => {
      const criteria = criteriaOf(task)
      const whole = (mark: Mark | null) =>
        mark !== null &&
        totalOf({ criteria }, { placements: JSON.parse(mark.placements), points: mark.points }) !== null
      const chosen = workOn(task, sheet, stores).filter(
        ({ code, mark }) =>
          (body.owners === null || body.owners.includes(code)) &&
          whole(mark) &&
          (mark?.released_at != null) !== body.released,
      )
      if (chosen.length === 0) {
        throw new ProblemError(
          'nothing-to-release',
          body.released ? 'No mark among them is whole and still hidden.' : 'No mark among them is out.',
        )
      }
      for (const { mark, apart, members } of chosen) {
        // A mark set apart that is not whole stays hidden, and with it the group's from that member.
        const held = new Set(apart.filter((one) => !whole(one)).map(({ apart_id }) => apart_id))
        for (const one of [mark, ...apart]) {
          if (one && !(body.released && held.has(one.apart_id)))
            marks.release(one.id, body.released ? now : null)
        }
        if (!body.released) continue
        for (const member of members) if (!held.has(member)) tell(sheet, course, task, member)
      }
      const kind = body.released ? 'marks-released' : 'marks-hidden'
      const detail = { task: task.code, title: task.title, owners: chosen.length }
      ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind, detail })
    })
    return deskView(task, sheet, course, enrolment, now, stores)
  })

  function tell(sheet: Sheet, course: Course, task: Task, memberId: number): void {
    const member = roster.enrolment(memberId)
    if (member?.status !== 'active') return
    mailer.send(markedMail(member.email, course.course_code, task.title, sheet.title))
  }
}
