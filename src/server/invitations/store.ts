import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

/** How an invitation ended. Lapsed: the invited took a seat elsewhere. */
export type InvitationEnd = 'accepted' | 'declined' | 'withdrawn' | 'lapsed'

export interface Invitation {
  id: number
  code: string
  sheet_id: number
  group_id: number
  /** Who is invited, and by whom. */
  enrolment_id: number
  by_id: number
  made_at: Instant
  answer: InvitationEnd | null
}

export type InvitationStore = ReturnType<typeof createInvitationStore>

const INVITATION = 'SELECT id, code, sheet_id, group_id, enrolment_id, by_id, made_at, answer FROM invitation'

/** Invitations to a free seat, from conveners to students without a group. */
export function createInvitationStore(db: Db) {
  const byCode = db.prepare<[number, string], Invitation>(`${INVITATION} WHERE sheet_id = ? AND code = ?`)
  const receivedBy = db.prepare<[number, number], Invitation>(
    `${INVITATION} WHERE sheet_id = ? AND enrolment_id = ? AND answer IS NULL ORDER BY id`,
  )
  const ofGroup = db.prepare<[number], Invitation>(`${INVITATION} WHERE group_id = ? ORDER BY id`)
  const add = db.prepare<[string, number, number, number, number, Instant]>(
    'INSERT INTO invitation (code, sheet_id, group_id, enrolment_id, by_id, made_at) VALUES (?, ?, ?, ?, ?, ?)',
  )
  const end = db.prepare<[InvitationEnd, Instant, number]>(
    'UPDATE invitation SET answer = ?, answered_at = ? WHERE id = ? AND answer IS NULL',
  )
  return {
    byCode: (sheetId: number, code: string) => byCode.get(sheetId, code),
    /** Invitations that wait for this student's answer, oldest first. */
    receivedBy: (sheetId: number, enrolmentId: number) => receivedBy.all(sheetId, enrolmentId),
    /** Every invitation to a group, answered or not, oldest first. */
    ofGroup: (groupId: number) => ofGroup.all(groupId),
    add(sheetId: number, groupId: number, enrolmentId: number, byId: number, now: Instant): void {
      add.run(newCode(), sheetId, groupId, enrolmentId, byId, now)
    },
    /** Ends an invitation that waits for an answer; false when it did no longer. */
    end: (id: number, how: InvitationEnd, now: Instant) => end.run(how, now, id).changes > 0,
  }
}
