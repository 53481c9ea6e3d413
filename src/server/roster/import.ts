import type { RosterPreview } from '../../contract/roster.ts'
import { type RosterReading, readRosterCsv } from '../../core/formats/rosterCsv.ts'
import type { Instant } from '../../core/instant.ts'
import { compareRoster, type RosterComparison, type RosterPerson } from '../../core/roster.ts'
import { fieldProblem, ProblemError } from '../http/problem.ts'
import type { RosterStore } from './store.ts'

interface Reading extends RosterComparison {
  faults: Extract<RosterReading, { readable: true }>['faults']
}

/** Everybody on a course's roster, in the core's words. */
export function rosterPeople(
  courseId: number,
  roster: RosterStore,
): (RosterPerson & { code: string; id: number })[] {
  const names = new Map(roster.sections(courseId).map(({ id, name }) => [id, name]))
  return roster.everybody(courseId).map(({ id, code, name, email, role, section_id, status }) => ({
    id,
    code,
    name,
    email,
    role,
    status,
    section: section_id === null ? null : (names.get(section_id) ?? null),
  }))
}

function read(courseId: number, csv: string, roster: RosterStore): Reading {
  const sections = roster.sections(courseId).map(({ name }) => name)
  const reading = readRosterCsv(csv, sections)
  if (!reading.readable) throw fieldProblem('csv', reading.message, 'roster-unreadable')
  return { ...compareRoster(rosterPeople(courseId, roster), reading.lines), faults: reading.faults }
}

/**
 * Says what a roster file would change; writes nothing.
 * @param seatsOf names the seats that an enrolment holds, for people whose section changes
 */
export function previewImport(
  courseId: number,
  csv: string,
  roster: RosterStore,
  seatsOf: (enrolmentId: number) => string[],
): RosterPreview {
  const { fresh, changed, unchanged, missing, faults } = read(courseId, csv, roster)
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
    missing,
    faults,
  }
}

/**
 * Brings a roster file in. The caller holds the transaction.
 * @throws ProblemError when lines are wrong and not to be skipped, or when no instructor would be left
 */
export function importRoster(
  courseId: number,
  csv: string,
  skipFaults: boolean,
  now: Instant,
  roster: RosterStore,
): { added: number; changed: number; skipped: number } {
  const { fresh, changed, faults } = read(courseId, csv, roster)
  const wrong = new Set(faults.map(({ line }) => line)).size
  if (wrong > 0 && !skipFaults) {
    const errors = faults.slice(0, 100).map(({ line, message }) => ({ path: `csv line ${line}`, message }))
    throw new ProblemError(
      'roster-has-faults',
      `${wrong} lines are wrong. Mend them, or bring in the others only.`,
      { errors },
    )
  }
  const sectionIds = new Map(roster.sections(courseId).map(({ id, name }) => [name, id]))
  const idOf = (section: string | null) => (section === null ? null : (sectionIds.get(section) ?? null))
  for (const { email, name, role, section } of fresh) {
    const person = roster.ensurePerson(email, now)
    roster.enrol(courseId, person.id, { name, role, section_id: idOf(section), status: 'active' }, now)
  }
  for (const { line, person } of changed) {
    const enrolment = roster.enrolmentIn(courseId, roster.personByEmail(person.email)?.id ?? 0)
    if (!enrolment) continue
    const role = line.role ?? person.role
    const section = idOf(line.section ?? person.section)
    roster.changeEnrolment(enrolment.id, { name: line.name, role, section_id: section, status: 'active' })
  }
  if (!roster.everybody(courseId).some(({ role, status }) => role === 'instructor' && status === 'active')) {
    throw new ProblemError(
      'roster-without-instructor',
      'The file makes every instructor something else. Keep one.',
    )
  }
  return { added: fresh.length, changed: changed.length, skipped: wrong }
}
