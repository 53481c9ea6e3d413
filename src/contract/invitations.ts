import { boolean, object, string } from 'yup'
import type { InvitationRefusal } from '../core/invitation.ts'
import { plainRoute, route } from './route.ts'
import type { StudentSheet } from './seats.ts'

/** Somebody whom a convener may invite. */
export interface Invitable {
  code: string
  name: string
}

export const inviteBody = object({ person: string().required('Say whom you invite.') })
export const invitationAnswerBody = object({ accepted: boolean().required('Say whether you accept.') })

/** Students without a group whom the reader, as convener of the group, may invite. */
export const invitable = plainRoute<{ people: Invitable[] }>()(
  'GET',
  '/api/sheets/:sheet/groups/:group/invitable',
  'student',
)
/** Invites somebody to a free seat of one's group. The seat is kept for nobody. */
export const invite = route<StudentSheet>()(
  'POST',
  '/api/sheets/:sheet/groups/:group/invitations',
  'student',
  inviteBody,
)
/** Takes back an invitation that was not answered yet. */
export const withdrawInvitation = plainRoute<StudentSheet>()(
  'DELETE',
  '/api/sheets/:sheet/invitations/:invitation',
  'student',
)
/** Accepts an invitation, which takes the seat if it is still free, or declines it. */
export const answerInvitation = route<StudentSheet>()(
  'POST',
  '/api/sheets/:sheet/invitations/:invitation/answer',
  'student',
  invitationAnswerBody,
)

/** Tells a convener why somebody cannot be invited, and what can be done. */
export const INVITATION_WORDS: Record<InvitationRefusal, string> = {
  'invitations-not-allowed': 'On this sheet nobody invites. Each takes a seat alone.',
  'window-not-open': 'Invitations are possible while the sheet is open.',
  'not-the-convener': 'Only the one who answers for the group invites to it.',
  'no-seat-to-offer':
    'Your group has no free seat that is not offered already. Withdraw an invitation to make another.',
  'cannot-be-invited':
    'That is not a student of your section without a group, or is one no longer. Choose somebody else.',
  'already-invited': 'That invitation waits for an answer already.',
}
