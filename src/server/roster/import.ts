import type { RosterPreview, Unlisted } from '../../contract/roster.ts'
import { type RosterReading, readRosterCsv } from '../../core/formats/rosterCsv.ts'
import type { Instant } from '../../core/instant.ts'
import { LIMITS } from '../../core/limits.ts'
import {
  compareRoster,
  type RosterComparison,
  type RosterLine,
  type RosterPerson,
} from '../../core/roster.ts'
import { ProblemError } from '../http/problem.ts'
import type { RosterStore } from './store.ts'

interface Reading extends RosterComparison {
  lines: readonly RosterLine[]
  spare: string[]
  faults: Extract<RosterReading, { readable: true }>['faults']
}

/** Everybody on a course's roster, in the core's words. */
export function rosterPeople(
  courseId: number,
  roster: RosterStore,
): (RosterPerson & { code: string; id: number; attributes: Record<string, string> })[] {
  const names = new Map(roster.sections(courseId).map(({ id, name }) => [id, name]))
  return roster
    .everybody(courseId)
    .map(({ id, code, name, email, role, section_id, status, attributes }) => ({
      id,
      attributes: JSON.parse(attributes) as Record<string, string>,
      code,
      name,
      email,
      role,
      status,
      section: section_id === null ? null : (names.get(section_id) ?? null),
    }))
}

type Mapped = Parameters<typeof readRosterCsv>[2]

function read(
  courseId: number,
  csv: string,
  columns: Mapped,
  keep: readonly string[],
  roster: RosterStore,
): Reading {
  const sections = roster.sections(courseId).map(({ name }) => name)
  const reading = readRosterCsv(csv, sections, columns, keep)
  if (!reading.readable) {
    const headers = (reading.header ?? []).map((cell, i) => ({ path: `header[${i}]`, message: cell }))
    const errors = [{ path: 'csv', message: reading.message }, ...headers]
    throw new ProblemError('roster-unreadable', reading.message, { errors })
  }
  const { lines, spare, faults } = reading
  return { ...compareRoster(rosterPeople(courseId, roster), lines), lines, spare, faults }
}

/** Whose attributes a file changes: enrolments by id, with what they then are. */
function attributesIn(
  courseId: number,
  lines: readonly RosterLine[],
  roster: RosterStore,
): Map<number, string> {
  const enrolled = new Map(roster.everybody(courseId).map((enrolment) => [enrolment.email, enrolment]))
  const changed = new Map<number, string>()
  for (const { email, attributes } of lines) {
    const enrolment = enrolled.get(email)
    if (!enrolment || !attributes) continue
    const next = JSON.stringify({ ...(JSON.parse(enrolment.attributes) as object), ...attributes })
    if (next !== enrolment.attributes) changed.set(enrolment.id, next)
  }
  return changed
}

/**
 * Says what a roster file would change; writes nothing.
 * @param seatsOf names the seats that an enrolment holds, for people whose section changes
 */
export function previewImport(
  courseId: number,
  csv: string,
  columns: Mapped,
  keep: readonly string[],
  roster: RosterStore,
  seatsOf: (enrolmentId: number) => string[],
): RosterPreview {
  const { fresh, changed, unchanged, missing, faults, lines, spare } = read(
    courseId,
    csv,
    columns,
    keep,
    roster,
  )
  const ids = new Map(roster.everybody(courseId).map(({ email, id }) => [email, id]))
  return {
    fresh: fresh.map(({ line, name, email, section, role }) => ({ line, name, email, section, role })),
    changed: changed.map(({ line, person, changes }) => ({
      line: line.line,
      name: line.name,
      email: person.email,
      changes,
      keepsSeats: changes.some(({ field }) => field === 'section') ? seatsOf(ids.get(person.email) ?? 0) : [],
    })),
    unchanged: unchanged.length,
    missing: missing.map((person) => ({ ...person, seats: seatsOf(ids.get(person.email) ?? 0) })),
    faults,
    sections: strangeSections(faults),
    spare,
    attributes: attributesIn(courseId, lines, roster).size,
  }
}

/** Sections that lines name and the course does not have, each once whatever its case. */
function strangeSections(faults: Reading['faults']): string[] {
  const named = new Map<string, string>()
  for (const { field, found } of faults)
    if (field === 'section' && found !== '' && !found.endsWith('…') && !named.has(found.toLowerCase()))
      named.set(found.toLowerCase(), found)
  return [...named.values()].slice(0, LIMITS.sections)
}

/** What is brought in, and what becomes of those whom it does not list. */
export interface Bringing {
  csv: string
  columns?: Mapped
  /** Names of further columns whose values are kept as attributes. */
  keep: readonly string[]
  skipFaults: boolean
  unlisted: Unlisted
}

/**
 * Brings a roster file in. The caller holds the transaction.
 * @throws ProblemError when lines are wrong and not to be skipped
 */
export function importRoster(
  courseId: number,
  { csv, columns, keep, skipFaults, unlisted }: Bringing,
  now: Instant,
  roster: RosterStore,
): { added: number; changed: number; unlisted: number; skipped: number } {
  const { fresh, changed, missing, faults, lines } = read(courseId, csv, columns, keep, roster)
  const wrong = new Set(faults.map(({ line }) => line)).size
  if (wrong > 0 && !skipFaults) {
    const errors = faults.slice(0, 100).map(({ line, message }) => ({ path: `csv line ${line}`, message }))
    throw new ProblemError(
      'roster-has-faults',
      `${wrong} lines are wrong. Mend them, or import the others only.`,
      { errors },
    )
  }
  const sectionIds = new Map(roster.sections(courseId).map(({ id, name }) => [name, id]))
  const idOf = (section: string | null) => (section === null ? null : (sectionIds.get(section) ?? null))
  const enrolled = new Map(roster.everybody(courseId).map((enrolment) => [enrolment.email, enrolment]))
  for (const { email, name, role, section } of fresh) {
    const person = roster.ensurePerson(email, now)
    roster.enrol(courseId, person.id, { name, role, section_id: idOf(section), status: 'active' }, now)
  }
  for (const { line, person } of changed) {
    const enrolment = enrolled.get(person.email)
    if (!enrolment) continue
    const role = line.role ?? person.role
    const section = idOf(line.section ?? person.section)
    roster.changeEnrolment(enrolment, { name: line.name, role, section_id: section, status: 'active' }, now)
  }
  const gone = unlisted === 'leave' ? [] : missing
  for (const { email } of gone) {
    const enrolment = enrolled.get(email)
    if (enrolment)
      roster.changeEnrolment(
        enrolment,
        { ...enrolment, status: unlisted === 'pause' ? 'paused' : 'left' },
        now,
      )
  }
  for (const [id, attributes] of attributesIn(courseId, lines, roster)) roster.setAttributes(id, attributes)
  return { added: fresh.length, changed: changed.length, unlisted: gone.length, skipped: wrong }
}
