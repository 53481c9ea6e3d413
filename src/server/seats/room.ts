import { keptFrom } from '../../core/fits.ts'
import { NO_LIMIT, seatsLeft } from '../../core/limit.ts'
import type { LedgerStore } from '../ledger/store.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet, SheetStore } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import { heldFor } from './facts.ts'
import { offeredTo } from './offered.ts'
import type { SeatStore } from './store.ts'

/** Groups of a sheet that are not full, with how many seats are free, as of a position of its ledger. */
interface Known {
  rev: number
  groups: readonly { group: Group; left: number; keptFor: readonly (number | null)[] }[]
}

export type RoomCount = ReturnType<typeof createRoomCount>

/**
 * Counts the groups that still have a seat for a student. Whatever fills or frees a seat writes to the sheet's ledger,
 * so the figures are kept until the ledger has moved: those who lose a race together are told by one count.
 */
export function createRoomCount({
  seats,
  sheets,
  ledger,
}: {
  seats: SeatStore
  sheets: SheetStore
  ledger: LedgerStore
}) {
  const known = new Map<number, Known>()
  const read = (sheetId: number): Known['groups'] => {
    const rev = ledger.newest(sheetId)
    const before = known.get(sheetId)
    if (before?.rev === rev) return before.groups
    const counts = seats.counts(sheetId)
    const kept = sheets.heldOnSheet(sheetId)
    const groups = sheets.groups(sheetId).flatMap((group) => {
      const left = seatsLeft(group.seats, counts.get(group.id) ?? 0)
      if (left <= 0) return []
      return [{ group, left, keptFor: heldFor(kept.filter(({ group_id }) => group_id === group.id)) }]
    })
    known.set(sheetId, { rev, groups })
    return groups
  }
  return (sheet: Sheet, student: Pick<Enrolment, 'id' | 'section_id'>): number =>
    read(sheet.id).filter(({ group, left, keptFor }) => {
      const others = keptFrom(keptFor, student.id)
      return offeredTo(student, sheet, group) && (group.seats === NO_LIMIT || left > others)
    }).length
}
