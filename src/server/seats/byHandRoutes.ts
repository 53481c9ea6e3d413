import { seatByHand } from '../../contract/seatings.ts'
import type { SeatingChange } from '../../core/seating.ts'
import type { Course } from '../courses/store.ts'
import type { Db } from '../db/open.ts'
import { ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Hub } from '../live/hub.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { seatPeople } from './byHand.ts'
import { type SeatedFromLine, serveLines } from './lines.ts'
import { maySeat } from './maySeat.ts'

/** Seating by hand. */
export function bindSeatings(
  serve: Serve,
  db: Db,
  stores: Stores,
  hub: Hub,
  seatedFromLine: (seated: readonly SeatedFromLine[]) => void,
): void {
  serve(seatByHand, ({ sheet, course, enrolment, person, body, now }) => {
    checkRight(sheet, course, enrolment, body.changes, stores)
    const answer = db
      .transaction(() => {
        const seatings = {
          sheet: stores.sheets.byId(sheet.id) ?? sheet,
          changes: body.changes,
          actorId: person.id,
          now,
          stores,
          detailOf: () => ({ because: 'by-hand' }),
        }
        const position = seatPeople(seatings, () => body.confirmed === true)
        return { position, seated: serveLines(sheet.id, now, stores) }
      })
      .immediate()
    seatedFromLine(answer.seated)
    hub.touched(sheet.id)
    return { position: answer.position }
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
