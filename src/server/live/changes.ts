import type { CountsEvent, SeatsEvent } from '../../contract/live.ts'
import { type LedgerEntry, type LedgerStore, LINE_KINDS, OWN_KINDS, SEAT_KINDS } from '../ledger/store.ts'
import type { RosterStore } from '../roster/store.ts'
import type { SeatStore } from '../seats/store.ts'
import type { Audience } from '../sheets/audience.ts'
import type { SheetStore } from '../sheets/store.ts'

/** What happened on a sheet between two positions of its ledger, ready to be sent. */
export interface Changes {
  position: number
  counts: CountsEvent
  seats: SeatsEvent
  /** Students of whose own something changed, with the position of the newest. */
  own: ReadonlyMap<number, number>
  /** True when the staff's view has to be fetched anew: a line, a request or an invitation changed. */
  staffRefresh: boolean
  /** True when all views have to be fetched anew: something besides seats changed, or too much did. */
  refresh: boolean
}

/** Above this number of entries fetching a view is cheaper than telling each change. */
const MOST_TOLD = 500

/** Kinds of entries whose changes are told one by one. */
const TOLD = [...SEAT_KINDS, ...LINE_KINDS, ...OWN_KINDS]

export interface ChangeSources {
  ledger: LedgerStore
  sheets: SheetStore
  seats: SeatStore
  roster: RosterStore
  audience: Audience
}

/** Reads from the ledger what happened on a sheet after a position, or null when nothing did. */
export function changesSince(sheetId: number, position: number, sources: ChangeSources): Changes | null {
  const entries = sources.ledger.since(sheetId, position, MOST_TOLD + 1)
  const last = entries.at(-1)
  if (!last) return null
  const refresh = entries.length > MOST_TOLD || entries.some(({ kind }) => !TOLD.includes(kind))
  if (refresh) {
    return {
      position: sources.ledger.newest(sheetId),
      counts: { groups: [] },
      seats: { changes: [] },
      own: new Map(),
      staffRefresh: true,
      refresh,
    }
  }
  return {
    position: last.id,
    counts: countsOf(sheetId, entries, sources),
    seats: seatsOf(sheetId, entries, sources),
    own: ownOf(entries),
    staffRefresh: entries.some(
      ({ kind, detail }) => !SEAT_KINDS.includes(kind) || detail.includes('waiting-line'),
    ),
    refresh,
  }
}

function countsOf(
  sheetId: number,
  entries: readonly LedgerEntry[],
  { sheets, seats }: ChangeSources,
): CountsEvent {
  const codes = sheets.groupCodes(sheetId)
  const touched = new Set(
    entries
      .filter(({ kind }) => !OWN_KINDS.includes(kind))
      .flatMap((entry) => [entry.from_group_id, entry.to_group_id, lineGroup(entry)]),
  )
  const groups = [...touched]
    .filter((id) => id !== null)
    .map((id) => ({
      code: codes.get(id) ?? '',
      taken: seats.takenIn(id),
      held: sheets.heldIn(id).length,
      waiting: seats.lineOf(id).length,
    }))
  return { groups }
}

function lineGroup({ kind, detail }: LedgerEntry): number | null {
  return LINE_KINDS.includes(kind) ? (JSON.parse(detail) as { group: number }).group : null
}

function seatsOf(
  sheetId: number,
  entries: readonly LedgerEntry[],
  { sheets, roster }: ChangeSources,
): SeatsEvent {
  const codes = sheets.groupCodes(sheetId)
  const codeOf = (id: number | null) => (id === null ? null : (codes.get(id) ?? null))
  const changes = entries
    .filter(({ kind }) => SEAT_KINDS.includes(kind))
    .map((entry) => ({
      person: roster.enrolment(entry.enrolment_id ?? 0)?.code ?? '',
      from: codeOf(entry.from_group_id),
      to: codeOf(entry.to_group_id),
      at: entry.at,
    }))
  return { changes }
}

/** Whose own changed, by themselves too: they may have the sheet open elsewhere. The page that did it knows. */
function ownOf(entries: readonly LedgerEntry[]): Map<number, number> {
  const own = new Map<number, number>()
  for (const { id, kind, enrolment_id, detail } of entries) {
    if (enrolment_id !== null) own.set(enrolment_id, id)
    if (!OWN_KINDS.includes(kind)) continue
    const { by, with: others = [] } = JSON.parse(detail) as { by?: number; with?: number[] }
    for (const one of by === undefined ? others : [by, ...others]) own.set(one, id)
  }
  return own
}
