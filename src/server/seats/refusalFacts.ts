import type { RefusalFacts } from '../../contract/refusals.ts'
import type { Course } from '../courses/store.ts'
import type { Enrolment } from '../roster/store.ts'
import { rulesOf, type Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'

/** What the words for a refused claim speak of, as the sheet now stands for this student. */
export function refusalFacts(
  sheet: Sheet,
  course: Course,
  enrolment: Enrolment,
  { seats, roster, room }: Stores,
): RefusalFacts {
  return {
    opensAt: sheet.opens_at,
    closesAt: sheet.closes_at,
    zone: course.zone,
    contact: sheet.contact,
    section: roster.sections(course.id).find(({ id }) => id === enrolment.section_id)?.name ?? null,
    rules: rulesOf(sheet),
    held: seats.heldBy(sheet.id, enrolment.id).length,
    withRoom: room(sheet, enrolment),
  }
}
