import type { RosterView } from '../../contract/roster.ts'
import type { Instant } from '../../core/instant.ts'
import { LIMITS } from '../../core/limits.ts'
import { numberKey } from '../../core/roster.ts'
import type { Course } from '../courses/store.ts'
import { fieldProblem, ProblemError } from '../http/problem.ts'
import { freeSeatsOf, giveSeatsBack, leaveLinesOf, takeUpPlaces } from '../seats/free.ts'
import type { LinePlace, Seat } from '../seats/store.ts'
import type { Stores } from '../stores.ts'
import { rosterPeople } from './import.ts'
import type { Enrolment, EnrolmentFields, Person } from './store.ts'

/** A change of a course's roster: who makes it, and when. The caller holds the transaction. */
export interface RosterChange {
  course: Course
  person: Person
  now: Instant
  stores: Stores
}

/** How the roster was before a change. */
interface Before {
  /** Records from before something was kept do not have it. */
  enrolments: (Pick<Enrolment, 'id' | 'person_id' | 'name' | 'role' | 'section_id' | 'status'> &
    Partial<Enrolment>)[]
  freed: Seat[]
  /** Places in lines; records from before lines were kept have none. */
  left?: LinePlace[]
}

/** The roster as its staff see it. */
export function rosterView(course: Course, { roster }: Pick<Stores, 'roster'>): RosterView {
  const undo = roster.undo(course.id)
  return {
    people: roster.classList(course, rosterPeople(course.id, roster)).map(({ id: _, ...person }) => person),
    undo: undo
      ? { step: undo.step, at: undo.at, what: undo.what, by: authorOf(course.id, undo.by_id, roster) }
      : null,
  }
}

/** Who made a change, as the course knows them; null where that is not known any more. */
function authorOf(courseId: number, personId: number | null, roster: Stores['roster']): string | null {
  return personId === null ? null : (roster.enrolmentIn(courseId, personId)?.name ?? null)
}

/**
 * Runs a change of the roster, keeps what it was before, and frees seats of those who stop taking part, if wanted.
 * @param work makes the change and names it, for the undo
 */
export function changeRoster(change: RosterChange, freeSeats: boolean, work: () => string): void {
  const { course, person, now, stores } = change
  const before = stores.roster.everybody(course.id)
  const what = work()
  const after = new Map(stores.roster.everybody(course.id).map((enrolment) => [enrolment.id, enrolment]))
  const stopped = before
    .filter(({ id, status }) => status === 'active' && after.get(id)?.status !== 'active')
    .map(({ id }) => id)
  const left = leaveLinesOf(course.id, stopped, person.id, now, stores)
  const freed = freeSeats ? freeSeatsOf(course.id, stopped, person.id, now, stores) : []
  if (![...after.values()].some(({ role, status }) => role === 'instructor' && status === 'active')) {
    throw new ProblemError(
      'roster-without-instructor',
      'The course would have no active instructor. Keep one.',
    )
  }
  endTokens(change)
  const kept: Before = { enrolments: before, freed, left }
  stores.roster.keepUndo(course.id, now, person.id, what, JSON.stringify(kept))
}

/** Ends the tokens of programs whose makers are no instructors any more: they do not come alive with their makers. */
function endTokens({ course, now, stores }: Pick<RosterChange, 'course' | 'now' | 'stores'>): void {
  const instructors = stores.roster
    .everybody(course.id)
    .filter(({ role, status }) => role === 'instructor' && status === 'active')
  stores.programs.endAllBut(course.id, new Set(instructors.map(({ person_id }) => person_id)), now)
}

/** Puts an address and its fields on an enrolment. */
export function setPerson(
  { course, now, stores }: RosterChange,
  enrolment: Enrolment,
  email: string | undefined,
  fields: EnrolmentFields,
): void {
  if (email !== undefined && email !== enrolment.email) {
    refuseLockingOut(course, enrolment, stores.roster)
    const owner = stores.roster.ensurePerson(email, now)
    if (stores.roster.enrolmentIn(course.id, owner.id))
      throw fieldProblem('email', 'Somebody on this roster has this address already.')
    stores.roster.changeOwner(enrolment.id, owner.id)
  }
  refuseTakenNumber(course, fields.number, enrolment.id, stores.roster)
  stores.roster.changeEnrolment(enrolment, fields, now)
}

