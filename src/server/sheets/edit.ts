import type { AffectedPerson } from '../../contract/problems.ts'
import { counted } from '../../core/counted.ts'
import type { Instant } from '../../core/instant.ts'
import { NO_LIMIT, pastLimit } from '../../core/limit.ts'
import { readLocalTime } from '../../core/zone.ts'
import type { Course } from '../courses/store.ts'
import { fieldProblem, ProblemError } from '../http/problem.ts'
import type { LedgerKind } from '../ledger/store.ts'
import type { Person } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import type { Sheet } from './store.ts'
import type { Group } from './topicStore.ts'

/** Who changes a sheet, and when. The caller of every edit holds the transaction. */
export interface Edit {
  sheet: Sheet
  course: Course
  person: Person
  now: Instant
  stores: Stores
}

/** Writes an entry of the sheet's ledger. */
export function note(
  { sheet, person, now, stores }: Edit,
  kind: LedgerKind,
  detail: Readonly<Record<string, unknown>>,
): void {
  stores.ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind, detail })
}

/** The fields in which two states differ, each as [before, after]. */
export function differences<T extends object>(before: T, after: Partial<T>): Record<string, unknown> {
  const changed = (Object.keys(after) as (keyof T & string)[]).filter((key) => before[key] !== after[key])
  return Object.fromEntries(changed.map((key) => [key, [before[key], after[key]]]))
}

/** People by name and section, for a question about them. */
export function affectedPeople(
  { stores, course }: Pick<Edit, 'stores' | 'course'>,
  enrolmentIds: readonly number[],
): AffectedPerson[] {
  const names = stores.roster.sectionNames(course.id)
  return [...new Set(enrolmentIds)].flatMap((id) => {
    const enrolment = stores.roster.enrolment(id)
    return enrolment ? [{ name: enrolment.name, section: names.get(enrolment.section_id ?? 0) ?? null }] : []
  })
}

/** Asks before something is done that affects seated people. */
export function askFirst(
  edit: Pick<Edit, 'stores' | 'course'>,
  confirmed: boolean,
  people: readonly number[],
  words: string,
): void {
  if (confirmed || people.length === 0) return
  throw new ProblemError('seated-affected', words, { affected: affectedPeople(edit, people) })
}

/**
 * Prepares groups for new limits: asks where people sit past them, and once confirmed makes the newest seats extra
 * seats. Call before the limits are written; `settleLimits` after.
 */
export function fitSeated(
  edit: Edit,
  groups: readonly Group[],
  limitOf: (group: Group) => number,
  confirmed: boolean,
): void {
  const { seats } = edit.stores
  const past = groups
    .map((group) => ({ group, limit: limitOf(group), taken: seats.takenIn(group.id) }))
    .filter(({ group, limit, taken }) => tighter(limit, group.seats) && pastLimit(limit, taken) > 0)
  const people = past.flatMap(({ group, limit }) =>
    seats
      .ofGroup(group.id)
      .slice(limit)
      .map(({ enrolment_id }) => enrolment_id),
  )
  askFirst(
    edit,
    confirmed,
    people,
    `${counted(past.length, 'group has', 'groups have')} more people than that. Everybody stays; ${counted(people.length, 'seat becomes an extra seat', 'seats become extra seats')}.`,
  )
  for (const { group, limit } of past) seats.settleExtras(group.id, limit)
}

/** After limits were raised, seats that were extra may fit within them. */
export function settleLimits(
  { stores }: Edit,
  groups: readonly Group[],
  limitOf: (group: Group) => number,
): void {
  for (const group of groups) {
    if (tighter(group.seats, limitOf(group))) stores.seats.settleExtras(group.id, limitOf(group))
  }
}

const tighter = (limit: number, than: number) => limit !== NO_LIMIT && (than === NO_LIMIT || limit < than)

/** Takes everybody out of groups that go away, and says so in the ledger. */
export function unseat(edit: Edit, groups: readonly Group[], because: string): void {
  const { sheet, stores, person, now } = edit
  for (const seat of groups.flatMap(({ id }) => stores.seats.ofGroup(id))) {
    stores.seats.giveUp(seat.group_id, seat.enrolment_id)
    stores.ledger.note({
      sheetId: sheet.id,
      at: now,
      actorId: person.id,
      kind: 'seat-removed',
      enrolmentId: seat.enrolment_id,
      fromGroupId: seat.group_id,
      detail: { because },
    })
  }
}

/**
 * A wall-clock time of the course's zone as an instant.
 * @param local what was sent: undefined keeps `before`, null clears it
 * @param which which instant is meant where the time occurs twice
 * @throws ProblemError beside the field when the time does not exist, occurs twice, or is none
 */
export function instantOf(
  { course }: Edit,
  field: string,
  local: string | null | undefined,
  before: Instant | null,
  which: 'first' | 'second' | undefined,
): Instant | null {
  if (local === undefined) return before
  if (local === null) return null
  const reading = readLocalTime(local, course.zone)
  const said = local.replace('T', ' ')
  switch (reading.kind) {
    case 'one':
      return reading.instant
    case 'twice':
      if (which) return which === 'first' ? reading.first : reading.second
      throw fieldProblem(
        field,
        `Clocks in ${course.zone} go back that night, so ${said} occurs twice. Say which is meant, or choose another time.`,
        'time-occurs-twice',
      )
    case 'never':
      throw fieldProblem(
        field,
        `Clocks in ${course.zone} go forward that night, so ${said} does not occur. Choose another time.`,
        'time-never-occurs',
      )
    default:
      throw fieldProblem(field, `${said} is not a day and time of the calendar.`)
  }
}

/** Start and end of something dated, checked against each other. */
export function slotOf(
  edit: Edit,
  changes: { startsAt?: string | null | undefined; endsAt?: string | null | undefined },
  before: { starts_at: Instant | null; ends_at: Instant | null },
): { starts_at: Instant | null; ends_at: Instant | null } {
  const starts_at = instantOf(edit, 'startsAt', changes.startsAt, before.starts_at, 'first')
  const given = instantOf(edit, 'endsAt', changes.endsAt, before.ends_at, 'first')
  const ends_at = starts_at === null && changes.startsAt === null ? null : given
  if (ends_at !== null && starts_at === null)
    throw fieldProblem('endsAt', 'It has an end but no start. Give the start too.')
  if (ends_at !== null && starts_at !== null && ends_at <= starts_at) {
    throw fieldProblem(
      changes.endsAt === undefined ? 'startsAt' : 'endsAt',
      'The end has to come after the start.',
    )
  }
  return { starts_at, ends_at }
}
