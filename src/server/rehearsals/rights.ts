import type { Stores } from '../stores.ts'

/**
 * What a member of staff may see of the course of a sheet, in one text: another text is another right, and null is none.
 * A rehearsal ends where it is not what it was begun with.
 */
export function rightsOf(
  personId: number,
  sheetId: number,
  { sheets, courses, roster }: Pick<Stores, 'sheets' | 'courses' | 'roster'>,
): string | null {
  const sheet = sheets.byId(sheetId)
  const course = sheet && sheet.deleted_at === null ? courses.byId(sheet.course_id) : undefined
  const own = course && roster.enrolmentIn(course.id, personId)
  if (!sheet || !course || !own || own.status !== 'active' || own.role === 'student') return null
  if (own.role === 'instructor') return own.role
  const looksAfter = sheets
    .ofCourse(course.id)
    .flatMap(({ id }) => sheets.tutors(id))
    .flatMap(({ group_id, enrolment_id }) => (enrolment_id === own.id ? group_id : []))
  return [own.role, ...looksAfter.toSorted((a, b) => a - b)].join(' ')
}
