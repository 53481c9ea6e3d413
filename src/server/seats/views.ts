import type { RunView, StudentHome, StudentSheet, StudentStub } from '../../contract/seats.ts'
import type { Instant } from '../../core/instant.ts'
import { sheetState } from '../../core/window.ts'
import type { Course } from '../courses/store.ts'
import { sectionViews } from '../courses/views.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Group, Sheet } from '../sheets/store.ts'
import { sheetHead } from '../sheets/views.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'

/** A sheet as its staff watch it fill, names included. */
export function runView(sheet: Sheet, course: Course, now: Instant, stores: Stores): RunView {
  const sections = stores.roster.sections(course.id)
  const students = stores.roster.students(course.id)
  const sectionCodes = new Map(sections.map(({ id, code }) => [id, code]))
  const sectionCode = (id: number | null) => (id === null ? null : (sectionCodes.get(id) ?? null))
  const topics = stores.sheets.topics(sheet.id)
  const topicCodes = new Map(topics.map(({ id, code }) => [id, code]))
  const groups = stores.sheets.groups(sheet.id)
  const groupCodes = new Map(groups.map(({ id, code }) => [id, code]))
  const people = new Map(students.map(({ id, code }) => [id, code]))
  return {
    ...sheetHead(sheet, course, now, stores),
    sections: sectionViews(sections, students),
    topics: topics.map(({ code, title, place }) => ({ code, title, place })),
    groups: groups.map(({ code, topic_id, section_id, seats, floor }) => ({
      code,
      topic: topicCodes.get(topic_id) ?? '',
      section: sectionCode(section_id),
      seats,
      floor,
    })),
    people: students.map(({ code, name, section_id }) => ({ code, name, section: sectionCode(section_id) })),
    seats: stores.seats.ofSheet(sheet.id).flatMap(({ group_id, enrolment_id, taken_at }) => {
      const group = groupCodes.get(group_id)
      const person = people.get(enrolment_id)
      return group && person ? [{ group, person, at: taken_at }] : []
    }),
  }
}

/** Groups that offer seats to a student: those of the own section, and those of no section. */
function offeredTo({ section_id }: Enrolment, groups: readonly Group[]): Group[] {
  return groups.filter((group) => group.section_id === null || group.section_id === section_id)
}

/** Names of those who sit in a group beside the student. Shown to group mates only. */
function mates(groupId: number, { id }: Enrolment, { seats, roster }: Stores): string[] {
  return seats.ofGroup(groupId).flatMap(({ enrolment_id }) => {
    const mate = enrolment_id === id ? undefined : roster.enrolment(enrolment_id)
    return mate && mate.status === 'active' ? [mate.name] : []
  })
}

/** A sheet as one student may see it: no name but those of the student's own group mates. */
export function studentSheet(
  sheet: Sheet,
  course: Course,
  enrolment: Enrolment,
  now: Instant,
  stores: Stores,
): StudentSheet {
  const counts = stores.seats.counts(sheet.id)
  const groups = stores.sheets.groups(sheet.id)
  const [held] = stores.seats.heldBy(sheet.id, enrolment.id)
  const offered = new Set(offeredTo(enrolment, groups).map(({ id }) => id))
  const shown = groups.filter(({ id }) => offered.has(id) || id === held?.group_id)
  const section = stores.roster.sections(course.id).find(({ id }) => id === enrolment.section_id)
  return {
    ...sheetHead(sheet, course, now, stores),
    instructions: sheet.instructions,
    contact: sheet.contact,
    section: section?.name ?? null,
    groups: stores.sheets.topics(sheet.id).flatMap(({ id, title, brief, place }) =>
      shown
        .filter(({ topic_id }) => topic_id === id)
        .map((group) => ({
          code: group.code,
          title,
          brief,
          place,
          seats: group.seats,
          taken: counts.get(group.id) ?? 0,
        })),
    ),
    seat: held
      ? {
          group: groups.find(({ id }) => id === held.group_id)?.code ?? '',
          at: held.taken_at,
          mates: mates(held.group_id, enrolment, stores),
        }
      : null,
  }
}

/** What a student's first page shows: every published sheet of every course in which the person is a student. */
export function studentHome(personId: number, now: Instant, stores: Stores): StudentHome {
  const enrolments = stores.roster
    .enrolmentsOfPerson(personId)
    .filter(({ role, status }) => role === 'student' && status === 'active')
  const sheets = enrolments.flatMap((enrolment) => {
    const course = stores.courses.byId(enrolment.course_id)
    if (!course) return []
    return stores.sheets
      .ofCourse(course.id)
      .flatMap((sheet) => studentStub(sheet, course, enrolment, now, stores))
  })
  return { now, sheets }
}

function studentStub(
  sheet: Sheet,
  course: Course,
  enrolment: Enrolment,
  now: Instant,
  stores: Stores,
): StudentStub[] {
  const state = sheetState(windowOf(sheet), now)
  if (state === 'draft') return []
  const counts = stores.seats.counts(sheet.id)
  const groups = stores.sheets.groups(sheet.id)
  const offered = offeredTo(enrolment, groups)
  const [held] = stores.seats.heldBy(sheet.id, enrolment.id)
  const group = held && groups.find(({ id }) => id === held.group_id)
  const topic = group && stores.sheets.topics(sheet.id).find(({ id }) => id === group.topic_id)
  const section = stores.roster.sections(course.id).find(({ id }) => id === enrolment.section_id)
  return [
    {
      code: sheet.code,
      title: sheet.title,
      courseTitle: course.title,
      courseCode: course.course_code,
      section: section?.name ?? null,
      zone: course.zone,
      state,
      opensAt: sheet.opens_at,
      closesAt: sheet.closes_at,
      groups: offered.length,
      groupsWithRoom: offered.filter(({ id, seats }) => (counts.get(id) ?? 0) < seats).length,
      seat:
        group && topic
          ? {
              title: topic.title,
              place: topic.place,
              seats: group.seats,
              taken: counts.get(group.id) ?? 0,
              mates: mates(group.id, enrolment, stores),
            }
          : null,
    },
  ]
}
