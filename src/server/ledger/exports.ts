import {
  GROUP_HEAD,
  groupCells,
  MOMENT_COLUMNS,
  STUDENT_HEAD,
  studentCells,
  writeGroupsCsv,
  writeStudentsCsv,
} from '../../core/formats/groupsCsv.ts'
import { takesPeople } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { type CalendarEntry, calendarFile } from '../calendar/file.ts'
import { numbered } from '../calendar/numbered.ts'
import type { Course } from '../courses/store.ts'
import { type Cell, type ExportedFile, moment, tableFile } from '../http/files.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { groupsJson } from './json.ts'
import { groupLines, seatLines } from './lines.ts'

/**
 * Makes one of the files that a sheet can be taken elsewhere as; undefined for a name that is none.
 * @param personId for whom: entries of calendars count up for each
 */
export async function exportOf(
  file: string,
  sheet: Sheet,
  course: Course,
  personId: number,
  now: Instant,
  stores: Stores,
): Promise<ExportedFile | undefined> {
  switch (file) {
    case 'groups.json':
      return {
        type: 'application/json',
        content: JSON.stringify(groupsJson(sheet, course, now, stores), null, 2),
      }
    case 'seats.ics':
      return {
        type: 'text/calendar; charset=utf-8',
        content: calendarFile(
          sheet.title,
          numbered(personId, datedGroups(sheet, course, stores), now, stores.calendar),
          now,
        ),
      }
    default:
      return tableOf(file, sheet, course, now, stores)
  }
}

async function tableOf(
  file: string,
  sheet: Sheet,
  course: Course,
  now: Instant,
  stores: Stores,
): Promise<ExportedFile | undefined> {
  const [what, kind] = file.split('.')
  if (what === 'students') {
    const lines = seatLines(sheet, course, stores)
    const rows = dated(STUDENT_HEAD, lines.map(studentCells))
    const csv = () => writeStudentsCsv(lines)
    return tableFile(kind, { sheet: 'Students', head: STUDENT_HEAD, rows, csv }, now)
  }
  if (what !== 'groups') return undefined
  const lines = groupLines(sheet, course, stores)
  const rows = dated(GROUP_HEAD, lines.map(groupCells))
  return tableFile(kind, { sheet: 'Groups', head: GROUP_HEAD, rows, csv: () => writeGroupsCsv(lines) }, now)
}

/** Cells of a table in which days with a time of day are that. */
const dated = (head: readonly string[], rows: readonly (readonly (string | number)[])[]): Cell[][] =>
  rows.map((row) =>
    row.map((cell, i) => (MOMENT_COLUMNS.includes(head[i] ?? '') ? moment(String(cell)) : cell)),
  )

/** Every dated group as one entry of a calendar. Names are left out, as in every calendar. */
function datedGroups(sheet: Sheet, course: Course, { roster, sheets }: Stores): CalendarEntry[] {
  const titles = new Map(sheets.topics(sheet.id).map(({ id, title }) => [id, title]))
  const sections = roster.sectionNames(course.id)
  return sheets.groups(sheet.id).flatMap((group) => {
    if (group.starts_at === null || !takesPeople(group)) return []
    const section = group.section_id === null ? '' : (sections.get(group.section_id) ?? '')
    return [
      {
        id: `${group.code}-group`,
        title: `${[titles.get(group.topic_id) ?? '', section].filter(Boolean).join(', ')} (${sheet.title})`,
        words: `${course.course_code} ${course.title}`,
        startsAt: group.starts_at,
        endsAt: group.ends_at,
        place: group.place,
        link: group.link,
      },
    ]
  })
}
