import { type PersonOnSheet, type PersonTask, personPage } from '../../contract/people.ts'
import type { Instant } from '../../core/instant.ts'
import { mostPoints } from '../../core/marks.ts'
import { sheetState } from '../../core/window.ts'
import { notFound } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import { linesOf } from '../ledger/views.ts'
import { pointsOf } from '../marks/exports.ts'
import type { Enrolment } from '../roster/store.ts'
import { convenerIn } from '../seats/members.ts'
import type { Sheet } from '../sheets/store.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import { criteriaOf, workOn } from '../tasks/owners.ts'

/** One person over all sheets of a course. */
export function bindPeople(serve: Serve, stores: Stores): void {
  const { roster, sheets, lists } = stores
  serve(personPage, ({ course, enrolment: reader, params, now }) => {
    const person = roster.everybody(course.id).find(({ code }) => code === params.person)
    if (!person) throw notFound('Nobody on this roster is meant by that.')
    const section = roster.sections(course.id).find(({ id }) => id === person.section_id)
    return {
      now,
      course: { code: course.code, courseCode: course.course_code, title: course.title, zone: course.zone },
      code: person.code,
      name: person.name,
      listed: person.called === '' ? '' : person.listed,
      number: person.number,
      email: person.email,
      section: section?.name ?? null,
      role: person.role,
      status: person.status,
      attributes: JSON.parse(person.attributes) as Record<string, string>,
      lists: lists
        .ofCourse(course.id)
        .flatMap(({ id, title }) => (lists.members(id).has(person.id) ? [title] : [])),
      sheets:
        person.role === 'student'
          ? sheets.ofCourse(course.id).map((sheet) => onSheet(sheet, person, reader, now, stores))
          : [],
    }
  })
}

function onSheet(
  sheet: Sheet,
  person: Enrolment,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): PersonOnSheet {
  const { audience, sheets, seats, nudges, requests, roster } = stores
  const { id } = person
  const visit = nudges.visits(sheet.id).find(({ enrolment_id }) => enrolment_id === id)
  const request = requests.newestOf(sheet.id, id)
  const sections = roster.sectionNames(sheet.course_id)
  const titles = new Map(sheets.everyTopic(sheet.id).map((topic) => [topic.id, topic.title]))
  const groups = new Map(sheets.everyGroup(sheet.id).map((group) => [group.id, group]))
  return {
    code: sheet.code,
    title: sheet.title,
    state: sheetState(windowOf(sheet), now),
    road: sheet.road,
    meant: audience.has(sheet, person),
    seats: seats.heldBy(sheet.id, id).flatMap(({ group_id, taken_at }) => {
      const group = groups.get(group_id)
      return group
        ? [{ group: group.code, since: taken_at, convener: convenerIn(sheet, group, stores) === id }]
        : []
    }),
    visited: visit ? { first: visit.first_at, last: visit.last_at } : null,
    nudges: nudges.nudgedOn(sheet.id).filter(({ enrolment_id }) => enrolment_id === id).length,
    request: request
      ? { state: request.answer ?? 'open', reason: request.reason, madeAt: request.made_at }
      : null,
    tasks: tasksOf(sheet, id, stores),
    changes: linesOf(sheet, reader, stores, id),
    groups: Object.fromEntries(
      [...groups.values()].map(({ code, topic_id, section_id }) => [
        code,
        [titles.get(topic_id), sections.get(section_id ?? 0)].filter(Boolean).join(', '),
      ]),
    ),
  }
}

function tasksOf(sheet: Sheet, enrolmentId: number, stores: Stores): PersonTask[] {
  return stores.tasks.ofSheet(sheet.id).flatMap((task) => {
    const own = workOn(task, sheet, stores).find(({ members }) => members.includes(enrolmentId))
    if (!own) return []
    const mark = own.apart.find(({ apart_id }) => apart_id === enrolmentId) ?? own.mark
    return [
      {
        code: task.code,
        title: task.title,
        handsIn: own.task.hands_in === 1,
        differs: own.difference !== null,
        handedAt: own.standing?.handed_at ?? null,
        late: own.standing?.late === 1,
        points: pointsOf(task, mark),
        most: mostPoints({ points: task.points, criteria: criteriaOf(task) }),
        released: mark?.released_at != null,
      },
    ]
  })
}
