import { LIMITS } from '../limits.ts'
import { fitPoints } from '../marks.ts'
import { composed } from '../text.ts'
import {
  type Columns,
  cellOf,
  findHeadings,
  type LineFault,
  passedOver,
  type Row,
  readRows,
  short,
  tableFault,
  writeTable,
} from './table.ts'
import { type Nameable, personFinder, WHO_SPELLINGS } from './who.ts'

/** What one student or one group got, task by task in the order of the tasks; null where it is open. */
export interface MarksLine {
  /** The leading cells: who it is, and where. */
  who: readonly string[]
  points: readonly (number | null)[]
  /** Points for each criterion of each task, in their order; left out where none go out. */
  placed?: readonly (number | null)[]
  /** What was written beside each, in the same order; left out where none goes out. */
  feedback?: readonly string[]
}

/** The head of a table of marks: who, then a column for each task with its points. */
export function marksHead(
  who: readonly string[],
  tasks: readonly { title: string; most: number }[],
): string[] {
  return [...who, ...tasks.map(({ title, most }) => `${title} (of ${most})`)]
}

/** The heads of the columns with the points for each criterion, behind those of the tasks: `Report: Plain writing (of 5)`. */
export const criteriaHead = (
  tasks: readonly { title: string; criteria: readonly { title: string; points: number }[] }[],
): string[] =>
  tasks.flatMap((task) => task.criteria.map(({ title, points }) => `${task.title}: ${title} (of ${points})`))

/** The heads of the columns with feedback, behind those with points. */
export const feedbackHead = (tasks: readonly { title: string }[]): string[] =>
  tasks.map(({ title }) => `${title}: feedback`)

/** Cells of one line; what is open is empty. */
export function marksCells({ who, points, placed = [], feedback = [] }: MarksLine): (string | number)[] {
  return [...who, ...[...points, ...placed].map((one) => one ?? ''), ...feedback]
}

/** Marks as CSV. */
export function writeMarksCsv(head: readonly string[], lines: readonly MarksLine[]): string {
  return writeTable(
    head,
    lines.map((line) => marksCells(line).map(String)),
  )
}

/** What a table of marks is read against. */
export interface MarksKnown {
  students: readonly Nameable[]
  groups: readonly { key: string; topic: string; section: string }[]
  tasks: readonly {
    key: string
    title: string
    most: number
    /** What it is marked by; left out, by points alone. */
    criteria?: readonly { id: string; title: string; points: number }[]
  }[]
}

/** Points as a file gives them: to a student or a group, for a task or one of its criteria. */
export interface PointsRead {
  line: number
  who: string
  task: string
  /** The criterion, by its id; null for the task as a whole. */
  criterion: string | null
  points: number
}

/** Feedback as a file gives it. */
export interface FeedbackRead {
  line: number
  who: string
  task: string
  text: string
}

/** A column whose head says that it is of other points than the task brings. */
export interface OtherScale {
  title: string
  said: number
  most: number
}

/** What is done with points of such columns: put to the scale of the task, or taken as they stand. */
export type Scale = 'convert' | 'as-is'

/** What a file of marks says, and what of it cannot be taken. */
export interface MarksReading {
  /** Columns that are of other points than their tasks, whatever was said of them. */
  scales: OtherScale[]
  of: 'students' | 'groups'
  points: PointsRead[]
  /** What is written to a student or a group about a task. */
  feedback: FeedbackRead[]
  faults: LineFault[]
  /** What of the file was passed over, in sentences. */
  notes: string[]
}

const SPELLINGS = {
  ...WHO_SPELLINGS,
  topic: ['topic', 'group', 'title'],
  section: ['section'],
}

/**
 * Reads a table of marks, of students (by email, student number, or name where that is one’s own) or of groups (by topic
 * and section).
 * An empty cell leaves the mark as it is. A number that may be of thousands is none, and points of a column that says to be
 * of more or fewer than the task are taken only once it is said how.
 * @param scale how, where it was said
 */
