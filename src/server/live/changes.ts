import type { CountsEvent, SeatsEvent } from '../../contract/live.ts'
import { type LedgerEntry, type LedgerStore, LINE_KINDS, SEAT_KINDS } from '../ledger/store.ts'
import type { RosterStore } from '../roster/store.ts'
import type { SeatStore } from '../seats/store.ts'
import type { SheetStore } from '../sheets/store.ts'

/** What happened on a sheet between two positions of its ledger, ready to be sent. */
export interface Changes {
  position: number
  counts: CountsEvent
  seats: SeatsEvent
  /** True when a line changed, which staff see by name and so fetch. */
  lines: boolean
  /** True when the views have to be fetched anew: something besides seats changed, or too much did. */
  refresh: boolean
}

/** Above this number of entries fetching a view is cheaper than telling each change. */
const MOST_TOLD = 500

/** Kinds of entries whose changes are told one by one. */
const TOLD = [...SEAT_KINDS, ...LINE_KINDS]

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
  if (entries.length > MOST_TOLD || entries.some(({ kind }) => !TOLD.includes(kind))) {
    return {
      position: sources.ledger.newest(sheetId),
      counts: { groups: [] },
      seats: { changes: [] },
      lines: false,
      refresh: true,
    }
  }
  const lines = entries.some(
    ({ kind, detail }) => LINE_KINDS.includes(kind) || detail.includes('waiting-line'),
  )
  return { position: last.id, ...seatChanges(sheetId, entries, sources), lines, refresh: false }
}

function seatChanges(
  sheetId: number,
  entries: readonly LedgerEntry[],
  { sheets, seats, roster }: ChangeSources,
): { counts: CountsEvent; seats: SeatsEvent } {
  const codes = sheets.groupCodes(sheetId)
  const codeOf = (id: number | null) => (id === null ? null : (codes.get(id) ?? null))
  const lineGroup = ({ kind, detail }: LedgerEntry): number | null =>
    LINE_KINDS.includes(kind) ? (JSON.parse(detail) as { group: number }).group : null
  const touched = new Set(
    entries.flatMap((entry) => [entry.from_group_id, entry.to_group_id, lineGroup(entry)]),
  )
  const groups = [...touched]
    .filter((id) => id !== null)
    .map((id) => ({
      code: codes.get(id) ?? '',
      taken: seats.takenIn(id),
      held: sheets.heldIn(id).length,
      waiting: seats.lineOf(id).length,
    }))
  const changes = entries
    .filter(({ kind }) => SEAT_KINDS.includes(kind))
    .map((entry) => ({
      person: roster.enrolment(entry.enrolment_id ?? 0)?.code ?? '',
      from: codeOf(entry.from_group_id),
      to: codeOf(entry.to_group_id),
      at: entry.at,
    }))
  return { counts: { groups }, seats: { changes } }
}
