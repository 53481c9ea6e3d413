import type { CountsEvent, SeatsEvent } from '../../contract/live.ts'
import { type LedgerEntry, type LedgerStore, SEAT_KINDS } from '../ledger/store.ts'
import type { RosterStore } from '../roster/store.ts'
import type { SeatStore } from '../seats/store.ts'
import type { SheetStore } from '../sheets/store.ts'

/** What happened on a sheet between two positions of its ledger, ready to be sent. */
export interface Changes {
  position: number
  counts: CountsEvent
  seats: SeatsEvent
  /** True when the views have to be fetched anew: something besides seats changed, or too much did. */
  refresh: boolean
}

/** Above this number of entries fetching a view is cheaper than telling each change. */
const MOST_TOLD = 500

export interface ChangeSources {
  ledger: LedgerStore
  sheets: SheetStore
  seats: SeatStore
  roster: RosterStore
}

/** Reads from the ledger what happened on a sheet after a position, or null when nothing did. */
export function changesSince(sheetId: number, position: number, sources: ChangeSources): Changes | null {
  const entries = sources.ledger.since(sheetId, position, MOST_TOLD + 1)
  const last = entries.at(-1)
  if (!last) return null
  if (entries.length > MOST_TOLD || entries.some(({ kind }) => !SEAT_KINDS.includes(kind))) {
    return {
      position: sources.ledger.newest(sheetId),
      counts: { groups: [] },
      seats: { changes: [] },
      refresh: true,
    }
  }
  return { position: last.id, ...seatChanges(sheetId, entries, sources), refresh: false }
}

function seatChanges(
  sheetId: number,
  entries: readonly LedgerEntry[],
  { sheets, seats, roster }: ChangeSources,
): { counts: CountsEvent; seats: SeatsEvent } {
  const codes = sheets.groupCodes(sheetId)
  const codeOf = (id: number | null) => (id === null ? null : (codes.get(id) ?? null))
  const touched = new Set(entries.flatMap(({ from_group_id, to_group_id }) => [from_group_id, to_group_id]))
  const groups = [...touched]
    .filter((id) => id !== null)
    .map((id) => ({ code: codes.get(id) ?? '', taken: seats.takenIn(id), held: sheets.heldIn(id).length }))
  const changes = entries.map((entry) => ({
    person: roster.enrolment(entry.enrolment_id ?? 0)?.code ?? '',
    from: codeOf(entry.from_group_id),
    to: codeOf(entry.to_group_id),
    at: entry.at,
  }))
  return { counts: { groups }, seats: { changes } }
}
