import { isEmail, normalEmail } from '../email.ts'
import { LIMITS } from '../limits.ts'
import type { Role, RosterLine } from '../roster.ts'
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

/** A roster file as read: good lines, faults by line, or the one reason why it cannot be read at all. */
export type RosterReading =
  | {
      readable: true
      lines: RosterLine[]
      faults: LineFault[]
      /** Columns that say something else of people, by name: they can be kept as attributes. */
      spare: string[]
    }
  | { readable: false; message: string; header?: string[] }

/** The columns of a roster. A name may stand in one column or in two. */
export type RosterColumn = 'name' | 'given' | 'surname' | 'email' | 'section' | 'role'

const SPELLINGS: Record<RosterColumn, readonly string[]> = {
  name: ['name', 'full name', 'student', 'student name', 'display name', 'participant'],
  given: ['first name', 'given name', 'forename', 'firstname'],
  surname: ['last name', 'surname', 'family name', 'lastname'],
  email: ['email', 'e-mail', 'mail', 'email address', 'e-mail address', 'address'],
  section: ['section', 'lab', 'lab section', 'class', 'class period', 'period', 'slot'],
  role: ['role', 'course role'],
}
const ROLES: Record<string, Role> = {
  student: 'student',
  tutor: 'tutor',
  instructor: 'instructor',
  '': 'student',
}

/**
 * Reads a roster from CSV text (RFC 4180; comma, semicolon or tab; with or without a byte order mark).
 * The first line names the columns, in any order and case. Lines are checked one by one, so that good lines
 * are known beside bad ones.
 * @param sections the course's section names; a student's section must be one of them, if there are any
 * @param mapped columns that somebody pointed out by hand, before those recognised by their names
 * @param keep names of further columns whose values are kept as attributes
 */
export function readRosterCsv(
  text: string,
  sections: readonly string[],
  mapped?: Columns<RosterColumn>,
  keep: readonly string[] = [],
): RosterReading {
  if (text.length > LIMITS.rosterText) {
    return unreadable(
      `This is longer than a roster can be (${LIMITS.rosterText.toLocaleString('en')} characters).`,
    )
  }
  const noTable = tableFault(text)
  if (noTable) return unreadable(noTable)
  const rows = readRows(text)
  const header = rows.shift()
  if (!header)
    return unreadable('There is nothing in it. The first line must name the columns: name, email, section.')
  const columns = { ...recogniseColumns(header.cells, SPELLINGS), ...mapped }
  const fault = columnFault(columns, header.cells, sections)
  if (fault) return { ...unreadable(fault), header: header.cells }
  if (rows.length === 0) return unreadable('It names the columns, but no person follows.')
  if (rows.length > LIMITS.rosterLines) {
    const most = LIMITS.rosterLines.toLocaleString('en')
    return unreadable(
      `It has ${rows.length.toLocaleString('en')} lines; ${most} can be imported at once. Split it.`,
    )
  }
  const known = new Set(Object.values(columns))
  const others = header.cells.flatMap((cell, at) => {
    const name = cell.trim()
    return name !== '' && name.length <= LIMITS.attribute && !known.has(at) ? [{ name, at }] : []
  })
  const kept = others.filter(({ name }) => keep.includes(name))
  const reading = readLines(rows, columns, sections, kept)
  const spare = [...new Set(others.map(({ name }) => name))].slice(0, 20)
  return { readable: true, ...reading, spare }
}

const unreadable = (message: string) => ({ readable: false as const, message })

function columnFault(
  columns: Columns<RosterColumn>,
  header: readonly string[],
  sections: readonly string[],
): string | null {
  const missing: string[] = []
  if (columns.name === undefined && columns.surname === undefined) missing.push('name')
  if (columns.email === undefined) missing.push('email')
  if (columns.section === undefined && sections.length > 0) missing.push('section')
  if (missing.length === 0) return null
  const read = header
    .slice(0, 6)
    .map((cell) => `“${short(cell)}”`)
    .join(', ')
  return `The first line must name the columns, and none of them is ${missing.map((m) => `“${m}”`).join(' or ')}. It reads ${read}.`
}

/** A column whose values are kept, by its name and place. */
interface Kept {
  name: string
  at: number
}

function readLines(
  rows: Row[],
  columns: Columns<RosterColumn>,
  sections: readonly string[],
  kept: readonly Kept[],
): { lines: RosterLine[]; faults: LineFault[] } {
  const lines: RosterLine[] = []
  const faults: LineFault[] = []
  const firstLineOf = new Map<string, number>()
  for (const row of rows) {
    const found = readLine(row, columns, sections)
    const earlier = firstLineOf.get(found.line.email)
    if (found.faults.length === 0 && earlier !== undefined) {
      found.faults.push({
        line: row.line,
        field: 'email',
        found: found.line.email,
        message: `The same address stands in line ${earlier}. Keep one of the two.`,
      })
    }
    if (found.faults.length > 0) faults.push(...found.faults)
    else {
      firstLineOf.set(found.line.email, row.line)
      lines.push(kept.length > 0 ? { ...found.line, attributes: attributesOf(row, kept) } : found.line)
    }
  }
  return { lines, faults }
}

function attributesOf({ cells }: Row, kept: readonly Kept[]): Record<string, string> {
  return Object.fromEntries(
    kept.map(({ name, at }) => [name, (cells[at] ?? '').trim().slice(0, LIMITS.attribute)]),
  )
}

function readLine(
  row: Row,
  columns: Columns<RosterColumn>,
  sections: readonly string[],
): { line: RosterLine; faults: LineFault[] } {
  const faults: LineFault[] = []
  const fault = (field: RosterColumn | 'line', found: string, message: string) =>
    faults.push({ line: row.line, field, found: short(found), message })
  const cell = (column: RosterColumn) => cellOf(row, columns, column)
  if (row.broken) {
    fault(
      'line',
      row.cells.join(', '),
      'A quotation mark opens here and is not closed, or stands inside a cell alone.',
    )
  }
  const name = (cell('name') || `${cell('given')} ${cell('surname')}`).replace(/\s+/g, ' ').trim()
  if (name === '') fault('name', '', 'The name is missing.')
  if (name.length > LIMITS.personName)
    fault('name', name, `A name holds ${LIMITS.personName} characters at most.`)
  const email = normalEmail(cell('email'))
  if (email === '') fault('email', '', 'The email address is missing.')
  else if (!isEmail(email))
    fault('email', email, 'This is not an email address: one @ and a domain are needed.')
  const role = ROLES[cell('role').toLowerCase()]
  if (!role) fault('role', cell('role'), 'A role is student, tutor or instructor.')
  const typed = cell('section')
  const section = sections.find((known) => known.toLowerCase() === typed.toLowerCase()) ?? null
  const needed = role === 'student' && sections.length > 0
  if (typed === '' && needed)
    fault('section', '', `The section is missing. The course has ${list(sections)}.`)
  if (typed !== '' && section === null && sections.length > 0) {
    fault('section', typed, `The course has no such section; it has ${list(sections)}.`)
  }
  const saysRole = columns.role !== undefined && cell('role') !== ''
  return { line: { line: row.line, name, email, section, role: saysRole ? (role ?? null) : null }, faults }
}

function list(words: readonly string[]): string {
  return words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? '')
}

/** Writes a roster as CSV that `readRosterCsv` reads back unchanged. */
export function writeRosterCsv(
  people: readonly { name: string; email: string; section: string | null; role: Role }[],
): string {
  return writeTable(
    ['name', 'email', 'section', 'role'],
    people.map(({ name, email, section, role }) => [name, email, section ?? '', role]),
  )
}
