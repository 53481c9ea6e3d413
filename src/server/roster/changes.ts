import type { RosterView } from '../../contract/roster.ts'
import type { Instant } from '../../core/instant.ts'
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
  /** Records from before `here_since` was kept have none. */
  enrolments: (Pick<Enrolment, 'id' | 'person_id'> &
    Partial<Pick<Enrolment, 'here_since' | 'attributes'>> &
    EnrolmentFields)[]
  freed: Seat[]
  /** Places in lines; records from before lines were kept have none. */
  left?: LinePlace[]
}

/** The roster as its staff see it. */
export function rosterView(course: Course, { roster }: Pick<Stores, 'roster'>): RosterView {
  const undo = roster.undo(course.id)
  return {
    people: rosterPeople(course.id, roster).map(({ id: _, ...person }) => person),
    undo: undo ? { at: undo.at, what: undo.what } : null,
  }
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
  const kept: Before = { enrolments: before, freed, left }
  stores.roster.keepUndo(course.id, now, what, JSON.stringify(kept))
}

/** Puts an address and its fields on an enrolment. */
export function setPerson(
  { course, now, stores }: RosterChange,
  enrolment: Enrolment,
  email: string | undefined,
  fields: EnrolmentFields,
): void {
  if (email !== undefined && email !== enrolment.email) {
    const owner = stores.roster.ensurePerson(email, now)
    if (stores.roster.enrolmentIn(course.id, owner.id))
      throw fieldProblem('email', 'Somebody on this roster has this address already.')
    stores.roster.changeOwner(enrolment.id, owner.id)
  }
  stores.roster.changeEnrolment(enrolment, fields, now)
}

/** Brings back the roster as it was before its last change; people who came with it leave again. Gives seats that could not be given back. */
export function undoRoster({ course, person, now, stores }: RosterChange): number {
  const undo = stores.roster.undo(course.id)
  if (!undo) throw new ProblemError('not-found', 'There is no change of this roster to undo.')
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
  for (const { id, person_id, here_since, attributes, ...fields } of enrolments) {
    stores.roster.changeOwner(id, person_id)
    const since = here_since ?? present.get(id)?.here_since ?? now
    stores.roster.restoreEnrolment(id, { ...fields, here_since: since })
    if (attributes !== undefined) stores.roster.setAttributes(id, attributes)
  }
  stores.roster.dropUndo(course.id)
  const lost = giveSeatsBack(freed, person.id, now, stores)
  takeUpPlaces(left, person.id, now, stores)
  return lost
}
