import type { RosterPreview, Unlisted } from '../../contract/roster.ts'
import { type RosterHow, type RosterReading, readRosterCsv } from '../../core/formats/rosterCsv.ts'
import { short } from '../../core/formats/table.ts'
import type { Instant } from '../../core/instant.ts'
import { LIMITS } from '../../core/limits.ts'
import { nameParts } from '../../core/names.ts'
import {
  after,
  compareRoster,
  partsToKeep,
  type RosterComparison,
  type RosterPerson,
} from '../../core/roster.ts'
import { cleanText } from '../../core/text.ts'
import { ProblemError } from '../http/problem.ts'
import type { RosterStore } from './store.ts'

type Reading = Omit<RosterComparison<Rostered>, 'unclear'> & Extract<RosterReading, { readable: true }>

/** Columns of a file that are named to whoever points them out. */
const MOST_COLUMNS = 60

/** Somebody of a roster in the core's words. */
type Rostered = RosterPerson & { code: string; id: number; attributes: Record<string, string> }

/** Everybody on a course's roster, in the core's words. */
export function rosterPeople(courseId: number, roster: RosterStore): Rostered[] {
  const names = roster.sectionNames(courseId)
  return roster
    .everybody(courseId)
    .map(
      ({ id, code, listed, given, family, called, number, email, role, section_id, status, attributes }) => ({
        id,
        attributes: JSON.parse(attributes) as Record<string, string>,
        code,
        name: listed,
        given,
        family,
        called,
        number,
        email,
        role,
        status,
        section: section_id === null ? null : (names.get(section_id) ?? null),
      }),
    )
}

function read(courseId: number, csv: string, how: RosterHow, roster: RosterStore): Reading {
  const sections = roster.sections(courseId).map(({ name }) => name)
  const reading = readRosterCsv(csv, sections, how)
  if (!reading.readable) {
    const headers = (reading.header ?? []).map((cell, i) => ({ path: `header[${i}]`, message: cell }))
    const errors = [{ path: 'csv', message: reading.message }, ...headers]
    throw new ProblemError('roster-unreadable', reading.message, { errors })
  }
  const { unclear, ...compared } = compareRoster(rosterPeople(courseId, roster), reading.lines)
  const faults = unclear.map(({ line: { line, number = '' }, message }) => ({
    line,
    field: 'number',
    found: short(number),
    message,
  }))
  return {
    ...reading,
    ...compared,
    faults: [...reading.faults, ...faults].toSorted((a, b) => a.line - b.line),
  }
}

/** Whose attributes a file changes: enrolments by id, with what they then are. Those who are new are known once they are added. */
function attributesIn(
  courseId: number,
  { lines, whose }: Pick<Reading, 'lines' | 'whose'>,
  roster: RosterStore,
): Map<number, string> {
  const everybody = roster.everybody(courseId)
  const byId = new Map(everybody.map((enrolment) => [enrolment.id, enrolment]))
  const byEmail = new Map(everybody.map((enrolment) => [enrolment.email, enrolment]))
  const changed = new Map<number, string>()
  for (const line of lines) {
    const { attributes } = line
    const person = whose.get(line)
    const enrolment = person ? byId.get(person.id) : byEmail.get(line.email)
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
  how: RosterHow,
  roster: RosterStore,
  seatsOf: (enrolmentId: number) => string[],
): RosterPreview {
  const reading = read(courseId, csv, how, roster)
  const { fresh, changed, unchanged, missing, faults, spare, header, columns, headed, notes } = reading
  const ids = new Map(roster.everybody(courseId).map(({ email, id }) => [email, id]))
  return {
    fresh: fresh.map(({ line, name, given = '', family = '', called = '', number = '', ...rest }) => ({
      line,
      name,
      family: nameParts({ name, given, family }).family,
      called,
      number,
      email: rest.email,
      section: rest.section,
      role: rest.role,
    })),
    changed: changed.map(({ line, person, changes }) => ({
      line: line.line,
      name: person.called || line.name,
      email: person.email,
      changes,
      keepsSeats: changes.some(({ field }) => field === 'section') ? seatsOf(ids.get(person.email) ?? 0) : [],
    })),
    unchanged: unchanged.length,
    missing: missing.map((person) => ({ ...person, seats: seatsOf(ids.get(person.email) ?? 0) })),
    faults,
    sections: reading.strange.slice(0, LIMITS.sections),
    spare,
    attributes: attributesIn(courseId, reading, roster).size,
    header: header.slice(0, MOST_COLUMNS).map((cell) => short(cleanText(cell))),
    columns,
    headed,
    notes,
    commas: reading.commas,
  }
}

/** What is brought in, and what becomes of those whom it does not list. */
export interface Bringing extends RosterHow {
  csv: string
  skipFaults: boolean
  unlisted: Unlisted
}

/**
 * Brings a roster file in. The caller holds the transaction.
 * @throws ProblemError when lines are wrong and not to be skipped
 */
export function importRoster(
  courseId: number,
  { csv, skipFaults, unlisted, ...how }: Bringing,
  now: Instant,
  roster: RosterStore,
): { added: number; changed: number; unlisted: number; skipped: number } {
  const reading = read(courseId, csv, how, roster)
  const { fresh, changed, missing, faults } = reading
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
  for (const { email, name, called = '', number = '', role, section, ...parts } of fresh) {
    const person = roster.ensurePerson(email, now)
    const { given, family } = partsToKeep({ name, given: '', family: '', ...parts })
    const fields = {
      name,
      given,
      family,
      called,
      number,
      role,
      section_id: idOf(section),
      status: 'active',
    } as const
    roster.enrol(courseId, person.id, fields, now)
  }
  for (const { line, person } of changed) {
    const enrolment = enrolled.get(person.email)
    if (!enrolment) continue
    const { name, section, email, ...fields } = after(person, line)
    if (email !== person.email) roster.changeOwner(enrolment.id, roster.ensurePerson(email, now).id)
    roster.changeEnrolment(enrolment, { ...fields, listed: name, section_id: idOf(section) }, now)
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
  for (const [id, said] of attributesIn(courseId, reading, roster)) roster.setAttributes(id, said)
  return { added: fresh.length, changed: changed.length, unlisted: gone.length, skipped: wrong }
}
