import { fitPoints } from '../marks.ts'
import {
  type Columns,
  cellOf,
  type LineFault,
  type Row,
  readRows,
  recogniseColumns,
  short,
  tableFault,
  writeTable,
} from './table.ts'

/** What one student or one group got, task by task in the order of the tasks; null where it is open. */
export interface MarksLine {
  /** The leading cells: who it is, and where. */
  who: readonly string[]
  points: readonly (number | null)[]
}

/** The head of a table of marks: who, then a column for each task with its points. */
export function marksHead(
  who: readonly string[],
  tasks: readonly { title: string; most: number }[],
): string[] {
  return [...who, ...tasks.map(({ title, most }) => `${title} (of ${most})`)]
}

/** Cells of one line; what is open is empty. */
export function marksCells({ who, points }: MarksLine): (string | number)[] {
  return [...who, ...points.map((one) => one ?? '')]
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
  students: readonly { key: string; name: string; email: string }[]
  groups: readonly { key: string; topic: string; section: string }[]
  tasks: readonly { key: string; title: string; most: number }[]
}

/** Points as a file gives them: to a student or a group, for a task. */
export interface PointsRead {
  line: number
  who: string
  task: string
  points: number
}

/** What a file of marks says, and what of it cannot be taken. */
export interface MarksReading {
  of: 'students' | 'groups'
  points: PointsRead[]
  faults: LineFault[]
}

const SPELLINGS = {
  name: ['name', 'student', 'full name'],
  email: ['email', 'e-mail', 'mail', 'email address'],
  topic: ['topic', 'group', 'title'],
  section: ['section'],
}

/**
 * Reads a table of marks, of students (by email, or name where that is one’s own) or of groups (by topic and section).
 * An empty cell leaves the mark as it is.
 */
export function readMarksCsv(text: string, known: MarksKnown): MarksReading {
  const noTable = tableFault(text)
  const [head, ...rows] = noTable === null ? readRows(text) : []
  const faults: LineFault[] = []
  const fault = (line: number, field: string, found: string, message: string) => {
    faults.push({ line, field, found: short(found), message })
  }
  const columns = recogniseColumns(head?.cells ?? [], SPELLINGS)
  const students = columns.email !== undefined || columns.name !== undefined
  const reading = { of: students ? ('students' as const) : ('groups' as const), points: [], faults }
  if (!head || (!students && columns.topic === undefined)) {
    const message =
      noTable ?? 'The first line names the columns: email or topic, and then the tasks by their titles.'
    fault(1, 'line', head?.cells.join(', ') ?? '', message)
    return reading
  }
  const tasks = tasksIn(head, known.tasks, fault)
  if (tasks.length === 0 && faults.length === 0)
    fault(head.line, 'line', '', 'No column is called like a task of this sheet.')
  const find = students ? studentFinder(known.students, columns) : groupFinder(known.groups, columns)
  const points: PointsRead[] = []
  const seen = new Map<string, number>()
  for (const row of rows) {
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
    for (const { key, title, most, index } of tasks) {
      const cell = row.cells[index] ?? ''
      if (cell === '') continue
      const given = Number(cell.replace(/^(\d+),(\d+)$/, '$1.$2'))
      if (!Number.isFinite(given)) fault(row.line, title, cell, 'That is no number.')
      else if (given < 0 || given > most) fault(row.line, title, cell, `It brings 0 to ${most} points.`)
      else if (fitPoints(given, most) !== given) fault(row.line, title, cell, 'Points are given in halves.')
      else points.push({ line: row.line, who: who.key, task: key, points: given })
    }
  }
  return { ...reading, points }
}

type Fault = (line: number, field: string, found: string, message: string) => void
type Found = { key: string; found: string } | { field: string; found: string; message: string }

const alike = (text: string) => text.trim().toLowerCase()

function tasksIn(head: Row, tasks: MarksKnown['tasks'], fault: Fault) {
  return head.cells.flatMap((cell, index) => {
    const named = /^(.*) \(of [\d.]+\)$/.exec(cell)?.[1]
    const fits = tasks.filter(({ title }) => alike(title) === alike(named ?? cell))
    if (fits.length > 1) fault(head.line, 'line', cell, 'Two tasks have this title. Rename one of them.')
    if (fits.length === 0 && named !== undefined)
      fault(head.line, 'line', cell, 'The sheet has no such task.')
    return fits.length === 1 ? fits.map((task) => ({ ...task, index })) : []
  })
}

function studentFinder(
  students: MarksKnown['students'],
  columns: Columns<keyof typeof SPELLINGS>,
): (row: Row) => Found {
  return (row) => {
    const email = cellOf(row, columns, 'email')
    const name = cellOf(row, columns, 'name')
    const fits = students.filter((one) =>
      email === '' ? alike(one.name) === alike(name) : alike(one.email) === alike(email),
    )
    const found = email || name
    const field = email ? 'email' : 'name'
    if (fits.length > 1) return { field, found, message: 'Several students are called that. Give the email.' }
    const [student] = fits
    return student
      ? { key: student.key, found }
      : { field, found, message: 'No active student is called that.' }
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
