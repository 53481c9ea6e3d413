import type { AffectedPerson } from '../../contract/problems.ts'
import type { SheetChanges, TopicChanges } from '../../contract/sheets.ts'
import { type Instant, msOf } from '../../core/instant.ts'
import { LIMITS } from '../../core/limits.ts'
import { windowFault } from '../../core/window.ts'
import { readLocalTime, sayInstant } from '../../core/zone.ts'
import type { Course } from '../courses/store.ts'
import { fieldProblem, ProblemError } from '../http/problem.ts'
import type { LedgerKind } from '../ledger/store.ts'
import type { Person } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import type { Group, Sheet, SheetFields, Topic, TopicFields } from './store.ts'

/** Who changes a sheet, and when. */
export interface Edit {
  sheet: Sheet
  course: Course
  person: Person
  now: Instant
  stores: Stores
}

/** Changes a sheet's own fields. The caller holds the transaction. */
export function changeSheet(edit: Edit, changes: SheetChanges): void {
  const { sheet, stores } = edit
  const next: SheetFields = {
    title: changes.title ?? sheet.title,
    instructions: changes.instructions ?? sheet.instructions,
    contact: changes.contact ?? sheet.contact,
    seats: changes.seats ?? sheet.seats,
    floor: changes.floor ?? sheet.floor,
    opens_at: windowEnd(edit, 'opensAt', changes.opensAt, changes.whichOpens, sheet.opens_at),
    closes_at: windowEnd(edit, 'closesAt', changes.closesAt, changes.whichCloses, sheet.closes_at),
  }
  if (windowFault(next.opens_at, next.closes_at)) {
    const field = changes.closesAt === undefined ? 'opensAt' : 'closesAt'
    const opens = sayInstant(next.opens_at as Instant, edit.course.zone)
    const closes = sayInstant(next.closes_at as Instant, edit.course.zone)
    const message = `It would open ${opens} and close ${closes}. The closing time has to come after the opening time.`
    throw fieldProblem(field, message, 'window-closes-before-opening')
  }
  if (sheet.published_at !== null && next.closes_at === null) {
    throw fieldProblem('closesAt', 'The sheet is out, so it needs a closing time.')
  }
  const followers = new Set(
    stores.sheets
      .topics(sheet.id)
      .filter(({ seats }) => seats === null)
      .map(({ id }) => id),
  )
  const groups = stores.sheets.groups(sheet.id).filter(({ topic_id }) => followers.has(topic_id))
  fitSeated(edit, groups, next.seats, changes.confirmed === true)
  stores.sheets.change(sheet.id, next)
  settleRaised(edit, groups, next.seats)
  note(edit, 'sheet-changed', differences(sheet, next))
}

/** Adds a topic at the end of the sheet, with its groups. The caller holds the transaction. */
export function addTopic(edit: Edit, fields: TopicFields): Topic {
  const { sheet, stores, course, now } = edit
  if (stores.sheets.topics(sheet.id).length >= LIMITS.topics) {
    throw new ProblemError(
      'topic-limit-reached',
      `A sheet holds ${LIMITS.topics} topics. Start a second sheet for more.`,
    )
  }
  const topic = stores.sheets.addTopic(sheet.id, fields, stores.roster.sections(course.id), now)
  note(edit, 'topic-added', { topic: topic.code, title: topic.title })
  return topic
}

/** Changes a topic. Seated people stay: past a lowered limit the newest seats become extra seats, once confirmed. */
export function changeTopic(edit: Edit, topic: Topic, changes: TopicChanges): void {
  const { sheet, stores } = edit
  const next: TopicFields = {
    title: changes.title ?? topic.title,
    brief: changes.brief ?? topic.brief,
    place: changes.place ?? topic.place,
    seats: changes.seats === undefined ? topic.seats : changes.seats,
    floor: changes.floor === undefined ? topic.floor : changes.floor,
  }
  const groups = stores.sheets.groups(sheet.id).filter(({ topic_id }) => topic_id === topic.id)
  const limit = next.seats ?? sheet.seats
  fitSeated(edit, groups, limit, changes.confirmed === true)
  stores.sheets.changeTopic(topic.id, next)
  settleRaised(edit, groups, limit)
  note(edit, 'topic-changed', { topic: topic.code, ...differences(topic, next) })
}

/** Takes a topic off the sheet; people seated there lose their seats, once confirmed. */
export function removeTopic(edit: Edit, topic: Topic, confirmed: boolean): void {
  const { sheet, stores, person, now } = edit
  const groups = stores.sheets.groups(sheet.id).filter(({ topic_id }) => topic_id === topic.id)
  const seated = groups.flatMap(({ id }) => stores.seats.ofGroup(id))
  if (seated.length > 0 && !confirmed) {
    const people = seated.map(({ enrolment_id }) => enrolment_id)
    throw new ProblemError(
      'seated-affected',
      `${count(people.length, 'person sits', 'people sit')} at ${topic.title} and would have no group.`,
      { affected: affectedPeople(edit, people) },
    )
  }
  for (const seat of seated) {
    stores.seats.giveUp(seat.group_id, seat.enrolment_id)
    stores.ledger.note({
      sheetId: sheet.id,
      at: now,
      actorId: person.id,
      kind: 'seat-removed',
      enrolmentId: seat.enrolment_id,
      fromGroupId: seat.group_id,
      detail: { because: 'topic-removed' },
    })
  }
  stores.sheets.removeTopic(topic.id, now)
  note(edit, 'topic-removed', { topic: topic.code, title: topic.title })
}

