import type { Instant } from '../../core/instant.ts'
import type { InvitationStore } from '../invitations/store.ts'
import type { LedgerStore } from '../ledger/store.ts'
import type { SheetStore } from '../sheets/store.ts'
import type { SeatStore } from './store.ts'

export interface SeatKeepers {
  seats: SeatStore
  sheets: SheetStore
  invitations: InvitationStore
  ledger: LedgerStore
}

/**
 * Seats a student in a group: what was held for them there is used up, waiting there is over, invitations find their end.
 * @param extra whether the seat lies past the limit, which staff grant knowingly
 */
export function sitDown(
  sheetId: number,
  groupId: number,
  enrolmentId: number,
  now: Instant,
  { seats, sheets, invitations, ledger }: SeatKeepers,
  extra = false,
): void {
  seats.seat(sheetId, groupId, enrolmentId, extra, now)
  sheets.takeUpHeld(groupId, enrolmentId)
  seats.leaveLine(groupId, enrolmentId)
  for (const { id, group_id, by_id } of invitations.receivedBy(sheetId, enrolmentId)) {
    const answer = group_id === groupId ? 'accepted' : 'lapsed'
    invitations.end(id, answer, now)
    const detail = { group: group_id, answer, by: by_id }
    ledger.note({ sheetId, at: now, actorId: null, kind: 'invitation-answered', enrolmentId, detail })
  }
}

/** Takes a student's seat in a group back; those who sat past the limit may then sit within it. */
export function standUp(
  groupId: number,
  enrolmentId: number,
  limit: number,
  { seats }: Pick<SeatKeepers, 'seats'>,
): void {
  seats.giveUp(groupId, enrolmentId)
  seats.settleExtras(groupId, limit)
}
