import { seatByHand } from '../../contract/seatings.ts'
import type { SeatingChange } from '../../core/seating.ts'
import type { Course } from '../courses/store.ts'
import { ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Mailer } from '../mail/mailer.ts'
import { recallSeated, tellSeated } from '../plans/mail.ts'
import type { Enrolment } from '../roster/store.ts'
import type { AddressOf } from '../sheets/address.ts'
import type { Sheet } from '../sheets/store.ts'
import { visibleToStudents } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { seatPeople } from './byHand.ts'
import { maySeat } from './maySeat.ts'

/** Seating by hand. */
export function bindSeatings(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  mailer: Mailer,
  addressOf: AddressOf,
): void {
  serve(seatByHand, ({ req, sheet, course, enrolment, person, body, now }) => {
    const { changes, confirmed, tell, recall } = body
    checkRight(sheet, course, enrolment, changes, stores)
    return unit.onSheet(sheet, now, (current) => {
      // Under which name it was told, so that whatever undoes it finds the mail.
      const detailOf = () => ({ because: 'by-hand', ...(tell && { told: tell.as }) })
      const seatings = { sheet: current, changes, actorId: person.id, now, stores, detailOf }
      const position = seatPeople(seatings, () => confirmed === true)
      const address = addressOf(current, req)
      if (recall) recallSeated(current, `hand ${recall}`, address, now, stores, mailer)
      if (tell && visibleToStudents(current, now)) {
        const seated = changes.flatMap(({ person: who, to }) => (to === null ? [] : [{ person: who, to }]))
        tellSeated(current, course, seated, address, { cause: `hand ${tell.as}`, now }, stores, mailer)
      }
      return { position }
    })
  })
}

/** A tutor may seat people only where the instructor lets tutors, and in groups they look after. */
function checkRight(
  sheet: Sheet,
  course: Course,
  enrolment: Enrolment,
  changes: readonly SeatingChange[],
  { sheets }: Stores,
): void {
  const right = maySeat(enrolment, course)
  if (right === 'all') return
  if (right === 'none')
    throw new ProblemError('not-allowed', 'On this course tutors see groups; only instructors seat people.')
  const own = new Set(
    sheets
      .tutors(sheet.id)
      .filter(({ enrolment_id }) => enrolment_id === enrolment.id)
      .map(({ group_id }) => group_id),
  )
  const groups = changes.flatMap(({ from, to }) => [from, to]).filter((code) => code !== null)
  if (!groups.every((code) => own.has(sheets.group(code)?.id ?? 0)))
    throw new ProblemError(
      'not-your-group',
      'You seat people in the groups you look after. Ask an instructor for the others.',
    )
}
