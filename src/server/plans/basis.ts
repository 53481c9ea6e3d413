import type { PlanBasis } from '../../contract/plans.ts'
import type { Instant } from '../../core/instant.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { keepingsOn } from './keepings.ts'

/** What a plan for a sheet is made from, as it stands: people and groups by their codes, topics in their order. */
export function basisOf(sheet: Sheet, now: Instant, stores: Stores): PlanBasis {
  const { roster, sheets, seats, tasks } = stores
  const bound = tasks.bound(sheet.id)
  const sections = new Map(roster.sections(sheet.course_id).map(({ id, code }) => [id, code]))
  const sectionOf = (id: number | null) => (id === null ? null : (sections.get(id) ?? null))
  const students = roster.students(sheet.course_id)
  const codes = new Map(students.map(({ id, code }) => [id, code]))
  const topicOrder = new Map(sheets.topics(sheet.id).map(({ id }, i) => [id, i]))
  const groups = sheets
    .groups(sheet.id)
    .toSorted((a, b) => (topicOrder.get(a.topic_id) ?? 0) - (topicOrder.get(b.topic_id) ?? 0) || a.id - b.id)
  const groupCodes = new Map(groups.map(({ id, code }) => [id, code]))
  const taken = seats.ofSheet(sheet.id)
  const held = sheets.heldOnSheet(sheet.id)
  const seated = new Set(taken.map(({ group_id }) => group_id))
  return {
    people: students.map(({ code, name, section_id }) => ({
      key: code,
      name,
      section: sectionOf(section_id),
    })),
    groups: groups
      .filter(({ id, offered }) => offered === 1 || seated.has(id))
      .map((group) => ({
        key: group.code,
        section: sectionOf(group.section_id),
        seats: group.seats,
        // Kept for a use or for somebody who sits already, or taken by somebody who does not count.
        blocked:
          held.filter(({ group_id, enrolment_id }) => group_id === group.id && !codes.has(enrolment_id ?? 0))
            .length +
          taken.filter(({ group_id, enrolment_id }) => group_id === group.id && !codes.has(enrolment_id))
            .length,
        floor: group.floor,
        // A group whose work is handed in is left as it is.
        closed: group.offered === 0 || bound.has(group.id),
      })),
    seats: taken.flatMap(({ enrolment_id, group_id }) => {
      const [person, group] = [codes.get(enrolment_id), groupCodes.get(group_id)]
      return person && group ? [{ person, group }] : []
    }),
    heldFor: held.flatMap(({ enrolment_id, group_id }) => {
      const [person, group] = [codes.get(enrolment_id ?? 0), groupCodes.get(group_id)]
      return person && group ? [{ person, group }] : []
    }),
    offers: sheet.offers,
    keepings: keepingsOn(sheet, now, stores),
  }
}
