import type { ReceivedInvitation, SentInvitation } from '../../contract/asking.ts'
import type { Instant } from '../../core/instant.ts'
import { invitationNames, mayBeInvited } from '../../core/invitation.ts'
import { seatsLeft } from '../../core/limit.ts'
import { sheetState } from '../../core/window.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'

/** Invitations that wait for a student's answer. */
export function receivedInvitations(
  sheet: Sheet,
  readerId: number,
  now: Instant,
  { invitations, roster, sheets }: Stores,
): ReceivedInvitation[] {
  const waiting = invitations.receivedBy(sheet.id, readerId)
  if (waiting.length === 0) return []
  const named = invitationNames(sheet.names, sheetState(windowOf(sheet), now))
  const codes = sheets.groupCodes(sheet.id)
  return waiting.map(({ code, group_id, by_id, made_at }) => ({
    code,
    group: codes.get(group_id) ?? '',
    from: named ? (roster.enrolment(by_id)?.name ?? null) : null,
    madeAt: made_at,
  }))
}

/** What became of a convener's invitations to a group: those that wait, and those that were declined. */
export function sentInvitations(
  group: Group,
  convenerId: number,
  { invitations, roster }: Stores,
): SentInvitation[] {
  return invitations.ofGroup(group.id).flatMap(({ code, enrolment_id, by_id, made_at, answer }) => {
    if (by_id !== convenerId || (answer !== null && answer !== 'declined')) return []
    const name = roster.enrolment(enrolment_id)?.name ?? ''
    return [{ code, group: group.code, name, state: answer ?? 'open', madeAt: made_at }]
  })
}

/** Students without a group whom the convener of this group may invite, by name. */
export function invitableTo(
  group: Group,
  sheet: Sheet,
  { audience, seats, invitations }: Stores,
): Enrolment[] {
  const seated = new Set(seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
  const invited = new Set(openOf(group, invitations).map(({ enrolment_id }) => enrolment_id))
  return audience
    .students(sheet)
    .filter(
      ({ id, section_id }) =>
        !invited.has(id) &&
        mayBeInvited({ active: true, section: section_id, seated: seated.has(id) }, group.section_id),
    )
    .sort((a, b) => a.name.localeCompare(b.name))
}

/** Seats of a group that a convener could offer now: free, and not offered to anybody yet. */
export function seatsToOffer(group: Group, { seats, sheets, invitations }: Stores): number {
  if (seats.lineOf(group.id).length > 0) return 0
  const free = seatsLeft(group.seats, seats.takenIn(group.id), sheets.heldIn(group.id).length)
  return Math.max(0, free - openOf(group, invitations).length)
}

/** Invitations to a group that wait for an answer. */
export function openOf(group: Group, invitations: Stores['invitations']) {
  return invitations.ofGroup(group.id).filter(({ answer }) => answer === null)
}
