import { isEmail, normalEmail } from '../email.ts'
import type { Role } from '../roster.ts'
import { cleanText, labelKey } from '../text.ts'
import { type Columns, findHeadings, type Row, recogniseColumns } from './table.ts'

// Which column of a roster is which: by headings, or by what is in them.

/** The columns of a roster. A name may stand in one column or in two. */
export type RosterColumn = 'name' | 'given' | 'surname' | 'called' | 'number' | 'email' | 'section' | 'role'

const SPELLINGS: Record<RosterColumn, readonly string[]> = {
  name: ['name', 'full name', 'student', 'student name', 'display name', 'participant'],
  given: ['first name', 'given name', 'given names', 'forename', 'firstname'],
  surname: ['last name', 'surname', 'family name', 'lastname'],
  called: [
    'called',
    'preferred name',
    'preferred first name',
    'preferred given name',
    'chosen name',
    'known as',
  ],
  number: [
    'student number',
    'student no',
    'student no.',
    'student id',
    'id',
    'id number',
    'matriculation number',
    'matriculation no.',
    'matriculation',
    'registration number',
    'enrolment number',
    'candidate number',
  ],
  email: ['email', 'e-mail', 'mail', 'email address', 'e-mail address', 'address'],
  section: ['section', 'lab', 'lab section', 'class', 'class period', 'period', 'slot', 'sections'],
  role: ['role', 'course role', 'roles'],
}
const ROLE_WORDS: Readonly<Record<Role, readonly string[]>> = {
  student: ['', 'student', 'learner', 'participant', 'pupil', 'attendee'],
  tutor: ['tutor', 'ta', 'teaching assistant', 'assistant', 'demonstrator', 'mentor', 'helper', 'aide'],
  instructor: ['instructor', 'teacher', 'lecturer', 'professor', 'prof', 'faculty', 'primary instructor'],
}
/** By words, and by those alone: what every object answers to is no role. */
const ROLES: ReadonlyMap<string, Role> = new Map(
  Object.entries(ROLE_WORDS).flatMap(([role, words]) => words.map((word) => [word, role as Role] as const)),
)
export const roleIn = (cell: string): Role | undefined => ROLES.get(cleanText(cell).toLowerCase())

/** The line of headings: the first, where somebody says so; else one that names an address, or two columns. */
export function headingsIn(rows: readonly Row[], headings: 'first' | 'none' | undefined) {
  if (headings === 'none') return null
  if (headings === 'first') return { at: 0, columns: recogniseColumns(rows[0]?.cells ?? [], SPELLINGS) }
  return findHeadings(
    rows,
    SPELLINGS,
    (columns) => columns.email !== undefined || Object.values(columns).length > 1,
  )
}

/**
 * The first line as headings in words that are not known: where addresses stand below, it has a word without one. What is
 * in the columns tells which is which.
 */
export function headingsBeside(rows: readonly Row[], sections: readonly string[]) {
  const columns = columnsByContent(rows.slice(1), sections)
  const word = columns.email === undefined ? '' : (rows[0]?.cells[columns.email] ?? '')
  return word !== '' && !word.includes('@') ? { at: 0, columns } : null
}

/** Lines from which it is seen what is in which column. */
const SEEN = 50

/**
 * Which column is which, by what is in them: addresses, the course’s sections, roles; and of the others the first with
 * words and no digits has the names, or that and the next, where both have one word in most lines.
 */
export function columnsByContent(rows: readonly Row[], sections: readonly string[]): Columns<RosterColumn> {
  const seen = rows.slice(0, SEEN)
  const width = Math.max(0, ...seen.map(({ cells }) => cells.length))
  const keys = new Set(sections.map(labelKey))
  const columns: Columns<RosterColumn> = {}
  const most = (at: number, is: (cell: string) => boolean) => {
    const filled = seen.flatMap(({ cells }) => cells[at] || [])
    return filled.length > 0 && filled.filter(is).length >= 0.5 * filled.length
  }
  const spare: number[] = []
  for (let at = 0; at < width; at++) {
    if (columns.email === undefined && most(at, (cell) => isEmail(normalEmail(cell)))) columns.email = at
    else if (columns.section === undefined && most(at, (cell) => keys.has(labelKey(cell))))
      columns.section = at
    else if (columns.role === undefined && most(at, (cell) => roleIn(cell) !== undefined)) columns.role = at
    else if (most(at, (cell) => /\p{L}/u.test(cell) && !/[\d@]/.test(cell))) spare.push(at)
  }
  const [one, two] = spare
  if (one === undefined) return columns
  const single = (at: number) => most(at, (cell) => !/\s/.test(cell.trim()))
  if (two === one + 1 && single(one) && single(two)) return { ...columns, given: one, surname: two }
  return { ...columns, name: one }
}

/**
 * A column that is called “Student” and has numbers in it has student numbers, where another column has names: its parts,
 * or one in words.
 */
export function numbersApart(columns: Columns<RosterColumn>, rows: readonly Row[]): Columns<RosterColumn> {
  const { name, number, surname } = columns
  if (name === undefined || number !== undefined) return columns
  const seen = rows.slice(0, SEEN)
  const most = (at: number, is: (cell: string) => boolean) => {
    const filled = seen.flatMap(({ cells }) => cells[at] || [])
    return filled.length > 0 && filled.filter(is).length > 0.5 * filled.length
  }
  if (!most(name, (cell) => /\d/.test(cell) && !/\p{L}{2}/u.test(cell))) return columns
  const known = new Set(Object.values(columns))
  const width = Math.max(0, ...seen.map(({ cells }) => cells.length))
  const inWords = Array.from({ length: width }, (_, at) => at).find(
    (at) => !known.has(at) && most(at, (cell) => /\p{L}/u.test(cell) && !/[\d@]/.test(cell)),
  )
  if (inWords === undefined && surname === undefined) return columns
  return { ...columns, name: surname === undefined ? inWords : undefined, number: name }
}

/** What stands on both sides of the one comma in a name; null where there is none, or a title follows it. */
export function aroundComma(name: string): { family: string; given: string } | null {
  const [family = '', given = '', ...more] = name.split(',').map(cleanText)
  if (more.length > 0 || family === '' || given === '' || TITLES.test(given)) return null
  return { family, given }
}

const TITLES = /^(jr|sr|ii|iii|iv|ph\.?d|m\.?d|m\.?sc|b\.?sc|m\.?a|b\.?a)\.?$/i

/** Whether names read surname first, as most of those with a comma and at least half of all do. */
export function surnamesFirst(columns: Columns<RosterColumn>, rows: readonly Row[]): boolean {
  const at = columns.name
  if (at === undefined) return false
  const names = rows.flatMap(({ cells }) => cells[at] || [])
  return names.length > 0 && names.filter((name) => aroundComma(name) !== null).length >= 0.5 * names.length
}
