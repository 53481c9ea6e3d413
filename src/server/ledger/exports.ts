import {
  GROUP_HEAD,
  type GroupLine,
  groupCells,
  type SeatLine,
  STUDENT_HEAD,
  studentCells,
  writeGroupsCsv,
  writeStudentsCsv,
} from '../../core/formats/groupsCsv.ts'
import { takesPeople } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { NO_LIMIT } from '../../core/limit.ts'
import { nameOrder } from '../../core/names.ts'
import { localTimeOf } from '../../core/zone.ts'
import { type CalendarSeat, calendarFile } from '../calendar/file.ts'
import type { Course } from '../courses/store.ts'
import { namesOrder } from '../courses/views.ts'
import { type ExportedFile, workbook } from '../http/files.ts'
import { convenerIn } from '../seats/members.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'

/** Name and version of the JSON export's schema, which `docs/formats.md` describes. */
const SCHEMA = 'haplon-groups-1'

/** Makes one of the files that a sheet can be taken elsewhere as; undefined for a name that is none. */
export async function exportOf(
  file: string,
  sheet: Sheet,
  course: Course,
  now: Instant,
  stores: Stores,
): Promise<ExportedFile | undefined> {
  switch (file) {
    case 'students.csv':
      return { type: 'text/csv; charset=utf-8', content: writeStudentsCsv(seatLines(sheet, course, stores)) }
    case 'groups.csv':
      return { type: 'text/csv; charset=utf-8', content: writeGroupsCsv(groupLines(sheet, course, stores)) }
    case 'students.xlsx':
      return workbook('Students', STUDENT_HEAD, seatLines(sheet, course, stores).map(studentCells), now)
    case 'groups.xlsx':
      return workbook('Groups', GROUP_HEAD, groupLines(sheet, course, stores).map(groupCells), now)
    case 'groups.json': {
      const content = {
        schema: SCHEMA,
        madeAt: now,
        sheet: { title: sheet.title, course: course.course_code, zone: course.zone },
        groups: groupLines(sheet, course, stores),
        students: seatLines(sheet, course, stores),
      }
      return { type: 'application/json', content: JSON.stringify(content, null, 2) }
    }
    case 'seats.ics':
      return {
        type: 'text/calendar; charset=utf-8',
        content: calendarFile(sheet.title, datedGroups(sheet, course, stores), now),
      }
    default:
      return undefined
  }
}

function localOf(instant: Instant | null, { zone }: Course): string {
  return instant === null ? '' : localTimeOf(instant, zone).replace('T', ' ')
}

/** One line per student and seat, and one for each active student without any; by surname. */
function seatLines(sheet: Sheet, course: Course, stores: Stores): SeatLine[] {
  const { roster, sheets, seats } = stores
  const sections = new Map(roster.sections(course.id).map(({ id, name }) => [id, name]))
  const sectionOf = (id: number | null) => (id === null ? '' : (sections.get(id) ?? ''))
  const groups = new Map(sheets.groups(sheet.id).map((group) => [group.id, group]))
  const titles = new Map(sheets.topics(sheet.id).map(({ id, title }) => [id, title]))
  const conveners = new Map([...groups.values()].map((group) => [group.id, convenerIn(sheet, group, stores)]))
  return roster
    .everybody(course.id)
    .filter(({ role }) => role === 'student')
    .toSorted(nameOrder(namesOrder(course), ({ name }) => name))
    .flatMap((student) => {
      const who = {
        name: student.name,
        email: student.email,
        section: sectionOf(student.section_id),
        status: student.status,
      }
      const held = seats.heldBy(sheet.id, student.id)
      if (held.length === 0) return student.status === 'active' ? [{ ...who, ...NO_SEAT }] : []
      return held.map(({ group_id, extra, taken_at }) => {
        const group = groups.get(group_id)
        return {
          ...who,
          topic: titles.get(group?.topic_id ?? 0) ?? '',
          groupSection: sectionOf(group?.section_id ?? null),
          place: group?.place ?? '',
          starts: localOf(group?.starts_at ?? null, course),
          ends: localOf(group?.ends_at ?? null, course),
          link: group?.link ?? '',
          convener: conveners.get(group_id) === student.id,
          extra: extra === 1,
          since: localOf(taken_at, course),
        }
      })
    })
}

const NO_SEAT = {
  topic: '',
  groupSection: '',
  place: '',
  starts: '',
  ends: '',
  link: '',
  convener: false,
  extra: false,
  since: '',
}

/** One line per group that is offered or in which somebody sits, in the order of the topics. */
function groupLines(sheet: Sheet, course: Course, stores: Stores): GroupLine[] {
  const { roster, sheets, seats } = stores
  const sections = new Map(roster.sections(course.id).map(({ id, name }) => [id, name]))
  const tutors = sheets.tutors(sheet.id)
  return sheets.topics(sheet.id).flatMap(({ id, title }) =>
    sheets
      .groups(sheet.id)
      .filter(({ topic_id }) => topic_id === id)
      .flatMap((group) => {
        const members = seats
          .ofGroup(group.id)
          .flatMap(({ enrolment_id }) => roster.enrolment(enrolment_id) ?? [])
        if (!takesPeople(group) && members.length === 0) return []
        return [
          {
            topic: title,
            section: group.section_id === null ? '' : (sections.get(group.section_id) ?? ''),
            seats: group.seats === NO_LIMIT ? null : group.seats,
            floor: group.floor,
            taken: members.length,
            place: group.place,
            starts: localOf(group.starts_at, course),
            ends: localOf(group.ends_at, course),
            link: group.link,
            convener: roster.enrolment(convenerIn(sheet, group, stores) ?? 0)?.name ?? '',
            tutors: tutors
              .filter(({ group_id }) => group_id === group.id)
              .flatMap(({ enrolment_id }) => roster.enrolment(enrolment_id)?.name ?? []),
            members: members.map(({ name, email }) => ({ name, email })),
          },
        ]
      }),
  )
}

/** Every dated group as one entry of a calendar. Names are left out, as in every calendar. */
function datedGroups(sheet: Sheet, course: Course, { roster, sheets }: Stores): CalendarSeat[] {
  const titles = new Map(sheets.topics(sheet.id).map(({ id, title }) => [id, title]))
  const sections = new Map(roster.sections(course.id).map(({ id, name }) => [id, name]))
  return sheets.groups(sheet.id).flatMap((group) => {
    if (group.starts_at === null || !takesPeople(group)) return []
    const section = group.section_id === null ? '' : (sections.get(group.section_id) ?? '')
    return [
      {
        id: `${group.code}-group`,
        title: [titles.get(group.topic_id) ?? '', section].filter(Boolean).join(', '),
        sheet: sheet.title,
        course: `${course.course_code} ${course.title}`,
        startsAt: group.starts_at,
        endsAt: group.ends_at,
        place: group.place,
        link: group.link,
      },
    ]
  })
}