/** @throws ProblemError beside the address of the only instructor: one that is mistyped would let nobody in any more */
function refuseLockingOut(course: Course, { id, role, status }: Enrolment, roster: Stores['roster']): void {
  if (role !== 'instructor' || status !== 'active') return
  const others = roster
    .everybody(course.id)
    .some((one) => one.id !== id && one.role === 'instructor' && one.status === 'active')
  if (!others)
    throw fieldProblem(
      'email',
      'This is the only instructor of the course, and a mistyped address would lock everybody out. Add the other address as an instructor first; once it has signed in, let this one leave.',
    )
}

/** @throws ProblemError beside the number, where somebody else of the course has it */
export function refuseTakenNumber(
  course: Course,
  number: string,
  own: number | null,
  roster: Stores['roster'],
): void {
  if (number === '') return
  const other = roster
    .everybody(course.id)
    .find((one) => one.id !== own && one.number !== '' && numberKey(one.number) === numberKey(number))
  if (other) throw fieldProblem('number', `${other.name} has this student number.`)
}

/**
 * Keeps what is said of somebody besides; an empty value takes it away.
 * @throws ProblemError beside the attributes, where there would be too many
 */
export function sayBesides(
  { id, attributes }: Pick<Enrolment, 'id' | 'attributes'>,
  said: readonly { name: string; value: string }[] | undefined,
  roster: Stores['roster'],
): void {
  if (!said || said.length === 0) return
  const known = new Map(Object.entries(JSON.parse(attributes) as Record<string, string>))
  for (const { name, value } of said) {
    if (value === '') known.delete(name)
    else known.set(name, value)
  }
  if (known.size > LIMITS.attributes)
    throw fieldProblem('attributes', `${LIMITS.attributes} attributes can be kept of one person.`)
  roster.setAttributes(id, JSON.stringify(Object.fromEntries(known)))
}

/**
 * Brings back the roster as it was before its last change; people who came with it leave again.
 * @param step the change that is to be undone; left out, the last one whatever it is
 * @returns how many seats could not be given back
 * @throws ProblemError `changed-meanwhile` where another change came after it
 */
export function undoRoster({ course, person, now, stores }: RosterChange, step: string | undefined): number {
  const undo = stores.roster.undo(course.id)
  if (!undo) throw new ProblemError('not-found', 'There is no change of this roster to undo.')
  if (step !== undefined && step !== undo.step) {
    const by = authorOf(course.id, undo.by_id, stores.roster)
    throw new ProblemError(
      'changed-meanwhile',
      `Another change came after it${by ? `, by ${by}` : ''}: ${undo.what}. Only the last change can be undone; put the other right by hand.`,
    )
  }
  const { enrolments, freed, left = [] } = JSON.parse(undo.before) as Before
  const known = new Map(enrolments.map((enrolment) => [enrolment.id, enrolment]))
  const everybody = stores.roster.everybody(course.id)
  const came = everybody.filter(({ id }) => !known.has(id))
  // Whoever had come back with it goes again, without the seats and places that were had since.
  const back = everybody.filter(
    ({ id, status }) => status === 'active' && (known.get(id)?.status ?? 'active') !== 'active',
  )
  const going = [...came, ...back].map(({ id }) => id)
  leaveLinesOf(course.id, going, person.id, now, stores)
  freeSeatsOf(course.id, going, person.id, now, stores, undo.at)
  for (const enrolment of came)
    stores.roster.changeEnrolment(enrolment, { ...enrolment, status: 'left' }, now)
  const present = new Map(everybody.map((enrolment) => [enrolment.id, enrolment]))
  for (const { id, person_id, here_since, attributes, name, ...fields } of enrolments) {
    stores.roster.changeOwner(id, person_id)
    const since = here_since ?? present.get(id)?.here_since ?? now
    const unsaid = { listed: name, given: '', family: '', called: '', number: '' }
    stores.roster.restoreEnrolment(id, { ...unsaid, ...fields, here_since: since })
    if (attributes !== undefined) stores.roster.setAttributes(id, attributes)
  }
  stores.roster.dropUndo(course.id)
  endTokens({ course, now, stores })
  const lost = giveSeatsBack(freed, person.id, now, stores)
  takeUpPlaces(left, person.id, now, stores)
  return lost
}
