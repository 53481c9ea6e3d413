import type { Seat } from '../seats/store.ts'
import type { LedgerEntry } from './store.ts'

/** Who sits where, as the ledger tells it from its first entry on: `enrolment:group`, sorted. */
export function seatsByLedger(entries: readonly LedgerEntry[]): string[] {
  const sits = new Set<string>()
  for (const { enrolment_id, from_group_id, to_group_id } of entries) {
    if (enrolment_id === null) continue
    if (from_group_id !== null && !sits.delete(`${enrolment_id}:${from_group_id}`)) {
      throw new Error(`The ledger takes away a seat that it never gave: ${enrolment_id} in ${from_group_id}`)
    }
    if (to_group_id !== null) sits.add(`${enrolment_id}:${to_group_id}`)
  }
  return [...sits].sort()
}

/** Who sits where, as the seats say it. */
export function seatsAsKept(seats: readonly Seat[]): string[] {
  return seats.map(({ enrolment_id, group_id }) => `${enrolment_id}:${group_id}`).sort()
}
