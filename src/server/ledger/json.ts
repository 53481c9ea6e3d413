import type { Instant } from '../../core/instant.ts'
import { withOffset } from '../../core/zone.ts'
import type { Course } from '../courses/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { groupLines, seatLines } from './lines.ts'

/**
 * Name and version of the schema of what goes out as JSON: `docs/schemas/haplon-groups-1.json`, which a test holds against
 * it. Under one name fields are only ever added.
 */
const SCHEMA = 'haplon-groups-1'

/**
 * A sheet with its groups and everybody's seats as JSON. Codes of sheet, topics, groups and people stay for as long as
 * those do; moments have the offset of the course's zone.
 */
export function groupsJson(sheet: Sheet, course: Course, now: Instant, stores: Stores): object {
  const at = (instant: Instant | null) => (instant === null ? null : withOffset(instant, course.zone))
  return {
    schema: SCHEMA,
    madeAt: at(now),
    sheet: {
      code: sheet.code,
      title: sheet.title,
      course: course.course_code,
      courseCode: course.code,
      zone: course.zone,
      opensAt: at(sheet.opens_at),
      closesAt: at(sheet.closes_at),
    },
    groups: groupLines(sheet, course, stores).map(({ group, topicCode, people, ...line }) => ({
      ...line,
      topicCode,
      startsAt: at(group.starts_at),
      endsAt: at(group.ends_at),
      members: people.map(({ code, name, email, number }) => ({ code, name, email, number })),
    })),
    students: seatLines(sheet, course, stores).map(({ student, group, takenAt, ...line }) => ({
      ...line,
      code: student.code,
      startsAt: at(group?.starts_at ?? null),
      endsAt: at(group?.ends_at ?? null),
      takenAt: at(takenAt),
    })),
  }
}