/** Puts a removed topic back, without the seats that were lost. */
export function restoreTopic(edit: Edit, topic: Topic): void {
  if (topic.removed_at === null) return
  edit.stores.sheets.restoreTopic(topic.id)
  note(edit, 'topic-restored', { topic: topic.code, title: topic.title })
}

/** Puts the topics into the order of the codes given; those not named keep their order, after them. */
export function orderTopics(edit: Edit, codes: readonly string[]): void {
  const topics = edit.stores.sheets.topics(edit.sheet.id)
  const named = [...new Set(codes)].map((code) => topics.find((topic) => topic.code === code))
  const unknown = named.indexOf(undefined)
  if (unknown >= 0)
    throw fieldProblem(`topics[${unknown}]`, 'The sheet has no such topic any more. Load the page anew.')
  const first = named.filter((topic) => topic !== undefined)
  const rest = topics.filter((topic) => !first.includes(topic))
  edit.stores.sheets.orderTopics([...first, ...rest].map(({ id }) => id))
  note(edit, 'topics-reordered', {})
}

/** Makes the sheet visible. It opens at its opening time, or at once when none is set. */
export function publish(edit: Edit): void {
  const { sheet, stores, now } = edit
  if (sheet.published_at !== null) return
  const missing: string[] = []
  if (stores.sheets.topics(sheet.id).length === 0)
    missing.push('Add a topic: there is nothing to choose yet.')
  if (sheet.closes_at === null) missing.push('Say when it closes.')
  else if (msOf(sheet.closes_at) <= msOf(now))
    missing.push('The closing time has passed. Choose a later one.')
  if (missing.length > 0) throw new ProblemError('sheet-not-ready', missing.join(' '))
  if (sheet.opens_at === null) stores.sheets.change(sheet.id, { ...sheet, opens_at: now })
  stores.sheets.publish(sheet.id, now)
  note(edit, 'sheet-published', {})
}

function note(
  { sheet, person, now, stores }: Edit,
  kind: LedgerKind,
  detail: Readonly<Record<string, unknown>>,
): void {
  stores.ledger.note({ sheetId: sheet.id, at: now, actorId: person.id, kind, detail })
}

function differences<T extends object>(before: T, after: Partial<T>): Record<string, unknown> {
  const changed = (Object.keys(after) as (keyof T & string)[]).filter((key) => before[key] !== after[key])
  return Object.fromEntries(changed.map((key) => [key, [before[key], after[key]]]))
}

/** Asks before a limit goes below the number seated; once confirmed, marks the newest seats as extra seats. */
function fitSeated(edit: Edit, groups: readonly Group[], limit: number, confirmed: boolean): void {
  const { seats } = edit.stores
  const past = groups.filter(({ id, seats: before }) => limit < before && seats.takenIn(id) > limit)
  if (past.length === 0) return
  if (!confirmed) {
    const people = past.flatMap(({ id }) =>
      seats
        .ofGroup(id)
        .slice(limit)
        .map(({ enrolment_id }) => enrolment_id),
    )
    throw new ProblemError(
      'seated-affected',
      `${count(past.length, 'group has', 'groups have')} more people than ${count(limit, 'seat', 'seats')}. Everybody stays; ${count(people.length, 'seat becomes an extra seat', 'seats become extra seats')}.`,
      { affected: affectedPeople(edit, people) },
    )
  }
  for (const { id } of past) seats.settleExtras(id, limit)
}

/** After a limit was raised, seats that were extra may fit within it. */
function settleRaised({ stores }: Edit, groups: readonly Group[], limit: number): void {
  for (const { id, seats: before } of groups) if (limit > before) stores.seats.settleExtras(id, limit)
}

function affectedPeople({ stores, course }: Edit, enrolmentIds: readonly number[]): AffectedPerson[] {
  const names = new Map(stores.roster.sections(course.id).map(({ id, name }) => [id, name]))
  return enrolmentIds.flatMap((id) => {
    const enrolment = stores.roster.enrolment(id)
    if (!enrolment) return []
    return [{ name: enrolment.name, section: names.get(enrolment.section_id ?? 0) ?? null }]
  })
}

function windowEnd(
  { course }: Edit,
  field: 'opensAt' | 'closesAt',
  local: string | null | undefined,
  which: 'first' | 'second' | undefined,
  before: Instant | null,
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

function count(n: number, one: string, many: string): string {
  return `${n} ${n === 1 ? one : many}`
}
