import { isOnSheet } from '../../core/groupState.ts'
import { type Instant, MINUTE, shift } from '../../core/instant.ts'
import { occurrences } from '../../core/meetings.ts'
import type { Course } from '../courses/store.ts'
import { timesOf } from '../meetings/views.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'
import { createAsFor } from '../tasks/asFor.ts'
import { partsFor } from '../tasks/gates.ts'
import type { CalendarEntry } from './file.ts'

/** Everything dated of a sheet for somebody of its course, as their own calendar shows it. */
export function entriesOn(
  sheet: Sheet,
  course: Course,
  enrolment: Enrolment,
  now: Instant,
  stores: Stores,
): CalendarEntry[] {
  if (sheet.published_at === null) return []
  if (enrolment.role === 'student') {
    const groups = stores.seats
      .heldBy(sheet.id, enrolment.id)
      .flatMap(({ group_id }) => stores.sheets.groupById(group_id) ?? [])
    return [
      ...datedSeats(sheet, course, enrolment, stores),
      ...ownTasks(sheet, course, enrolment, now, stores),
      ...groups.flatMap((group) => meetingsOf(group, sheet, course, stores)),
    ]
  }
  const care = new Set(
    stores.sheets
      .tutors(sheet.id)
      .flatMap(({ group_id, enrolment_id }) => (enrolment_id === enrolment.id ? [group_id] : [])),
  )
  if (enrolment.role === 'tutor' && care.size === 0) return []
  const groups = stores.sheets.groups(sheet.id).filter(isOnSheet)
  const looksAfter = groups.filter(({ id }) => care.has(id))
  return [
    ...(enrolment.role === 'instructor' ? windowOf(sheet, course) : []),
    ...staffTasks(sheet, course, enrolment.role === 'instructor' ? groups : looksAfter, stores),
    ...(enrolment.role === 'instructor' ? groups : looksAfter).flatMap((group) =>
      datedGroup(group, sheet, course, group.code, stores),
    ),
    ...looksAfter.flatMap((group) => meetingsOf(group, sheet, course, stores)),
  ]
}

/** What a student's seat in a group is called in calendars. */
export const seatEntry = (group: string, enrolment: string): string => `${group}-${enrolment}`

/** Where the seat is that an entry stands for, among somebody's courses; undefined where it is none of theirs. */
export function placeOfSeat(
  entry: string,
  personId: number,
  { roster, sheets, courses }: Pick<Stores, 'roster' | 'sheets' | 'courses'>,
): { sheet: string; group: string; zone: string } | undefined {
  for (const { code, course_id, status } of roster.enrolmentsOfPerson(personId)) {
    const group = entry.slice(0, -seatEntry('', code).length)
    if (status !== 'active' || entry !== seatEntry(group, code)) continue
    const sheet = sheets
      .ofCourse(course_id)
      .find(({ id }) => [...sheets.groupCodes(id).values()].includes(group))
    if (sheet) return { sheet: sheet.code, group, zone: courses.byId(course_id)?.zone ?? 'UTC' }
  }
  return undefined
}

/** The seats with a date that a student holds on a sheet. */
export function datedSeats(
  sheet: Sheet,
  course: Course,
  enrolment: Enrolment,
  stores: Pick<Stores, 'seats' | 'sheets'>,
): (CalendarEntry & { group: string })[] {
  return stores.seats.heldBy(sheet.id, enrolment.id).flatMap(({ group_id }) => {
    const group = stores.sheets.groupById(group_id)
    if (!group) return []
    return datedGroup(group, sheet, course, seatEntry(group.code, enrolment.code), stores).map((entry) => ({
      ...entry,
      group: group.code,
    }))
  })
}

const courseWords = ({ course_code, title }: Course) => `${course_code} ${title}`

