import type { Instant } from '../../core/instant.ts'
import type { LinePlace, Seat } from '../seats/store.ts'
import type { LedgerEntry } from './store.ts'

/** A seat as the ledger tells it. */
export interface ToldSeat {
  enrolmentId: number
  groupId: number
  /** When it was taken. */
  at: Instant
}

/**
 * Who sits where after these entries, given from the first one on, in the order the seats were taken.
 * @throws Error when an entry takes away a seat that none before gave
 */
export function seatsAt(
  entries: readonly Pick<LedgerEntry, 'at' | 'enrolment_id' | 'from_group_id' | 'to_group_id'>[],
): ToldSeat[] {
  const sits = new Map<string, ToldSeat>()
  for (const { at, enrolment_id, from_group_id, to_group_id } of entries) {
    if (enrolment_id === null) continue
    if (from_group_id !== null && !sits.delete(`${enrolment_id}:${from_group_id}`)) {
      throw new Error(`The ledger takes away a seat that it never gave: ${enrolment_id} in ${from_group_id}`)
    }
    if (to_group_id !== null) {
      sits.set(`${enrolment_id}:${to_group_id}`, { enrolmentId: enrolment_id, groupId: to_group_id, at })
    }
  }
  return [...sits.values()]
}

/** Who sits where, as the ledger tells it from its first entry on: `enrolment:group`, sorted. */
export function seatsByLedger(entries: readonly LedgerEntry[]): string[] {
  return seatsAt(entries)
    .map(({ enrolmentId, groupId }) => `${enrolmentId}:${groupId}`)
    .sort()
}

/**
 * Who waits where, as the ledger tells it from its first entry on: `enrolment:group`, sorted. A seat ends the wait for
 * that group.
 */
export function placesByLedger(
  entries: readonly Pick<LedgerEntry, 'kind' | 'enrolment_id' | 'to_group_id' | 'detail'>[],
): string[] {
  const waits = new Set<string>()
  for (const { kind, enrolment_id, to_group_id, detail } of entries) {
    const group = () => (JSON.parse(detail) as { group: number }).group
    if (kind === 'line-joined') waits.add(`${enrolment_id}:${group()}`)
    else if (kind === 'line-left') waits.delete(`${enrolment_id}:${group()}`)
    else if (to_group_id !== null) waits.delete(`${enrolment_id}:${to_group_id}`)
  }
  return [...waits].sort()
}

/** Who waits where, as the places in lines say it. */
export function placesAsKept(places: readonly Pick<LinePlace, 'enrolment_id' | 'group_id'>[]): string[] {
  return places.map(({ enrolment_id, group_id }) => `${enrolment_id}:${group_id}`).sort()
}

/** Who sits where, as the seats say it. */
export function seatsAsKept(seats: readonly Seat[]): string[] {
  return seats.map(({ enrolment_id, group_id }) => `${enrolment_id}:${group_id}`).sort()
}
