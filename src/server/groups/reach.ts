import { isOnSheet } from '../../core/groupState.ts'
import { notFound } from '../http/problem.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'

/** As what somebody reaches a group. */
export type As = 'member' | 'tutor' | 'instructor'

type Sources = Pick<Stores, 'seats' | 'sheets'>

/** As what somebody reaches a group's page; null for everybody else. Whoever moves away loses it with the seat. */
export function reaches(
  sheet: Sheet,
  enrolment: Enrolment,
  group: Group,
  { seats, sheets }: Sources,
): As | null {
  if (group.sheet_id !== sheet.id || enrolment.status !== 'active') return null
  if (enrolment.role === 'instructor') return 'instructor'
  if (enrolment.role === 'tutor') {
    const looksAfter = sheets
      .tutors(sheet.id)
      .some(({ group_id, enrolment_id }) => group_id === group.id && enrolment_id === enrolment.id)
    return looksAfter ? 'tutor' : null
  }
  return seats.ofGroup(group.id).some(({ enrolment_id }) => enrolment_id === enrolment.id) ? 'member' : null
}

/**
 * A group that somebody reaches, by its code.
 * @throws ProblemError `not-found` for everybody else, as for a group that does not exist
 */
export function reachGroup(
  sheet: Sheet,
  enrolment: Enrolment,
  code: string,
  stores: Sources,
): { group: Group; as: As } {
  const group = stores.sheets.group(code)
  const as = group && isOnSheet(group) ? reaches(sheet, enrolment, group, stores) : null
  if (!group || as === null) throw notFound()
  return { group, as }
}

/** Everybody who reaches a group: its members in the order they sat down, its tutors, and the instructors. */
export function reachedBy(
  sheet: Sheet,
  groupId: number,
  { seats, sheets, roster }: Pick<Stores, 'seats' | 'sheets' | 'roster'>,
): { members: Enrolment[]; tutors: Enrolment[]; instructors: Enrolment[] } {
  const everybody = roster.everybody(sheet.course_id).filter(({ status }) => status === 'active')
  const seated = seats.ofGroup(groupId).map(({ enrolment_id }) => enrolment_id)
  const care = new Set(
    sheets
      .tutors(sheet.id)
      .flatMap(({ group_id, enrolment_id }) => (group_id === groupId ? enrolment_id : [])),
  )
  return {
    members: seated.flatMap(
      (seat) => everybody.find(({ id, role }) => id === seat && role === 'student') ?? [],
    ),
    tutors: everybody.filter(({ id }) => care.has(id)),
    instructors: everybody.filter(({ role }) => role === 'instructor'),
  }
}
