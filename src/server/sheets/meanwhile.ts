import type { SentLimit } from '../../contract/fields.ts'
import { NO_LIMIT } from '../../core/limit.ts'
import { localTimeOf } from '../../core/zone.ts'
import { fieldProblem } from '../http/problem.ts'
import { rulesOf, type Sheet } from './store.ts'
import type { Group, Topic } from './topicStore.ts'

type Fields = Readonly<Record<string, unknown>>

/**
 * Refuses a change over something that is no longer what its author saw. Nothing is refused that would make no
 * difference, and nothing for changes that do not say what was seen.
 * @param now what is there, in the shape in which it is sent
 * @param changes what is wanted
 * @param was what its author saw of it
 * @throws ProblemError `changed-meanwhile` beside the field
 */
export function refuseMeanwhile(now: Fields, changes: Fields, was: Fields | undefined): void {
  if (!was) return
  const other = Object.keys(was).find(
    (key) =>
      was[key] !== undefined &&
      key in changes &&
      changes[key] !== undefined &&
      !same(now[key], was[key]) &&
      !same(now[key], changes[key]),
  )
  if (other === undefined) return
  throw fieldProblem(
    other,
    'Somebody changed it meanwhile, so it was left as it is. Look at it again.',
    'changed-meanwhile',
  )
}

/** Whether two fields say the same; lists are compared by what is in them. */
const same = (a: unknown, b: unknown) => a === b || JSON.stringify(a) === JSON.stringify(b)

const limit = (seats: number): SentLimit => (seats === NO_LIMIT ? 'none' : seats)
const own = (seats: number | null) => (seats === null ? null : limit(seats))
/** An instant as it is typed, on the course's clocks. */
export const local = (instant: string | null, zone: string) =>
  instant === null ? null : localTimeOf(instant, zone)

/** A sheet's own fields in the shape in which changes of them are sent. */
export function sheetAsSent(sheet: Sheet, zone: string): Fields {
  return {
    ...rulesOf(sheet),
    title: sheet.title,
    instructions: sheet.instructions,
    contact: sheet.contact,
    seats: limit(sheet.seats),
    floor: sheet.floor,
    opensAt: local(sheet.opens_at, zone),
    closesAt: local(sheet.closes_at, zone),
    visibleBefore: sheet.visible_before === 1,
    nudgesADay: sheet.nudges_a_day,
    mixed: sheet.mixed === 1,
    forWhom: sheet.for_whom,
  }
}

/** A topic's fields in the shape in which changes of them are sent. */
export function topicAsSent(topic: Topic, zone: string): Fields {
  const { title, brief, place, link, floor } = topic
  return {
    title,
    brief,
    place,
    link,
    floor,
    seats: own(topic.seats),
    startsAt: local(topic.starts_at, zone),
    endsAt: local(topic.ends_at, zone),
    mixed: topic.mixed === null ? null : topic.mixed === 1,
  }
}

/** A group's exceptions in the shape in which changes of them are sent. */
export function groupAsSent(group: Group, zone: string): Fields {
  return {
    offered: group.offered === 1,
    seats: own(group.own_seats),
    floor: group.own_floor,
    place: group.own_place,
    link: group.own_link,
    startsAt: local(group.own_starts_at, zone),
    endsAt: local(group.own_ends_at, zone),
  }
}
