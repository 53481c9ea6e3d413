import { takesPeople } from '../../core/groupState.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'

/** Whether a group is offered to a student: it is on the sheet, and of the right section where that counts. */
export function offeredTo(
  student: Pick<Enrolment, 'section_id'>,
  sheet: Pick<Sheet, 'offers'>,
  group: Group,
): boolean {
  const { section_id } = group
  const fits = sheet.offers === 'course' || section_id === null || section_id === student.section_id
  return takesPeople(group) && fits
}