function datedGroup(
  group: Group,
  sheet: Sheet,
  course: Course,
  id: string,
  { sheets }: Pick<Stores, 'sheets'>,
): CalendarEntry[] {
  if (group.starts_at === null) return []
  return [
    {
      id,
      title: `${sheets.topicById(group.topic_id)?.title ?? sheet.title} (${sheet.title})`,
      words: courseWords(course),
      place: group.place,
      link: group.link,
      startsAt: group.starts_at,
      endsAt: group.ends_at,
    },
  ]
}

function meetingsOf(
  group: Group,
  sheet: Sheet,
  course: Course,
  { meetings, groups, sheets }: Pick<Stores, 'meetings' | 'groups' | 'sheets'>,
): CalendarEntry[] {
  if (!groups.extrasFor(group).calendar) return []
  const where = sheets.topicById(group.topic_id)?.title ?? sheet.title
  return meetings.ofGroup(group.id).flatMap((meeting) =>
    occurrences(timesOf(meeting), course.zone).map(({ day, startsAt, endsAt }) => ({
      id: `${meeting.code}-${day}`,
      title: `${meeting.title} (${where})`,
      words: courseWords(course),
      place: meeting.place,
      link: meeting.link,
      startsAt,
      endsAt,
    })),
  )
}

/** When a task is due, or takes place, as a moment. */
function taskEntry(
  { id, title, dueAt, handsIn }: { id: string; title: string; dueAt: Instant | null; handsIn: boolean },
  sheet: Sheet,
  course: Course,
): CalendarEntry[] {
  if (dueAt === null) return []
  const words = courseWords(course)
  return [
    {
      id,
      title: `${handsIn ? 'Due: ' : ''}${title} (${sheet.title})`,
      words,
      place: '',
      link: '',
      startsAt: dueAt,
      // What is due is a moment; what takes place has no end of its own.
      endsAt: handsIn ? dueAt : null,
    },
  ]
}

/** The tasks of a student, each dated as it is for them. */
function ownTasks(
  sheet: Sheet,
  course: Course,
  { id, code: who }: Enrolment,
  now: Instant,
  stores: Stores,
): CalendarEntry[] {
  const held = stores.seats.heldBy(sheet.id, id).map(({ group_id }) => group_id)
  return stores.tasks.ofSheet(sheet.id).flatMap((task) =>
    partsFor(task, id, held, now, stores).flatMap(({ task: own, owner }) => {
      const group = owner?.group_id ? stores.sheets.groupById(owner.group_id)?.code : who
      const entry = { id: `${own.code}-${group ?? who}`, title: own.title, dueAt: own.due_at }
      return taskEntry({ ...entry, handsIn: own.hands_in === 1 }, sheet, course)
    }),
  )
}

/** The tasks that staff look after: each date that holds for some of their groups, once. */
function staffTasks(sheet: Sheet, course: Course, groups: readonly Group[], stores: Stores): CalendarEntry[] {
  return stores.tasks.ofSheet(sheet.id).flatMap((task) => {
    if (task.out_at === null) return []
    const asFor = createAsFor(task, stores)
    const theirs =
      task.for_whom === 'students'
        ? [task]
        : groups.map(({ id }) => asFor({ group_id: id, student_id: null }).task)
    const dates = new Map(theirs.map((one) => [one.due_at, one]))
    return [...dates.values()].flatMap((one, i) => {
      const entry = { id: `${task.code}-staff-${i}`, title: task.title, dueAt: one.due_at }
      return taskEntry({ ...entry, handsIn: one.hands_in === 1 }, sheet, course)
    })
  })
}

/** When a sheet opens and closes. */
function windowOf(sheet: Sheet, course: Course): CalendarEntry[] {
  const at = (what: string, instant: Instant | null): CalendarEntry[] =>
    instant === null
      ? []
      : [
          {
            id: `${sheet.code}-${what}`,
            title: `${sheet.title} ${what}`,
            words: courseWords(course),
            place: '',
            link: '',
            startsAt: instant,
            endsAt: shift(instant, MINUTE),
          },
        ]
  return sheet.archived_at !== null || sheet.road === 'made'
    ? []
    : [...at('opens', sheet.opens_at), ...at('closes', sheet.closes_at)]
}
