import {
  criteriaHead,
  feedbackHead,
  type MarksLine,
  marksCells,
  marksHead,
  writeMarksCsv,
} from '../../core/formats/marksCsv.ts'
import type { Instant } from '../../core/instant.ts'
import { fitPlacements, mostPoints, totalOf } from '../../core/marks.ts'
import type { Course } from '../courses/store.ts'
import { type ExportedFile, tableFile } from '../http/files.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { criteriaOf, type Work, workOn } from '../tasks/owners.ts'
import type { Task } from '../tasks/store.ts'
import type { Mark } from './store.ts'

/** Makes one of the files of marks; undefined for a name that is none. */
export async function marksExport(
  file: string,
  sheet: Sheet,
  course: Course,
  now: Instant,
  stores: Stores,
): Promise<ExportedFile | undefined> {
  const [what, kind] = file.split('.')
  const tables = { students: studentTable, groups: groupTable }
  if (what !== 'students' && what !== 'groups') return undefined
  return marksFile(kind, tables[what](sheet, course, stores), now)
}

/** The marks of all sheets of a course in one file, a column for each task; undefined for a name that is none. */
export async function courseMarks(
  file: string,
  course: Course,
  now: Instant,
  stores: Stores,
): Promise<ExportedFile | undefined> {
  const [what, kind] = file.split('.')
  return what === 'marks' ? marksFile(kind, courseTable(course, stores), now) : undefined
}

const marksFile = (kind: string | undefined, { head, lines }: Table, now: Instant) =>
  tableFile(
    kind,
    { sheet: 'Marks', head, rows: lines.map(marksCells), csv: () => writeMarksCsv(head, lines) },
    now,
  )

interface Table {
  head: string[]
  lines: MarksLine[]
}

const titled = (task: Task, before = '') => ({
  title: `${before}${task.title}`,
  most: mostPoints({ points: task.points, criteria: criteriaOf(task) }),
})

const headFor = (who: readonly string[], tasks: readonly Task[]): string[] => [
  ...marksHead(
    who,
    tasks.map((task) => titled(task)),
  ),
  ...criteriaHead(tasks.map((task) => ({ title: task.title, criteria: criteriaOf(task) }))),
  ...feedbackHead(tasks),
]

/** The points of a mark, from its placements where there are criteria; null where it is open. */
export const pointsOf = (
  task: Task,
  mark: Pick<Mark, 'placements' | 'points'> | null | undefined,
): number | null =>
  mark
    ? totalOf(
        { criteria: criteriaOf(task) },
        { placements: JSON.parse(mark.placements), points: mark.points },
      )
    : null

/** Gives the marks of a sheet's tasks that count for a student, set apart or not; no mark where there is none. */
function marksOn(sheet: Sheet, stores: Stores): (enrolmentId: number) => { task: Task; mark: Mark | null }[] {
  const works = stores.tasks.ofSheet(sheet.id).map((task) => {
    // Of several groups the first counts, so that it is set last.
    const work = new Map(
      workOn(task, sheet, stores)
        .toReversed()
        .flatMap((one) => one.members.map((member) => [member, one] as const)),
    )
    return { task, work }
  })
  return (enrolmentId) =>
    works.map(({ task, work }) => {
      const own = work.get(enrolmentId)
      return { task, mark: own?.apart.find(({ apart_id }) => apart_id === enrolmentId) ?? own?.mark ?? null }
    })
}

const pointsIn = (marks: readonly { task: Task; mark: Mark | null }[]) =>
  marks.map(({ task, mark }) => pointsOf(task, mark))
/** Points for each criterion of each task, as far as somebody is placed there. */
const placedIn = (marks: readonly { task: Task; mark: Mark | null }[]) =>
  marks.flatMap(({ task, mark }) => {
    const criteria = criteriaOf(task)
    const placed = fitPlacements(criteria, mark ? JSON.parse(mark.placements) : {})
    return criteria.map(({ id }) => placed[id] ?? null)
  })
const feedbackIn = (marks: readonly { mark: Mark | null }[]) => marks.map(({ mark }) => mark?.feedback ?? '')

/** One line for each active student, by surname: the mark that counts for them, set apart or not. */
function studentTable(sheet: Sheet, course: Course, stores: Stores): Table {
  const { audience, roster, sheets, seats } = stores
  const all = stores.tasks.ofSheet(sheet.id)
  const got = marksOn(sheet, stores)
  const sections = roster.sectionNames(course.id)
  const lines = roster
    .classList(course, audience.students(sheet))
    .map(({ id, name, email, number, section_id }) => {
      const topics = seats
        .heldBy(sheet.id, id)
        .map(({ group_id }) => sheets.topicById(sheets.groupById(group_id)?.topic_id ?? 0)?.title ?? '')
      const marks = got(id)
      return {
        who: [name, email, number, sections.get(section_id ?? 0) ?? '', topics.join('; ')],
        points: pointsIn(marks),
        placed: placedIn(marks),
        feedback: feedbackIn(marks),
      }
    })
  return { head: headFor(['name', 'email', 'student number', 'section', 'group'], all), lines }
}

/** One line for each active student, with every task of every sheet, the oldest sheet first. What is not for somebody is open. */
function courseTable(course: Course, stores: Stores): Table {
  const { roster, sheets, tasks } = stores
  const all = sheets
    .ofCourse(course.id)
    .toReversed()
    .map((sheet) => ({ sheet, tasks: tasks.ofSheet(sheet.id), got: marksOn(sheet, stores) }))
  const sections = roster.sectionNames(course.id)
  return {
    head: marksHead(
      ['name', 'email', 'student number', 'section'],
      all.flatMap(({ sheet, tasks }) => tasks.map((task) => titled(task, `${sheet.title}: `))),
    ),
    lines: roster
      .classList(course, roster.students(course.id))
      .map(({ id, name, email, number, section_id }) => ({
        who: [name, email, number, sections.get(section_id ?? 0) ?? ''],
        points: all.flatMap(({ got }) => pointsIn(got(id))),
      })),
  }
}

/** One line for each group: the marks of the whole. */
function groupTable(sheet: Sheet, course: Course, stores: Stores): Table {
  const { roster, sheets, seats, tasks } = stores
  const all = tasks.ofSheet(sheet.id).filter(({ for_whom }) => for_whom !== 'students')
  const works = all.map((task): readonly Work[] => workOn(task, sheet, stores))
  const sections = roster.sectionNames(course.id)
  const lines = sheets.topics(sheet.id).flatMap(({ id, title }) =>
    sheets
      .groups(sheet.id)
      .filter(({ topic_id }) => topic_id === id)
      .map((group) => {
        const names = seats
          .ofGroup(group.id)
          .flatMap(({ enrolment_id }) => roster.enrolment(enrolment_id)?.name ?? [])
        const marks = all.map((task, i) => ({
          task,
          mark: (works[i] ?? []).find(({ owner }) => owner.group_id === group.id)?.mark ?? null,
        }))
        return {
          who: [title, sections.get(group.section_id ?? 0) ?? '', names.join('; ')],
          points: pointsIn(marks),
          placed: placedIn(marks),
          feedback: feedbackIn(marks),
        }
      }),
  )
  return { head: headFor(['topic', 'section', 'members'], all), lines }
}