export function readMarksCsv(text: string, known: MarksKnown, scale?: Scale): MarksReading {
  const noTable = tableFault(text)
  const all = noTable === null ? readRows(text) : []
  const heading = findHeadings(all, SPELLINGS, ({ email, number, name, topic }) =>
    [email, number, name, topic].some((at) => at !== undefined),
  )
  const at = heading?.at ?? 0
  const head = all[at]
  const faults: LineFault[] = []
  const fault = (line: number, field: string, found: string, message: string) => {
    faults.push({ line, field, found: short(found), message })
  }
  const columns = heading?.columns ?? {}
  const students = [columns.email, columns.number, columns.name].some((at) => at !== undefined)
  const reading: MarksReading = {
    of: students ? 'students' : 'groups',
    points: [],
    feedback: [],
    scales: [],
    faults,
    notes: [],
  }
  if (!head || (!students && columns.topic === undefined)) {
    const message =
      noTable ?? 'The first line names the columns: email or topic, and then the tasks by their titles.'
    fault(1, 'line', head?.cells.join(', ') ?? '', message)
    return reading
  }
  const tasks = tasksIn(head, known.tasks, fault)
  const scales = tasks.flatMap(({ title, said, most }) =>
    said === null || said === most ? [] : [{ title, said, most }],
  )
  if (scale === undefined)
    for (const { title, said, most } of scales)
      fault(
        head.line,
        title,
        `of ${said}`,
        `It brings ${most} points here. Say below what is done with points of ${said}.`,
      )
  const texts = feedbackIn(head, known.tasks, fault)
  if (tasks.length === 0 && texts.length === 0 && faults.length === 0)
    fault(head.line, 'line', '', 'No column is called like a task of this sheet.')
  const find = students ? studentFinder(known.students, columns) : groupFinder(known.groups, columns)
  const points: PointsRead[] = []
  const feedback: FeedbackRead[] = []
  const seen = new Map<string, number>()
  for (const row of all.slice(at + 1)) {
    if (row.broken) {
      fault(row.line, 'line', row.cells.join(', '), 'A quotation mark in this line is not closed.')
      continue
    }
    const who = find(row)
    if ('message' in who) {
      fault(row.line, who.field, who.found, who.message)
      continue
    }
    const before = seen.get(who.key)
    if (before !== undefined) {
      fault(row.line, 'line', who.found, `It stands in line ${before} already.`)
      continue
    }
    seen.set(who.key, row.line)
    for (const { key, title, index } of texts) {
      const text = composed(row.cells[index] ?? '')
      if (text.length > LIMITS.brief)
        fault(
          row.line,
          title,
          text,
          `Feedback holds ${LIMITS.brief.toLocaleString('en')} characters at most.`,
        )
      else if (text !== '') feedback.push({ line: row.line, who: who.key, task: key, text })
    }
    for (const { key, criterion, title, most, said, index } of tasks) {
      const cell = row.cells[index] ?? ''
      const other = said !== null && said !== most
      if (cell === '' || (other && scale === undefined)) continue
      const plain = Number(cell.replace(/^(\d+),(\d+)$/, '$1.$2'))
      const convert = other && scale === 'convert'
      const given = convert ? fitPoints((plain * most) / said, most) : plain
      if (GROUPED.test(cell))
        fault(
          row.line,
          title,
          cell,
          'This may be thousands or thousandths. Write it without the sign between.',
        )
      else if (!Number.isFinite(plain)) fault(row.line, title, cell, 'That is no number.')
      else if (convert && (plain < 0 || plain > said))
        fault(row.line, title, cell, `The column is of 0 to ${said} points.`)
      else if (given < 0 || given > most) fault(row.line, title, cell, `It brings 0 to ${most} points.`)
      else if (fitPoints(given, most) !== given) fault(row.line, title, cell, 'Points are given in halves.')
      else points.push({ line: row.line, who: who.key, task: key, criterion, points: given })
    }
  }
  const read = [...Object.values(columns), ...[...tasks, ...texts].map(({ index }) => index)]
  return { ...reading, points, feedback, scales, notes: passedOver(all, at, read) }
}

