import { plainRoute } from './route.ts'

/** Sent to students: how full the groups that changed are now, how many seats are kept free, how many wait. */
export interface CountsEvent {
  groups: { code: string; taken: number; held: number; waiting: number }[]
}

/** Sent to tutors and instructors: who changed seats. A null group means no seat. */
export interface SeatsEvent {
  changes: { person: string; from: string | null; to: string | null; at: string }[]
}

/** Sent to all: the view has to be fetched anew. */
export interface RefreshEvent {
  /** Milliseconds over which the readers spread their fetches, so that not all come at once. */
  within: number
}

/** Sent to one student, on every device: something of the student's own changed, by whomever. */
export interface OwnEvent {
  /** The ledger position of it. Whoever knows that position already need not fetch. */
  position: number
}

/** Sent to those who reach a group: something on its page changed. */
export interface PlaceEvent {
  group: string
}

/**
 * The names of the events on a sheet's stream. `elsewhere` is the last one of a stream: its person has as many open as one
 * may have, and this was the oldest; it is opened again when its page comes to the front. Each carries the ledger's position as its id. `refresh` is sent when
 * something besides seats changed, or too much to tell singly.
 */
export const LIVE_EVENTS = {
  counts: 'counts',
  seats: 'seats',
  refresh: 'refresh',
  own: 'own',
  place: 'place',
  elsewhere: 'elsewhere',
} as const

/**
 * The stream of a sheet's changes (server-sent events). `?since=` or `Last-Event-ID` is the last position the
 * reader knows; what happened after it is sent first.
 */
export const live = plainRoute<never>()('GET', '/api/sheets/:sheet/live', 'member')
