import type { ComposeView, SheetHead } from '../../contract/sheets.ts'
import type { GroupView } from '../../contract/topicViews.ts'
import { EXTRAS } from '../../core/extras.ts'
import { grouped } from '../../core/grouped.ts'
import type { Instant } from '../../core/instant.ts'
import { sheetState } from '../../core/window.ts'
import type { Course } from '../courses/store.ts'
import { sectionViews } from '../courses/views.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import { sectionsOn } from './sectionsOn.ts'
import { rulesOf, type Sheet } from './store.ts'
import type { Group } from './topicStore.ts'
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
    rules: rulesOf(sheet),
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
  const sections = sectionsOn(sheet, stores)
  const students = stores.audience.students(sheet)
  const sectionCodes = new Map(sections.map(({ id, code }) => [id, code]))
  const counts = stores.seats.counts(sheet.id)
  const given = stores.groups.extras(sheet.id)
  const groups = grouped(stores.sheets.groups(sheet.id), ({ topic_id }) => topic_id)
  const held = grouped(stores.sheets.heldOnSheet(sheet.id), ({ group_id }) => group_id)
  const people = new Map(students.map(({ id, code, name }) => [id, { code, name }]))
  const groupView = (group: Group): GroupView => ({
    code: group.code,
    section: group.section_id === null ? null : (sectionCodes.get(group.section_id) ?? null),
    taken: counts.get(group.id) ?? 0,
    state: group.state,
    own: {
      seats: group.own_seats,
      floor: group.own_floor,
      place: group.own_place,
      link: group.own_link,
      startsAt: group.own_starts_at,
      endsAt: group.own_ends_at,
    },
    held: (held.get(group.id) ?? []).map(({ code, enrolment_id, note }) => {
      const person = enrolment_id === null ? undefined : people.get(enrolment_id)
      return { code, person: person?.code ?? null, name: person?.name ?? null, note }
    }),
  })
  return {
    ...sheetHead(sheet, course, now, stores),
    instructions: sheet.instructions,
    contact: sheet.contact,
    seats: sheet.seats,
    floor: sheet.floor,
    visibleBefore: sheet.visible_before === 1,
    lotNumber: sheet.lot_number,
    sections: sectionViews(sections, students),
    students: students.length,
    mixed: sheet.mixed === 1,
    whom: whomView(sheet, sectionCodes, stores),
    mayEdit: enrolment.role === 'instructor',
    extras: EXTRAS.filter((extra) => given[extra]),
    tasks: stores.tasks.ofSheet(sheet.id).map(({ title, out_at }) => ({ title, out: out_at !== null })),
    topics: stores.sheets.topics(sheet.id).map((topic) => ({
      code: topic.code,
      title: topic.title,
      brief: topic.brief,
      place: topic.place,
      link: topic.link,
      startsAt: topic.starts_at,
      endsAt: topic.ends_at,
      seats: topic.seats,
      floor: topic.floor,
      mixed: topic.mixed === null ? null : topic.mixed === 1,
      groups: (groups.get(topic.id) ?? []).map(groupView),
    })),
  }
}

function whomView(
  sheet: Sheet,
  sectionCodes: ReadonlyMap<number, string>,
  { sheets, lists }: Stores,
): ComposeView['whom'] {
  const list = sheet.list_id === null ? undefined : lists.byId(sheet.list_id)
  return {
    kind: sheet.for_whom,
    sections: sheets.sectionsFor(sheet.id).flatMap((id) => sectionCodes.get(id) ?? []),
    list: list ? { code: list.code, title: list.title } : null,
  }
}
