import type { FindView } from '../../contract/find.ts'
import type { Stores } from '../stores.ts'

/** What somebody who looks after courses can find in them, by course. */
export function findView(personId: number, { roster, courses, sheets }: Stores): FindView {
  const mine = roster
    .enrolmentsOfPerson(personId)
    .filter(({ role, status }) => role !== 'student' && status === 'active')
  return {
    courses: mine.flatMap(({ course_id }) => {
      const course = courses.byId(course_id)
      if (!course) return []
      const sections = roster.sectionNames(course.id)
      return [
        {
          code: course.code,
          people: roster
            .everybody(course.id)
            .filter(({ status }) => status === 'active')
            .map(({ code, name, called, listed, number, email, section_id }) => ({
              code,
              name,
              listed: called === '' ? '' : listed,
              number,
              email,
              section: sections.get(section_id ?? 0) ?? null,
            })),
          topics: sheets
            .ofCourse(course.id)
            .filter(({ archived_at }) => archived_at === null)
            .flatMap((sheet) =>
              sheets.topics(sheet.id).map(({ code, title }) => ({ sheet: sheet.code, code, title })),
            ),
        },
      ]
    }),
  }
}