/** A number with a sign before its last three digits: `1,000`, `1.000`, `1 000`. */
const GROUPED = /^\d{1,3}([.,\s\u00A0'’]\d{3})+$/

type Fault = (line: number, field: string, found: string, message: string) => void
type Found = { key: string; found: string } | { field: string; found: string; message: string }

const alike = (text: string) => text.trim().toLowerCase()

const FEEDBACK = /^(.*): ?feedback$/i

/** Whether a column is the second of one thing, which is a fault: nobody knows which of them is meant. */
function isSecond(head: Row, before: Map<string, string>, key: string, cell: string, fault: Fault): boolean {
  const first = before.get(key)
  if (first === undefined) {
    before.set(key, cell)
    return false
  }
  fault(head.line, 'line', cell, `The column “${first}” is of the same. Leave one of them out.`)
  return true
}

/** The columns with points, of tasks and of their criteria: `Report (of 20)`, `Report: Plain writing`. */
function tasksIn(head: Row, tasks: MarksKnown['tasks'], fault: Fault) {
  const all = tasks.flatMap(({ key, title, most, criteria = [] }) => [
    { key, criterion: null, title, most },
    ...criteria.map((one) => ({ key, criterion: one.id, title: `${title}: ${one.title}`, most: one.points })),
  ])
  const before = new Map<string, string>()
  return head.cells.flatMap((cell, index) => {
    const [, named, points] = /^(.*?) ?\((?:of|out of|max\.?) ?([\d.,]+)\)$/i.exec(cell) ?? []
    const said = points === undefined ? null : Number(points.replace(',', '.'))
    // Words about the task, also where a criterion is called so.
    if (said === null && FEEDBACK.test(cell)) return []
    const fits = all.filter(({ title }) => alike(title) === alike(named ?? cell))
    if (fits.length > 1)
      fault(head.line, 'line', cell, 'Two tasks or criteria have this title. Rename one of them.')
    if (fits.length === 0 && named !== undefined)
      fault(head.line, 'line', cell, 'The sheet has no such task or criterion.')
    const [task] = fits
    if (
      !task ||
      fits.length > 1 ||
      isSecond(head, before, `${task.key} ${task.criterion ?? ''}`, cell, fault)
    )
      return []
    return [{ ...task, said, index }]
  })
}

/** The columns with feedback to tasks: `Report: feedback`. */
function feedbackIn(head: Row, tasks: MarksKnown['tasks'], fault: Fault) {
  const before = new Map<string, string>()
  return head.cells.flatMap((cell, index) => {
    const named = FEEDBACK.exec(cell)?.[1]
    const fits = named === undefined ? [] : tasks.filter(({ title }) => alike(title) === alike(named))
    const [task] = fits
    if (!task || fits.length > 1 || isSecond(head, before, task.key, cell, fault)) return []
    return [{ key: task.key, title: task.title, index }]
  })
}

function studentFinder(
  students: MarksKnown['students'],
  columns: Columns<keyof typeof SPELLINGS>,
): (row: Row) => Found {
  const find = personFinder(students)
  return (row) => {
    const cell = (column: keyof typeof SPELLINGS) => cellOf(row, columns, column)
    const said = { email: cell('email'), number: cell('number'), name: cell('name') }
    const meant = find(said)
    return 'message' in meant
      ? meant
      : { key: meant.person.key, found: said.email || said.number || said.name }
  }
}

function groupFinder(
  groups: MarksKnown['groups'],
  columns: Columns<keyof typeof SPELLINGS>,
): (row: Row) => Found {
  return (row) => {
    const topic = cellOf(row, columns, 'topic')
    const section = cellOf(row, columns, 'section')
    const fits = groups.filter(
      (one) => alike(one.topic) === alike(topic) && (section === '' || alike(one.section) === alike(section)),
    )
    const found = [topic, section].filter(Boolean).join(', ')
    if (fits.length > 1) return { field: 'topic', found, message: 'Several groups fit. Give the section.' }
    const [group] = fits
    return group
      ? { key: group.key, found }
      : { field: 'topic', found, message: 'The sheet has no such group.' }
  }
}
