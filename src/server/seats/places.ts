import type { Instant } from '../../core/instant.ts'
import type { LedgerStore } from '../ledger/store.ts'
import type { SeatStore } from './store.ts'

/** Why somebody's place in a line is over, as the ledger has it; none where they left by themselves. */
export type PlaceEnd =
  | 'roster'
  | 'seated-elsewhere'
  | 'lines-ended'
  | 'group-not-offered'
  | 'other-section'
  | 'enrolment-not-active'

/** Takes a place in a line away and says so in the ledger. The caller holds the transaction. */
export function leavePlace(
  at: { sheetId: number; groupId: number; enrolmentId: number; actorId: number | null },
  because: PlaceEnd | null,
  now: Instant,
  { seats, ledger }: { seats: SeatStore; ledger: LedgerStore },
): void {
  const { sheetId, groupId, enrolmentId, actorId } = at
  if (seats.leaveLine(groupId, enrolmentId).changes === 0) return
  const detail = { group: groupId, ...(because && { because }) }
  ledger.note({ sheetId, at: now, actorId, kind: 'line-left', enrolmentId, detail })
}
