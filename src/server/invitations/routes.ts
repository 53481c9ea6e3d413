import { randomUUID } from 'node:crypto'
import {
  answerInvitation,
  INVITATION_WORDS,
  invitable,
  invite,
  withdrawInvitation,
} from '../../contract/invitations.ts'
import { refusalWords } from '../../contract/refusals.ts'
import { takesPeople } from '../../core/groupState.ts'
import { invitationNames, whyNoInvitation } from '../../core/invitation.ts'
import { seatsLeft } from '../../core/limit.ts'
import { sheetState } from '../../core/window.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Allowance } from '../mail/allowance.ts'
import { invitationMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Claims } from '../seats/claims.ts'
import { convenerIn } from '../seats/members.ts'
import { refusalFacts } from '../seats/refusalFacts.ts'
import { studentSheet } from '../seats/studentViews.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import type { Invitation, InvitationEnd } from './store.ts'
import { invitableTo, openOf } from './views.ts'

/** Inviting to a free seat: made by the convener of a group, answered by the invited. */
export function bindInvitations(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  claims: Claims,
  mailer: Mailer,
  allowance: Allowance,
  origin: string | null,
): void {
  const { invitations, sheets, seats, ledger } = stores

  const groupOf = (sheet: Sheet, code: string): Group => {
    const group = sheets.group(code)
    if (!group || group.sheet_id !== sheet.id || !takesPeople(group)) throw notFound()
    return group
  }
  /** What speaks against an invitation; without a guest, what speaks against any. */
  const refusal = (sheet: Sheet, group: Group, asker: Enrolment, guest: Enrolment | null, now: string) =>
    whyNoInvitation<number>({
      state: sheetState(windowOf(sheet), now),
      // An invitation is to a seat that is taken as it comes.
      rule: sheet.road === 'wished' ? 'no' : sheet.invitations,
      convener: convenerIn(sheet, group, stores) === asker.id,
      group: {
        section: group.section_id,
        free: seatsLeft(group.seats, seats.takenIn(group.id), sheets.heldIn(group.id).length),
        line: seats.lineOf(group.id).length,
        invited: openOf(group, invitations).length,
      },
      guest: {
        active: guest === null || (guest.role === 'student' && guest.status === 'active'),
        section: guest === null ? group.section_id : guest.section_id,
        seated: guest !== null && seats.heldBy(sheet.id, guest.id).length > 0,
        invited: guest !== null && openOf(group, invitations).some((open) => open.enrolment_id === guest.id),
      },
    })
  const refuse = (reason: NonNullable<ReturnType<typeof refusal>>) =>
    new ProblemError(reason, INVITATION_WORDS[reason])
  const end = (sheet: Sheet, invitation: Invitation, how: InvitationEnd, actorId: number, now: string) => {
    if (!invitations.end(invitation.id, how, now)) return false
    ledger.note({
      sheetId: sheet.id,
      at: now,
      actorId,
      kind: 'invitation-answered',
      enrolmentId: invitation.enrolment_id,
      detail: { group: invitation.group_id, answer: how, by: invitation.by_id },
    })
    return true
  }
  const answered = () =>
    new ProblemError(
      'invitation-answered',
      'It was answered or withdrawn meanwhile. Your page shows how it stands.',
    )

  serve(invitable, ({ sheet, enrolment, params, now }) => {
    const group = groupOf(sheet, params.group)
    const against = refusal(sheet, group, enrolment, null, now)
    if (against && against !== 'no-seat-to-offer') throw refuse(against)
    return { people: invitableTo(group, sheet, stores).map(({ code, name }) => ({ code, name })) }
  })

  serve(invite, ({ req, sheet, course, enrolment, person, params, body, now }) => {
    const group = groupOf(sheet, params.group)
    const guest = stores.audience.students(sheet).find(({ code }) => code === body.person)
    const topic = sheets.topics(sheet.id).find(({ id }) => id === group.topic_id)
    allowance.spend('invitations', enrolment.id, now)
    const address = `${origin ?? `${req.protocol}://${req.get('host')}`}/sheets/${sheet.code}`
    unit.onSheet(sheet, now, () => {
      const against = refusal(sheet, group, enrolment, guest ?? null, now)
      if (against) throw refuse(against)
      if (!guest) throw refuse('cannot-be-invited')
      invitations.add(sheet.id, group.id, guest.id, enrolment.id, now)
      ledger.note({
        sheetId: sheet.id,
        at: now,
        actorId: person.id,
        kind: 'invitation-made',
        enrolmentId: guest.id,
        detail: { group: group.id, by: enrolment.id },
      })
      const by = invitationNames(sheet.names, sheetState(windowOf(sheet), now)) ? enrolment.name : null
      mailer.send(
        invitationMail(guest.email, { sheet: sheet.title, by, topic: topic?.title ?? null, address }),
      )
    })
    return studentSheet(sheet, course, enrolment, now, stores)
  })

  serve(withdrawInvitation, ({ sheet, course, enrolment, person, params, now }) => {
    const invitation = invitations.byCode(sheet.id, params.invitation)
    if (!invitation || invitation.by_id !== enrolment.id) throw notFound()
    unit.onSheet(sheet, now, () => {
      if (!end(sheet, invitation, 'withdrawn', person.id, now)) throw answered()
    })
    return studentSheet(sheet, course, enrolment, now, stores)
  })

  serve(answerInvitation, async ({ sheet, course, enrolment, person, params, body, now }) => {
    const invitation = invitations.byCode(sheet.id, params.invitation)
    if (!invitation || invitation.enrolment_id !== enrolment.id) throw notFound()
    if (invitation.answer !== null) throw answered()
    if (body.accepted) {
      // An ordinary claim under a key of its own: the seat is not kept, and sitting down ends the invitation.
      const to = sheets.groupCodes(sheet.id).get(invitation.group_id) ?? ''
      const outcome = await claims.submit({
        sheetId: sheet.id,
        enrolmentId: enrolment.id,
        actorId: person.id,
        key: `invitation-${invitation.code}-${randomUUID()}`,
        ask: { kind: 'take', to },
        // Declined or withdrawn a moment ago, it seats nobody.
        follow: () => {
          if (invitations.byCode(sheet.id, invitation.code)?.answer !== 'accepted') throw answered()
        },
      })
      if (!outcome.granted) {
        const facts = refusalFacts(sheet, course, enrolment, stores)
        throw new ProblemError(outcome.reason, refusalWords(outcome.reason, facts))
      }
    } else {
      unit.onSheet(sheet, now, () => {
        if (!end(sheet, invitation, 'declined', person.id, now)) throw answered()
      })
    }
    return studentSheet(sheet, course, enrolment, now, stores)
  })
}
