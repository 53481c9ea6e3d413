import type { AnnounceWhen } from '../../contract/announcements.ts'
import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface Announcement {
  id: number
  code: string
  sheet_id: number
  text: string
  /** The sheet's public address, as it stands below the text. */
  address: string
  goes: AnnounceWhen
  made_at: Instant
  sent_at: Instant | null
  recipients: number
}

export type AnnouncementStore = ReturnType<typeof createAnnouncementStore>

const ANNOUNCEMENT =
  'SELECT id, code, sheet_id, text, address, goes, made_at, sent_at, recipients FROM announcement'

/** Announcements by mail, gone out or waiting. */
export function createAnnouncementStore(db: Db) {
  const ofSheet = db.prepare<[number], Announcement>(`${ANNOUNCEMENT} WHERE sheet_id = ? ORDER BY id DESC`)
  const waiting = db.prepare<[], Announcement>(`${ANNOUNCEMENT} WHERE sent_at IS NULL ORDER BY id`)
  const add = db.prepare<[string, number, string, string, AnnounceWhen, Instant, number]>(
    'INSERT INTO announcement (code, sheet_id, text, address, goes, made_at, made_by) VALUES (?, ?, ?, ?, ?, ?, ?)',
  )
  const sent = db.prepare<[Instant, number, number]>(
    'UPDATE announcement SET sent_at = ?, recipients = ? WHERE id = ?',
  )
  const withdraw = db.prepare<[number, string]>(
    'DELETE FROM announcement WHERE sheet_id = ? AND code = ? AND sent_at IS NULL',
  )
  const byId = db.prepare<[number], Announcement>(`${ANNOUNCEMENT} WHERE id = ?`)
  return {
    ofSheet: (sheetId: number) => ofSheet.all(sheetId),
    /** All that have not gone out yet, of every sheet. */
    waiting: () => waiting.all(),
    /** Adds one that has not gone out, and gives it. */
    add: (
      sheetId: number,
      text: string,
      address: string,
      goes: AnnounceWhen,
      now: Instant,
      personId: number,
    ): Announcement =>
      byId.get(Number(add.run(newCode(), sheetId, text, address, goes, now, personId).lastInsertRowid))!,
    sent: (id: number, now: Instant, recipients: number) => sent.run(now, recipients, id),
    /** Takes back one that waits. False when it has gone out, or never was. */
    withdraw: (sheetId: number, code: string) => withdraw.run(sheetId, code).changes > 0,
  }
}
