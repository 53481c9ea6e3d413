import { normalEmail } from '../email.ts'
import type { Role, SaidOfName } from '../roster.ts'
import { cleanText } from '../text.ts'
import { type Columns, cellOf, type Row, readRows, recogniseColumns, short } from './table.ts'

/** The three files of a OneRoster export that a roster is read from. */
export interface OneRosterFiles {
  users: string
  classes: string
  enrollments: string
}

/** A class of the export, as a choice. */
export interface OneRosterClass {
  id: string
  /** Its title, with its code where several have that title. */
  title: string
  people: number
}

/** Somebody enrolled in a class of the export. */
export interface OneRosterPerson extends SaidOfName {
  classId: string
  /** Who it is, by the export’s own id. */
  userId: string
  name: string
  email: string
  role: Role
}

export type OneRosterReading =
  | {
      readable: true
      classes: OneRosterClass[]
      people: OneRosterPerson[]
      /** What is left out and what is missing, in sentences that name file and line. */
      notes: string[]
    }
  | { readable: false; message: string }

/** A person of the export as a line of a roster. */
export type OneRosterLine = Pick<OneRosterPerson, 'name' | 'email' | 'role' | keyof SaidOfName> & {
  section: string | null
}

/** A student in several chosen classes that are different sections. */
export interface InSeveral {
  userId: string
  name: string
  /** The sections, in the order of the export. */
  sections: string[]
}

/** The column names of OneRoster 1.2 CSV binding, sections 4.6 (classes), 4.8 (enrollments), 4.17 (users). */
const USERS = {
  id: ['sourcedid'],
  status: ['status'],
  given: ['givenname'],
  family: ['familyname'],
  preferred: ['preferredgivenname'],
  preferredFamily: ['preferredfamilyname'],
  enabled: ['enableduser'],
  number: ['identifier'],
  email: ['email'],
  login: ['username'],
}
const CLASSES = { id: ['sourcedid'], status: ['status'], title: ['title'], code: ['classcode'] }
const ENROLLMENTS = {
  id: ['sourcedid'],
  status: ['status'],
  klass: ['classsourcedid'],
  user: ['usersourcedid'],
  role: ['role'],
}

const ROLES: ReadonlyMap<string, Role> = new Map([
  ['student', 'student'],
  ['teacher', 'instructor'],
  ['aide', 'tutor'],
  ['proctor', 'tutor'],
])

