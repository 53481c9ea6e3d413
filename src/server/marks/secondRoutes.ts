import * as contract from '../../contract/marks.ts'
import { fitPlacements, fitPoints, pastMost } from '../../core/marks.ts'
import { drawSecond } from '../../core/secondReading.ts'
import { newLotNumber } from '../codes.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import { secondReadingMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { criteriaOf, type Work, workOn } from '../tasks/owners.ts'
import type { Owner, Task } from '../tasks/store.ts'
import { workView } from '../tasks/views.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { secondDesk } from './deskView.ts'
import { pointsOf } from './exports.ts'
import type { Second } from './secondStore.ts'

/** A second reading of a few works drawn by lot: blind to the first mark, and without effect on it. */
export function bindSecondReadings(serve: Serve, stores: Stores, unit: UnitOfWork, mailer: Mailer): void {
  const { tasks, second, roster, ledger } = stores
  const taskOf = (sheet: Sheet, code: string): Task => {
    const task = tasks.byCode(sheet.id, code)
    if (!task || task.removed_at !== null) throw notFound('The sheet has no such task.')
    return task
  }

  serve(contract.drawSecondReading, ({ sheet, course, enrolment, person, params, body, now }) => {
    const task = taskOf(sheet, params.task)
    unit.onSheet(sheet, now, () => {
      const reader = roster.everybody(course.id).find(({ code }) => code === body.reader)
      if (!reader || reader.role === 'student' || reader.status !== 'active')
        throw fieldProblem('reader', 'Choose somebody who teaches the course.')
      const drawn = second.ofTask(task.id)
      const open = workOn(task, sheet, stores).filter(
        ({ owner, mark }) =>
          mark !== null &&
          pointsOf(task, mark) !== null &&
          mark.changed_by !== reader.person_id &&
          !drawn.some((one) => isOf(owner, one)),
      )
      if (open.length === 0)
        throw new ProblemError(
          'nothing-to-draw',
          `Nothing is left to draw for ${reader.name}: every work that somebody else marked whole is drawn already, or none is.`,
        )
      const lotNumber = newLotNumber()
      const byCode = new Map(open.map((work) => [work.code, work]))
      const chosen = drawSecond([...byCode.keys()], body.count, lotNumber, task.code)
      for (const code of chosen) {
        const work = byCode.get(code)
        if (work) second.add(task.id, work.owner, { readerId: reader.id, lotNumber }, now)
      }
      const detail = { task: task.code, title: task.title, drawn: chosen.length, of: open.length, lotNumber }
      ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind: 'second-reading-drawn', detail })
      if (reader.id !== enrolment.id)
        mailer.send(secondReadingMail(reader.email, course.course_code, task.title, chosen.length))
    })
    return workView(sheet, course, enrolment, now, stores)
  })

  serve(contract.endSecondReading, ({ sheet, course, enrolment, params, now }) => {
    const task = taskOf(sheet, params.task)
    unit.onSheet(sheet, now, () => {
      // What somebody has read stays.
      for (const one of second.ofTask(task.id)) {
        const meant = params.lot === 'all' || String(one.lot_number) === params.lot
        if (meant && one.read_at === null) second.drop(one.id)
      }
    })
    return workView(sheet, course, enrolment, now, stores)
  })

  serve(contract.secondDesk, ({ sheet, course, enrolment, params, now }) =>
    secondDesk(taskOf(sheet, params.task), sheet, course, enrolment, now, stores),
  )

  serve(contract.setSecondMark, ({ sheet, course, enrolment, params, body, now }) => {
    const task = taskOf(sheet, params.task)
    unit.onSheet(sheet, now, () => {
      const work = workOn(task, sheet, stores).find(({ code }) => code === body.owner)
      const known = work && second.ofTask(task.id).find((one) => isFor(one, work, enrolment.id))
      if (!work || !known) throw fieldProblem('owner', 'That work was not drawn for you, or is not any more.')
      if (known.version !== body.version)
        throw new ProblemError('marked-meanwhile', 'It was changed in another tab. Nothing was overwritten.')
      const criteria = criteriaOf(task)
      const given = { placements: body.placements, points: body.points }
      const past = pastMost({ points: task.points, criteria }, given)
      if (past.length > 0)
        throw fieldProblem(past[0] ?? 'points', 'That is more than it brings.', 'points-past-most')
      const fields = {
        placements: JSON.stringify(fitPlacements(criteria, body.placements)),
        points: criteria.length > 0 || body.points === null ? null : fitPoints(body.points, task.points),
        feedback: body.feedback,
      }
      second.say(known.id, fields, now)
    })
    return secondDesk(task, sheet, course, enrolment, now, stores)
  })
}

function isOf(owner: Owner, { group_id, student_id }: Pick<Second, 'group_id' | 'student_id'>): boolean {
  return owner.group_id === group_id && owner.student_id === student_id
}

function isFor(one: Second, { owner }: Work, readerId: number): boolean {
  return one.reader_id === readerId && isOf(owner, one)
}
