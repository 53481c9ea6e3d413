/** What somebody is in a course. */
export type Role = 'student' | 'tutor' | 'instructor'
/** Whether somebody takes part: paused and departed people keep their history and count nowhere. */
export type EnrolmentStatus = 'active' | 'paused' | 'left'

/** A person as the roster has them. The section is its name. */
export interface RosterPerson {
  name: string
  email: string
  section: string | null
  role: Role
  status: EnrolmentStatus
}

/** A person as one line of a roster file names them; null where the file does not say. */
export interface RosterLine {
  /** Line of the file, counted from 1, header included. */
  line: number
  name: string
  email: string
  section: string | null
  role: Role | null
  /** What stands in the columns that are kept besides, by their names. */
  attributes?: Readonly<Record<string, string>>
}

/** One thing that a newer file changes about somebody. */
export interface FieldChange {
  field: 'name' | 'section' | 'role' | 'status'
  from: string | null
  to: string | null
}

/** What a roster file would do to a roster, before anything is written. */
export interface RosterComparison {
  fresh: (RosterLine & { role: Role })[]
  changed: { line: RosterLine; person: RosterPerson; changes: FieldChange[] }[]
  unchanged: RosterPerson[]
  /** Active students whom the file does not list. They stay as they are. */
  missing: RosterPerson[]
}

/** Holds a file's lines against the roster, by address. Somebody new is a student unless the file says otherwise. */
export function compareRoster(
  roster: readonly RosterPerson[],
  lines: readonly RosterLine[],
): RosterComparison {
  const known = new Map(roster.map((person) => [person.email, person]))
  const listed = new Set(lines.map((line) => line.email))
  const result: RosterComparison = { fresh: [], changed: [], unchanged: [], missing: [] }
  for (const line of lines) {
    const person = known.get(line.email)
    if (!person) {
      result.fresh.push({ ...line, role: line.role ?? 'student' })
      continue
    }
    const changes = changesTo(person, line)
    if (changes.length > 0) result.changed.push({ line, person, changes })
    else result.unchanged.push(person)
  }
  result.missing = roster.filter(
    ({ role, status, email }) => role === 'student' && status === 'active' && !listed.has(email),
  )
  return result
}

function changesTo(person: RosterPerson, line: RosterLine): FieldChange[] {
  const wanted = {
    name: line.name,
    section: line.section ?? person.section,
    role: line.role ?? person.role,
    status: 'active',
  }
  return (['name', 'section', 'role', 'status'] as const)
    .filter((field) => person[field] !== wanted[field])
    .map((field) => ({ field, from: person[field], to: wanted[field] }))
}
