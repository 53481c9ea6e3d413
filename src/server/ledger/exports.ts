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
import { type Cell, type ExportedFile, isWorkbook, moment, workbook } from '../http/files.ts'
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
    case 'students.csv':
      return { type: 'text/csv; charset=utf-8', content: writeStudentsCsv(seatLines(sheet, course, stores)) }
    case 'groups.csv':
      return { type: 'text/csv; charset=utf-8', content: writeGroupsCsv(groupLines(sheet, course, stores)) }
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
      return workbookOf(file, sheet, course, now, stores)
  }
}

async function workbookOf(
  file: string,
  sheet: Sheet,
  course: Course,
  now: Instant,
  stores: Stores,
): Promise<ExportedFile | undefined> {
  const [what, kind] = file.split('.')
  if (!isWorkbook(kind)) return undefined
  const dated = (head: readonly string[], rows: readonly (readonly (string | number)[])[]): Cell[][] =>
    rows.map((row) =>
      row.map((cell, i) => (MOMENT_COLUMNS.includes(head[i] ?? '') ? moment(String(cell)) : cell)),
    )
  if (what === 'students') {
    const rows = dated(STUDENT_HEAD, seatLines(sheet, course, stores).map(studentCells))
    return workbook(kind, 'Students', STUDENT_HEAD, rows, now)
  }
  if (what !== 'groups') return undefined
  const rows = dated(GROUP_HEAD, groupLines(sheet, course, stores).map(groupCells))
  return workbook(kind, 'Groups', GROUP_HEAD, rows, now)
}

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
