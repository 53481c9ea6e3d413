import { type FullName, nameParts } from './names.ts'

/** What somebody is in a course. */
export type Role = 'student' | 'tutor' | 'instructor'
/** Whether somebody takes part: paused and departed people keep their history and count nowhere. */
export type EnrolmentStatus = 'active' | 'paused' | 'left'

/** What a roster says of a person's name and number; each is empty where it does not. */
export interface SaidOfName {
  /** The two parts of the name. */
  given: string
  family: string
  /** What they are called, where that is another name than the roster's. */
  called: string
  /** What the school counts them by; any letters and digits. */
  number: string
}

/** A person as the roster has them. The section is its name. */
export interface RosterPerson extends SaidOfName {
  /** The roster's name for them. */
  name: string
  email: string
  section: string | null
  role: Role
  status: EnrolmentStatus
}

/** A person as one line of a roster file names them; null where the file does not say. */
export interface RosterLine extends Partial<SaidOfName> {
  /** Line of the file, counted from 1, header included. */
  line: number
  name: string
  /** Empty where the line has none, and the number tells who is meant. */
  email: string
  section: string | null
  role: Role | null
  /** What stands in the columns that are kept besides, by their names. */
  attributes?: Readonly<Record<string, string>>
}

/** One thing that a newer file changes about somebody. */
export interface FieldChange {
  field: 'name' | 'given' | 'family' | 'called' | 'number' | 'email' | 'section' | 'role' | 'status'
  from: string | null
  to: string | null
}

/** What a roster file would do to a roster, before anything is written. */
export interface RosterComparison<Person extends RosterPerson = RosterPerson> {
  fresh: (RosterLine & { role: Role })[]
  changed: { line: RosterLine; person: Person; changes: FieldChange[] }[]
  unchanged: Person[]
  /** Active students whom the file does not list. They stay as they are. */
  missing: Person[]
  /** Lines whose address and number belong to two people, or to nobody. */
  unclear: { line: RosterLine; message: string }[]
  /** Whom of the roster each line is about. */
  whose: Map<RosterLine, Person>
}

/**
 * Holds a file's lines against the roster: by address, and where that is nobody's, by student number. Somebody new is a
 * student unless the file says otherwise.
 */
export function compareRoster<Person extends RosterPerson>(
  roster: readonly Person[],
  lines: readonly RosterLine[],
): RosterComparison<Person> {
  const byEmail = new Map(roster.map((person) => [person.email, person]))
  const byNumber = new Map(
    roster.flatMap((person) => (person.number === '' ? [] : [[numberKey(person.number), person]])),
  )
  const listed = new Set<Person>()
  const result: RosterComparison<Person> = {
    fresh: [],
    changed: [],
    unchanged: [],
    missing: [],
    unclear: [],
    whose: new Map(),
  }
  for (const line of lines) {
    const addressed = byEmail.get(line.email)
    const numbered = line.number ? byNumber.get(numberKey(line.number)) : undefined
    const person = addressed ?? numbered
    if (addressed && numbered && addressed !== numbered)
      result.unclear.push({
        line,
        message: `The number is that of ${numbered.name}, the address that of ${addressed.name}.`,
      })
    else if (!person && line.email === '')
      result.unclear.push({
        line,
        message: 'Nobody on the roster has this number, and without an address nobody can be added.',
      })
    else if (!person) result.fresh.push({ ...line, role: line.role ?? 'student' })
    else if (listed.has(person))
      result.unclear.push({
        line,
        message: `An earlier line is about ${person.name} already. Keep one of the two.`,
      })
    else {
      listed.add(person)
      result.whose.set(line, person)
      const changes = changesTo(person, line)
      if (changes.length > 0) result.changed.push({ line, person, changes })
      else result.unchanged.push(person)
    }
    // Whom an unclear line is about is in the file all the same.
    for (const meant of [addressed, numbered]) if (meant) listed.add(meant)
  }
  result.missing = roster.filter(
    (person) => person.role === 'student' && person.status === 'active' && !listed.has(person),
  )
  return result
}

/** What student numbers are compared by: without regard to case, spaces, and zeros that a spreadsheet took from the front. */
export function numberKey(number: string): string {
  return number
    .toLowerCase()
    .replace(/\s+/g, '')
    .replace(/^0+(?=.)/, '')
}

/** Whether a line says something else of somebody: what it leaves out stays, and so does what they are called. */
function changesTo(person: RosterPerson, line: RosterLine): FieldChange[] {
  const wanted = after(person, line)
  return (Object.keys(wanted) as FieldChange['field'][])
    .filter((field) => person[field] !== wanted[field])
    .map((field) => ({ field, from: person[field] || null, to: wanted[field] || null }))
}

/** How somebody of the roster stands there once a line is brought in. */
export function after(person: RosterPerson, line: RosterLine): Pick<RosterPerson, FieldChange['field']> {
  const parts = saidParts(person, line)
  return {
    name: line.name,
    ...parts,
    called: line.called || person.called,
    number: line.number && numberKey(line.number) !== numberKey(person.number) ? line.number : person.number,
    email: line.email || person.email,
    section: line.section ?? person.section,
    role: line.role ?? person.role,
    status: 'active',
  }
}

/** The parts of a name that are kept: none where its words tell the same, and none of another name. */
function saidParts(person: RosterPerson, line: RosterLine): Pick<SaidOfName, 'given' | 'family'> {
  const { given = '', family = '', name } = line
  if (given === '' && family === '')
    return name === person.name ? { given: person.given, family: person.family } : { given: '', family: '' }
  return partsToKeep({ name, given, family })
}

/** The parts of a name as they are kept: empty where its words tell the same. */
export function partsToKeep(full: FullName): Pick<SaidOfName, 'given' | 'family'> {
  const told = nameParts({ ...full, given: '', family: '' })
  const same = told.given === full.given && told.family === full.family
  return same ? { given: '', family: '' } : { given: full.given, family: full.family }
}
