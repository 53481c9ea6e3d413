import { normalEmail } from '../email.ts'
import type { Role } from '../roster.ts'
import { type Columns, cellOf, type Row, readRows, recogniseColumns } from './table.ts'

/** The three files of a OneRoster export that a roster is read from. */
export interface OneRosterFiles {
  users: string
  classes: string
  enrollments: string
}

/** A class of the export, as a choice. */
export interface OneRosterClass {
  id: string
  title: string
  people: number
}

/** Somebody enrolled in a class of the export. */
export interface OneRosterPerson {
  classId: string
  name: string
  email: string
  role: Role
}

export type OneRosterReading =
  | { readable: true; classes: OneRosterClass[]; people: OneRosterPerson[] }
  | { readable: false; message: string }

/** The column names of OneRoster 1.2 CSV binding, sections 4.6 (classes), 4.8 (enrollments), 4.17 (users). */
const USERS = {
  id: ['sourcedid'],
  status: ['status'],
  given: ['givenname'],
  family: ['familyname'],
  preferred: ['preferredgivenname'],
  email: ['email'],
  login: ['username'],
}
const CLASSES = { id: ['sourcedid'], status: ['status'], title: ['title'] }
const ENROLLMENTS = {
  id: ['sourcedid'],
  status: ['status'],
  klass: ['classsourcedid'],
  user: ['usersourcedid'],
  role: ['role'],
}

const ROLES: Record<string, Role> = {
  student: 'student',
  teacher: 'instructor',
  aide: 'tutor',
  proctor: 'tutor',
}

/**
 * Reads classes and who is in them from OneRoster 1.2 CSV (1EdTech, "OneRoster Specification: CSV Binding 1.2").
 * Records marked as to be deleted are left out; people without an address are kept with an empty one, so that
 * the roster's own check names them.
 */
export function readOneRoster(files: OneRosterFiles): OneRosterReading {
  const users = tableOf(files.users, USERS, ['id', 'family', 'email'])
  const classes = tableOf(files.classes, CLASSES, ['id', 'title'])
  const enrollments = tableOf(files.enrollments, ENROLLMENTS, ['klass', 'user', 'role'])
  for (const [name, table] of Object.entries({
    'users.csv': users,
    'classes.csv': classes,
    'enrollments.csv': enrollments,
  })) {
    if (table.missing.length > 0)
      return { readable: false, message: `${name} has no column ${table.missing.join(' or ')}.` }
  }
  const known = new Map(users.rows.map((row) => [users.cell(row, 'id'), row]))
  const people = enrollments.rows.flatMap((row): OneRosterPerson[] => {
    const user = known.get(enrollments.cell(row, 'user'))
    const role = ROLES[enrollments.cell(row, 'role').toLowerCase()]
    if (!user || !role) return []
    const given = users.cell(user, 'preferred') || users.cell(user, 'given')
    const name = `${given} ${users.cell(user, 'family')}`.trim()
    return [
      { classId: enrollments.cell(row, 'klass'), name, email: normalEmail(users.cell(user, 'email')), role },
    ]
  })
  const counts = new Map<string, number>()
  for (const { classId } of people) counts.set(classId, (counts.get(classId) ?? 0) + 1)
  const found = classes.rows.map((row) => {
    const id = classes.cell(row, 'id')
    return { id, title: classes.cell(row, 'title'), people: counts.get(id) ?? 0 }
  })
  if (found.length === 0) return { readable: false, message: 'classes.csv lists no class.' }
  return { readable: true, classes: found, people }
}

interface Table<Column extends string> {
  rows: Row[]
  missing: string[]
  cell: (row: Row, column: Column) => string
}

function tableOf<Column extends string>(
  text: string,
  spellings: Record<Column, string[]>,
  needed: NoInfer<Column>[],
): Table<Column> {
  const rows = readRows(text)
  const header = rows.shift()
  const columns: Columns<Column> = recogniseColumns(header?.cells ?? [], spellings)
  const cell = (row: Row, column: Column) => cellOf(row, columns, column)
  return {
    rows: rows.filter(
      (row) => !('status' in spellings) || cell(row, 'status' as Column).toLowerCase() !== 'tobedeleted',
    ),
    missing: needed
      .filter((column) => columns[column] === undefined)
      .map((column) => spellings[column][0] ?? column),
    cell,
  }
}

/**
 * The people of chosen classes as lines of a roster, each class as the section it is chosen for. Somebody in several
 * of them stands in the first.
 * @param sectionOf the section for a class, null for none, undefined for a class that is not wanted
 */
export function rosterOfClasses(
  people: readonly OneRosterPerson[],
  sectionOf: (classId: string) => string | null | undefined,
): { name: string; email: string; section: string | null; role: Role }[] {
  const lines = new Map<string, { name: string; email: string; section: string | null; role: Role }>()
  for (const { classId, name, email, role } of people) {
    const section = sectionOf(classId)
    const key = email || name
    if (section === undefined || lines.has(key)) continue
    lines.set(key, { name, email, section: role === 'student' ? section : null, role })
  }
  return [...lines.values()]
}