/**
 * Reads classes and who is in them from OneRoster 1.2 CSV (1EdTech, "OneRoster Specification: CSV Binding 1.2").
 * Records marked as to be deleted are left out, and so are users who are not enabled, whom the notes name; people without
 * an address are kept with an empty one, so that the roster's own check finds them by their number, or names them.
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
  const deleted = new Set(users.deleted.map((row) => users.cell(row, 'id')))
  const there = new Set(classes.rows.map((row) => classes.cell(row, 'id')))
  const passed = { disabled: new Map<string, string>(), unknown: [] as string[], roles: [] as string[] }
  const people = enrollments.rows.flatMap((row): OneRosterPerson[] => {
    const classId = enrollments.cell(row, 'klass')
    if (!there.has(classId)) return []
    const userId = enrollments.cell(row, 'user')
    const user = known.get(userId)
    const said = enrollments.cell(row, 'role')
    const role = ROLES.get(said.toLowerCase())
    if (!user && deleted.has(userId)) return []
    if (!user) {
      passed.unknown.push(`“${short(userId)}” in line ${row.line}`)
      return []
    }
    const person = personOf((column) => users.cell(user, column))
    if (users.cell(user, 'enabled').toLowerCase() === 'false') {
      passed.disabled.set(userId, `${person.name} in line ${user.line}`)
      return []
    }
    if (!role) {
      passed.roles.push(`${person.name} as “${short(said)}” in line ${row.line}`)
      return []
    }
    return [{ ...person, classId, userId, role }]
  })
  const counts = new Map<string, number>()
  for (const { classId } of people) counts.set(classId, (counts.get(classId) ?? 0) + 1)
  const titled = new Map<string, number>()
  for (const row of classes.rows)
    titled.set(classes.cell(row, 'title'), (titled.get(classes.cell(row, 'title')) ?? 0) + 1)
  const found = classes.rows.map((row) => {
    const [id, title] = [classes.cell(row, 'id'), classes.cell(row, 'title')]
    const several = (titled.get(title) ?? 0) > 1
    return {
      id,
      title: several ? `${title} (${classes.cell(row, 'code') || id})` : title,
      people: counts.get(id) ?? 0,
    }
  })
  if (found.length === 0) return { readable: false, message: 'classes.csv lists no class.' }
  const nameless = people.flatMap(({ userId, name, email }) =>
    email === '' ? [[userId, `${name} in line ${known.get(userId)?.line}`] as const] : [],
  )
  const notes = [
    ...counted(
      [...passed.disabled.values()],
      'users.csv',
      'is not enabled and left out',
      'are not enabled and left out',
    ),
    ...counted([...new Map(nameless).values()], 'users.csv', 'has no address', 'have no address'),
    ...counted(passed.unknown, 'enrollments.csv', 'is no user of users.csv', 'are no users of users.csv'),
    ...counted(passed.roles, 'enrollments.csv', 'is left out for the role', 'are left out for their roles'),
  ]
  return { readable: true, classes: found, people, notes }
}

/** A user’s name and number: what they prefer to be called beside what the school has. */
function personOf(
  cell: (column: keyof typeof USERS) => string,
): Omit<OneRosterPerson, 'classId' | 'userId' | 'role'> {
  const [given, family] = [cell('given'), cell('family')]
  const name = cleanText(`${given} ${family}`)
  const called = cleanText(`${cell('preferred') || given} ${cell('preferredFamily') || family}`)
  return {
    name,
    given: cleanText(given),
    family: cleanText(family),
    called: called === name ? '' : called,
    number: cleanText(cell('number')),
    email: normalEmail(cell('email')),
  }
}

/** How many of a kind there are, the first of them named. */
function counted(who: readonly string[], file: string, one: string, several: string): string[] {
  if (who.length === 0) return []
  const named = who.slice(0, NAMED).join(', ')
  const others = who.length > NAMED ? `, and ${who.length - NAMED} others` : ''
  return [
    `${file}: ${who.length === 1 ? `1 person ${one}` : `${who.length} people ${several}`} (${named}${others}).`,
  ]
}

/** People of one kind that are named. */
const NAMED = 5

interface Table<Column extends string> {
  rows: Row[]
  /** Those that are marked as to be deleted. */
  deleted: Row[]
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
  const isDeleted = (row: Row) =>
    'status' in spellings && cell(row, 'status' as Column).toLowerCase() === 'tobedeleted'
  return {
    rows: rows.filter((row) => !isDeleted(row)),
    deleted: rows.filter(isDeleted),
    missing: needed
      .filter((column) => columns[column] === undefined)
      .map((column) => spellings[column][0] ?? column),
    cell,
  }
}

/**
 * The people of chosen classes as lines of a roster, each class as the section it is chosen for. Somebody in several of
 * them stands in the section that was said for them, else in the first.
 * @param sectionOf the section for a class, null for none, undefined for a class that is not wanted
 * @param said the section of those in several, by their ids
 * @returns the lines, with the students who are in several sections
 */
export function rosterOfClasses(
  people: readonly OneRosterPerson[],
  sectionOf: (classId: string) => string | null | undefined,
  said: ReadonlyMap<string, string> = new Map(),
): { lines: OneRosterLine[]; several: InSeveral[] } {
  const lines = new Map<string, OneRosterLine>()
  const sections = new Map<string, InSeveral>()
  for (const { classId, userId, ...person } of people) {
    const section = sectionOf(classId)
    if (section === undefined) continue
    const student = person.role === 'student'
    if (student && section !== null) {
      const own = sections.get(userId) ?? { userId, name: person.called || person.name, sections: [] }
      if (!own.sections.includes(section)) own.sections.push(section)
      sections.set(userId, own)
    }
    if (!lines.has(userId))
      lines.set(userId, { ...person, section: student ? (said.get(userId) ?? section) : null })
  }
  return {
    lines: [...lines.values()],
    several: [...sections.values()].filter((one) => one.sections.length > 1),
  }
}
