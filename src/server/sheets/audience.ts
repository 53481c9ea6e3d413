import type { Instant } from '../../core/instant.ts'
import type { ListStore } from '../lists/store.ts'
import type { Enrolment, RosterStore } from '../roster/store.ts'
import type { SeatStore } from '../seats/store.ts'
import type { Sheet, SheetStore } from './store.ts'
import { visibleToStudents } from './window.ts'

export type Audience = ReturnType<typeof createAudience>

/**
 * Whom a sheet is for: the students of the course, of some sections, or of a list. Whoever holds a seat on it belongs
 * to it whatever is chosen later. Nobody else learns of it, is counted, planned, told or nudged: every room asks here.
 */
export function createAudience({
  roster,
  seats,
  sheets,
  lists,
}: {
  roster: RosterStore
  seats: SeatStore
  sheets: SheetStore
  lists: ListStore
}) {
  const meant = (sheet: Sheet): ((enrolment: Pick<Enrolment, 'id' | 'section_id'>) => boolean) => {
    if (sheet.for_whom === 'course') return () => true
    if (sheet.for_whom === 'sections') {
      const sections = new Set(sheets.sectionsFor(sheet.id))
      return ({ section_id }) => section_id !== null && sections.has(section_id)
    }
    const members = sheet.list_id === null ? new Set() : lists.members(sheet.list_id)
    return ({ id }) => members.has(id)
  }
  const has = (sheet: Sheet, enrolment: Pick<Enrolment, 'id' | 'section_id'>): boolean =>
    meant(sheet)(enrolment) || seats.heldBy(sheet.id, enrolment.id).length > 0
  return {
    /** Whether a student is among those it is for. */
    has,
    /** Whether a student may know of it now: it is for them, and out. */
    sees: (sheet: Sheet, enrolment: Pick<Enrolment, 'id' | 'section_id'>, now: Instant): boolean =>
      visibleToStudents(sheet, now) && has(sheet, enrolment),
    /** The active students it is for, in the order of the roster. */
    students(sheet: Sheet): Enrolment[] {
      const all = roster.students(sheet.course_id)
      if (sheet.for_whom === 'course') return all
      const isMeant = meant(sheet)
      const seated = new Set(seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
      return all.filter((student) => isMeant(student) || seated.has(student.id))
    },
  }
}
