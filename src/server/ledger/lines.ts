import type { GroupLine, SeatLine } from '../../core/formats/groupsCsv.ts'
import { takesPeople } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { NO_LIMIT } from '../../core/limit.ts'
import { nameParts } from '../../core/names.ts'
import { localTimeOf } from '../../core/zone.ts'
import type { Course } from '../courses/store.ts'
import type { Enrolment } from '../roster/store.ts'
import { convenerIn } from '../seats/members.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'

// Who sits where on a sheet, line by line, as it goes out in whatever format.

/** A student's seat as a line of a file, with what it is of; no group for a student without one. */
export interface SeatOf extends SeatLine {
  student: Enrolment
  group: Group | null
  takenAt: Instant | null
}

/** A group as a line of a file, with what it is of. */
export interface GroupOf extends GroupLine {
  group: Group
  topicCode: string
  people: readonly Enrolment[]
}

function localOf(instant: Instant | null, { zone }: Course): string {
  return instant === null ? '' : localTimeOf(instant, zone).replace('T', ' ')
}

/** One line per student and seat, and one for each active student without any; by surname. */
export function seatLines(sheet: Sheet, course: Course, stores: Stores): SeatOf[] {
  const { roster, sheets, seats } = stores
  const sections = roster.sectionNames(course.id)
  const sectionOf = (id: number | null) => (id === null ? '' : (sections.get(id) ?? ''))
  const groups = new Map(sheets.groups(sheet.id).map((group) => [group.id, group]))
  const titles = new Map(sheets.topics(sheet.id).map(({ id, title }) => [id, title]))
  const conveners = new Map([...groups.values()].map((group) => [group.id, convenerIn(sheet, group, stores)]))
  return roster
    .classList(course, roster.everybody(course.id))
    .filter(({ role }) => role === 'student')
    .flatMap((student): SeatOf[] => {
      const { given, family } = nameParts({ ...student, name: student.listed })
      const who = {
        student,
        name: student.name,
        given,
        family,
        number: student.number,
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
          group: group ?? null,
          takenAt: taken_at,
          topic: titles.get(group?.topic_id ?? 0) ?? '',
          groupSection: sectionOf(group?.section_id ?? null),
          groupCode: group?.code ?? '',
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
  group: null,
  takenAt: null,
  topic: '',
  groupSection: '',
  groupCode: '',
  place: '',
  starts: '',
  ends: '',
  link: '',
  convener: false,
  extra: false,
  since: '',
}

/** One line per group that is offered or in which somebody sits, in the order of the topics. */
export function groupLines(sheet: Sheet, course: Course, stores: Stores): GroupOf[] {
  const { roster, sheets, seats } = stores
  const sections = roster.sectionNames(course.id)
  const tutors = sheets.tutors(sheet.id)
  return sheets.topics(sheet.id).flatMap(({ id, code: topicCode, title }) =>
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
            group,
            people: members,
            topicCode,
            topic: title,
            code: group.code,
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
