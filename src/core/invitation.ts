import type { InvitationRule, NamesShown } from './rules.ts'
import type { SheetState } from './window.ts'

/** Why an invitation is refused. The words for each are in `contract/invitations.ts`. */
export type InvitationRefusal =
  | 'invitations-not-allowed'
  | 'window-not-open'
  | 'not-the-convener'
  | 'no-seat-to-offer'
  | 'cannot-be-invited'
  | 'already-invited'

/** What must be known to decide an invitation, as it stands when its turn comes. */
export interface InvitationFacts<Key> {
  state: SheetState
  rule: InvitationRule
  /** Whether the asker answers for the group. */
  convener: boolean
  group: {
    section: Key | null
    /** Free seats that are kept for nobody. */
    free: number
    /** People who wait in line for one. */
    line: number
    /** Invitations that wait for an answer. */
    invited: number
  }
  /** Whom it is for. */
  guest: {
    /** An active student of the course. */
    active: boolean
    section: Key | null
    seated: boolean
    /** Whether an invitation to this group waits for an answer already. */
    invited: boolean
  }
}

/**
 * May the convener invite this student? An invitation keeps no seat: whoever accepts first, or takes the seat
 * otherwise, has it. So there are never more invitations than free seats. Null when nothing speaks against it.
 */
export function whyNoInvitation<Key>(facts: InvitationFacts<Key>): InvitationRefusal | null {
  const { state, rule, convener, group, guest } = facts
  if (rule === 'no') return 'invitations-not-allowed'
  if (state !== 'open') return 'window-not-open'
  if (!convener) return 'not-the-convener'
  if (guest.invited) return 'already-invited'
  if (!mayBeInvited(guest, group.section)) return 'cannot-be-invited'
  return group.line > 0 || group.invited >= group.free ? 'no-seat-to-offer' : null
}

/** True for an active student without a group, of the group's own section where it has one. */
export function mayBeInvited<Key>(
  guest: Pick<InvitationFacts<Key>['guest'], 'active' | 'section' | 'seated'>,
  section: Key | null,
): boolean {
  return guest.active && !guest.seated && (section === null || guest.section === section)
}

/**
 * Does an invitation say who invites? Whoever invites shows themselves, except where names are nobody's business: never,
 * or not before the close, as people are to choose topics and not each other.
 */
export function invitationNames(names: NamesShown, state: SheetState): boolean {
  return names !== 'nobody' && (names !== 'after-close' || state === 'closed' || state === 'archived')
}
