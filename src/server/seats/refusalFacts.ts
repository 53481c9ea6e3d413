import type { RefusalFacts } from '../../contract/refusals.ts'
import { seatsLeft } from '../../core/limit.ts'
import type { Course } from '../courses/store.ts'
import type { Enrolment } from '../roster/store.ts'
import { rulesOf, type Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { offeredTo } from './offered.ts'

/** What the words for a refused claim speak of, as the sheet now stands for this student. */
export function refusalFacts(
  sheet: Sheet,
  course: Course,
  enrolment: Enrolment,
  stores: Stores,
): RefusalFacts {
  const { seats, sheets, roster } = stores
  const counts = seats.counts(sheet.id)
  const kept = sheets.heldOnSheet(sheet.id).filter(({ enrolment_id }) => enrolment_id !== enrolment.id)
  const keptIn = (groupId: number) => kept.filter(({ group_id }) => group_id === groupId).length
  return {
    opensAt: sheet.opens_at,
    closesAt: sheet.closes_at,
    zone: course.zone,
    contact: sheet.contact,
    section: roster.sections(course.id).find(({ id }) => id === enrolment.section_id)?.name ?? null,
    rules: rulesOf(sheet),
    held: seats.heldBy(sheet.id, enrolment.id).length,
    withRoom: sheets
      .groups(sheet.id)
      .filter(
        (group) =>
          offeredTo(enrolment, sheet, group) &&
          seatsLeft(group.seats, counts.get(group.id) ?? 0, keptIn(group.id)) > 0,
      ).length,
  }
}
