import { seatsLeft } from '../../core/limit.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'

/** How many groups of a sheet have a free seat and have handed in: Run shows the seat, and no plan puts anybody there. */
export function boundWithRoom(
  sheet: Sheet,
  { sheets, seats, tasks }: Pick<Stores, 'sheets' | 'seats' | 'tasks'>,
): number {
  const bound = tasks.bound(sheet.id)
  return sheets
    .groups(sheet.id)
    .filter(
      ({ id, seats: limit }) =>
        bound.has(id) && seatsLeft(limit, seats.takenIn(id), sheets.heldIn(id).length) > 0,
    ).length
}
