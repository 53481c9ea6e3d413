import { describe, expect, it } from 'vitest'
import { type InvitationFacts, mayBeInvited, whyNoInvitation } from './invitation.ts'

const fine: InvitationFacts<string> = {
  state: 'open',
  rule: 'convener',
  convener: true,
  group: { section: 'tue', free: 1, line: 0, invited: 0 },
  guest: { active: true, section: 'tue', seated: false, invited: false },
}
const group = (over: Partial<typeof fine.group>) => ({ ...fine, group: { ...fine.group, ...over } })
const guest = (over: Partial<typeof fine.guest>) => ({ ...fine, guest: { ...fine.guest, ...over } })

describe('an invitation', () => {
  it.each([
    ['is made where everything fits', fine, null],
    ['needs the house rule', { ...fine, rule: 'no' as const }, 'invitations-not-allowed'],
    ['needs an open window', { ...fine, state: 'closed' as const }, 'window-not-open'],
    ['is the convener’s to make', { ...fine, convener: false }, 'not-the-convener'],
    ['needs a free seat', group({ free: 0 }), 'no-seat-to-offer'],
    ['never outnumbers the free seats', group({ free: 2, invited: 2 }), 'no-seat-to-offer'],
    ['does not pass a waiting line', group({ line: 1 }), 'no-seat-to-offer'],
    ['is for those without a group', guest({ seated: true }), 'cannot-be-invited'],
    ['is for active students', guest({ active: false }), 'cannot-be-invited'],
    ['stays within the section', guest({ section: 'thu' }), 'cannot-be-invited'],
    ['is made once', guest({ invited: true }), 'already-invited'],
  ])('%s', (_, facts, refusal) => {
    expect(whyNoInvitation(facts)).toBe(refusal)
  })

  it('reaches everybody where groups have no section', () => {
    expect(mayBeInvited({ active: true, section: 'thu', seated: false }, null)).toBe(true)
  })
})
