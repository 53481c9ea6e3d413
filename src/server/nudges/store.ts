import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface Nudge {
  id: number
  code: string
  sheet_id: number
  subject: string
  text: string
  address: string
  /** Hours before the close; null went at once. */
  before_close: number | null
  made_at: Instant
  sent_at: Instant | null
}

export interface Nudged {
  nudge_id: number
  enrolment_id: number
  mail_id: number | null
  at: Instant
}

export interface Visit {
  enrolment_id: number
  first_at: Instant
  last_at: Instant
}

export type NudgeFields = Pick<Nudge, 'subject' | 'text' | 'address' | 'before_close'>
export type NudgeStore = ReturnType<typeof createNudgeStore>

const NUDGE = 'SELECT id, code, sheet_id, subject, text, address, before_close, made_at, sent_at FROM nudge'

/** Nudges, who got them, and who has opened a sheet. */
export function createNudgeStore(db: Db) {
  const ofSheet = db.prepare<[number], Nudge>(`${NUDGE} WHERE sheet_id = ? ORDER BY id DESC`)
  const waiting = db.prepare<[], Nudge>(`${NUDGE} WHERE sent_at IS NULL ORDER BY id`)
  const add = db.prepare<[string, number, string, string, string, number | null, Instant, number]>(
    `INSERT INTO nudge (code, sheet_id, subject, text, address, before_close, made_at, made_by)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
  )
  const byId = db.prepare<[number], Nudge>(`${NUDGE} WHERE id = ?`)
  const sent = db.prepare<[Instant, number]>('UPDATE nudge SET sent_at = ? WHERE id = ? AND sent_at IS NULL')
  const drop = db.prepare<[number, string]>(
    'DELETE FROM nudge WHERE sheet_id = ? AND code = ? AND sent_at IS NULL',
  )
  const addNudged = db.prepare<[number, number, number | null, Instant]>(
    'INSERT INTO nudged (nudge_id, enrolment_id, mail_id, at) VALUES (?, ?, ?, ?)',
  )
  const mailIds = db.prepare<[], number>('SELECT mail_id FROM nudged WHERE mail_id IS NOT NULL').pluck()
  const nudgedOn = db.prepare<[number], Nudged>(
    `SELECT d.nudge_id, d.enrolment_id, d.mail_id, d.at FROM nudged d JOIN nudge n ON n.id = d.nudge_id
     WHERE n.sheet_id = ? ORDER BY d.at`,
  )
  const visits = db.prepare<[number], Visit>(
    'SELECT enrolment_id, first_at, last_at FROM visit WHERE sheet_id = ?',
  )
  const visit = db.prepare<[number, number, Instant, Instant]>(
    `INSERT INTO visit (sheet_id, enrolment_id, first_at, last_at) VALUES (?, ?, ?, ?)
     ON CONFLICT (sheet_id, enrolment_id) DO UPDATE SET last_at = excluded.last_at`,
  )
  return {
    /** Mails that belong to the record of a nudge. */
    mailIds: () => mailIds.all(),
    /** The nudges of a sheet, newest first, those that wait for their time included. */
    ofSheet: (sheetId: number) => ofSheet.all(sheetId),
    /** All that wait for their time, of every sheet. */
    waiting: () => waiting.all(),
    add(sheetId: number, fields: NudgeFields, now: Instant, personId: number): Nudge {
      const { subject, text, address, before_close } = fields
      const { lastInsertRowid } = add.run(
        newCode(),
        sheetId,
        subject,
        text,
        address,
        before_close,
        now,
        personId,
      )
      return byId.get(Number(lastInsertRowid)) as Nudge
    },
    /** Marks a nudge as gone; false when it had gone before. */
    sent: (id: number, now: Instant) => sent.run(now, id).changes > 0,
    /** Takes back one that waits; false when it has gone, or never was. */
    drop: (sheetId: number, code: string) => drop.run(sheetId, code).changes > 0,
    addNudged: (nudgeId: number, enrolmentId: number, mailId: number | null, now: Instant) =>
      addNudged.run(nudgeId, enrolmentId, mailId, now),
    /** Everybody who was written to about a sheet, oldest first. */
    nudgedOn: (sheetId: number) => nudgedOn.all(sheetId),
    visits: (sheetId: number) => visits.all(sheetId),
    visit: (sheetId: number, enrolmentId: number, at: Instant) => visit.run(sheetId, enrolmentId, at, at),
  }
}
