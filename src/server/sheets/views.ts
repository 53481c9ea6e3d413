import type { ComposeView, SheetHead } from '../../contract/sheets.ts'
import type { Instant } from '../../core/instant.ts'
import { sheetState } from '../../core/window.ts'
import type { Course } from '../courses/store.ts'
import { sectionViews } from '../courses/views.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import type { Sheet } from './store.ts'
import { windowOf } from './window.ts'

/** What every view of a sheet starts with. */
export function sheetHead(
  sheet: Sheet,
  course: Course,
  now: Instant,
  { ledger }: Pick<Stores, 'ledger'>,
): SheetHead {
  return {
    code: sheet.code,
    link: `/s/${sheet.link}`,
    title: sheet.title,
    state: sheetState(windowOf(sheet), now),
    opensAt: sheet.opens_at,
    closesAt: sheet.closes_at,
    publishedAt: sheet.published_at,
    course: { code: course.code, courseCode: course.course_code, title: course.title, zone: course.zone },
    rev: ledger.newest(sheet.id),
    now,
  }
}

/** A sheet as its instructors write it and its tutors read it. */
export function composeView(
  sheet: Sheet,
  course: Course,
  enrolment: Enrolment,
  now: Instant,
  stores: Stores,
): ComposeView {
  const sections = stores.roster.sections(course.id)
  const students = stores.roster.students(course.id)
  const sectionCodes = new Map(sections.map(({ id, code }) => [id, code]))
  const counts = stores.seats.counts(sheet.id)
  const groups = stores.sheets.groups(sheet.id)
  return {
    ...sheetHead(sheet, course, now, stores),
    instructions: sheet.instructions,
    contact: sheet.contact,
    seats: sheet.seats,
    floor: sheet.floor,
    sections: sectionViews(sections, students),
    students: students.length,
    mayEdit: enrolment.role === 'instructor',
    topics: stores.sheets.topics(sheet.id).map(({ id, code, title, brief, place, seats, floor }) => ({
      code,
      title,
      brief,
      place,
      seats,
      floor,
      groups: groups
        .filter(({ topic_id }) => topic_id === id)
        .map((group) => ({
          code: group.code,
          section: group.section_id === null ? null : (sectionCodes.get(group.section_id) ?? null),
          taken: counts.get(group.id) ?? 0,
        })),
    })),
  }
}
