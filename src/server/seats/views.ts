import type { RunPerson, RunView } from '../../contract/seats.ts'
import { takesPeople } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import type { Course } from '../courses/store.ts'
import { sectionViews } from '../courses/views.ts'
import type { Enrolment } from '../roster/store.ts'
import { mayEdit } from '../sheets/mayEdit.ts'
import { sectionsOn } from '../sheets/sectionsOn.ts'
import type { Sheet } from '../sheets/store.ts'
import { sheetHead } from '../sheets/views.ts'
import type { Stores } from '../stores.ts'
import { maySeat } from './maySeat.ts'
import { convenerIn } from './members.ts'

/** A sheet as its staff watch it fill, names included. */
export function runView(
  sheet: Sheet,
  course: Course,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): RunView {
  const { roster, sheets, seats } = stores
  const sections = sectionsOn(sheet, stores)
  const everybody = new Map(roster.everybody(course.id).map((enrolment) => [enrolment.id, enrolment]))
  const students = stores.audience.students(sheet)
  const active = new Set(students.map(({ id }) => id))
  const sectionCodes = new Map(sections.map(({ id, code }) => [id, code]))
  const sectionCode = (id: number | null) => (id === null ? null : (sectionCodes.get(id) ?? null))
  const person = ({ code, name, section_id }: Enrolment): RunPerson => ({
    code,
    name,
    section: sectionCode(section_id),
  })
  const topics = sheets.topics(sheet.id)
  const topicCodes = new Map(topics.map(({ id, code }) => [id, code]))
  const taken = seats.ofSheet(sheet.id)
  const seated = new Set(taken.map(({ group_id }) => group_id))
  const groups = sheets.groups(sheet.id).filter((group) => takesPeople(group) || seated.has(group.id))
  const groupCodes = new Map(groups.map(({ id, code }) => [id, code]))
  const held = sheets.heldOnSheet(sheet.id)
  const tutors = sheets.tutors(sheet.id)
  const lines = seats.lines(sheet.id)
  const { extrasFor } = stores.groups
  const places = stores.groups.placesOf(groups.map(({ id }) => id))
  return {
    ...sheetHead(sheet, course, now, stores),
    sections: sectionViews(sections, students),
    topics: topics.map(({ code, title }) => ({ code, title })),
    groups: groups.map((group) => ({
      code: group.code,
      topic: topicCodes.get(group.topic_id) ?? '',
      called: extrasFor(group).name ? (places.get(group.id)?.name ?? '') : '',
      section: sectionCode(group.section_id),
      seats: group.seats,
      ownSeats: group.own_seats,
      floor: group.floor,
      held: held.filter(({ group_id }) => group_id === group.id).length,
      line: lines
        .filter(({ group_id }) => group_id === group.id)
        .flatMap(({ enrolment_id }) => everybody.get(enrolment_id)?.code ?? []),
      place: group.place,
      startsAt: group.starts_at,
      endsAt: group.ends_at,
      convener: everybody.get(convenerIn(sheet, group, stores) ?? 0)?.code ?? null,
      tutors: tutors
        .filter(({ group_id }) => group_id === group.id)
        .flatMap(({ enrolment_id }) => everybody.get(enrolment_id)?.code ?? []),
    })),
    people: roster.classList(course, students).map(person),
    away: [...new Set(taken.map(({ enrolment_id }) => enrolment_id))].flatMap((id) => {
      const enrolment = active.has(id) ? undefined : everybody.get(id)
      return enrolment ? [person(enrolment)] : []
    }),
    seats: taken.flatMap(({ group_id, enrolment_id, taken_at }) => {
      const group = groupCodes.get(group_id)
      const who = everybody.get(enrolment_id)
      return group && who ? [{ group, person: who.code, at: taken_at }] : []
    }),
    requests: stores.requests.openOn(sheet.id).length,
    staff: [...everybody.values()]
      .filter(({ role, status }) => role !== 'student' && status === 'active')
      .map(({ code, name }) => ({ code, name })),
    you: reader.code,
    mayEdit: mayEdit(reader, sheet),
    maySeat: maySeat(reader, course),
  }
}
