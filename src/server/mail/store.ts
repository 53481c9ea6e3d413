import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

/** How a mail stands: kept in the outbox, waiting to be sent, sent, or given up. */
export type MailState = 'kept' | 'waiting' | 'sent' | 'failed'

export interface StoredMail {
  id: number
  code: string
  recipient: string
  subject: string
  body: string
  created_at: Instant
  state: MailState
  tries: number
  /** Why it was not taken, in the mail server's words; null when it was. */
  fault: string | null
  /** When it is of no use any more, as a code is; null: never. */
  ends_at: Instant | null
  /** When it is sent, or tried again; null where it waits no more. */
  due_at: Instant | null
}

/** How much mail waits, and how much was given up. */
export interface MailCounts {
  waiting: number
  failed: number
}

/** A mail as it is handed over. */
export interface MailToKeep {
  to: string
  subject: string
  text: string
  /** When it is of no use any more. Such mail goes before all other. */
  endsAt?: Instant
  /** Not before this; until then it can be recalled by its cause. */
  from?: Instant
  /** What it is told because of, where that may be undone. */
  cause?: string
}

export type MailStore = ReturnType<typeof createMailStore>

const MAIL =
  'SELECT id, code, recipient, subject, body, created_at, state, tries, fault, ends_at, due_at FROM mail'

/** Mail on its way, and the outbox that ships with the application: mail is kept there when no mail server is set. */
export function createMailStore(db: Db) {
  const add = db.prepare<
    [string, string, string, string, Instant, MailState, Instant | null, Instant | null, string]
  >(
    `INSERT INTO mail (code, recipient, subject, body, created_at, state, due_at, ends_at, cause)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  )
  const newest = db.prepare<[number], StoredMail>(`${MAIL} ORDER BY id DESC LIMIT ?`)
  const due = db.prepare<[0 | 1, Instant, number], StoredMail>(
    `${MAIL} WHERE state = 'waiting' AND (ends_at IS NULL) = ? AND due_at <= ? ORDER BY id LIMIT ?`,
  )
  // What is of no use any more is not sent, and its text is not kept.
  const lapse = db.prepare<[Instant]>(
    `UPDATE mail SET state = 'failed', body = '', fault = 'It could not be sent while it was of use.', due_at = NULL
     WHERE state = 'waiting' AND ends_at IS NOT NULL AND ends_at <= ?`,
  )
  const count = db.prepare<[], MailCounts>(
    `SELECT (SELECT count(*) FROM mail WHERE state = 'waiting') AS waiting,
       (SELECT count(*) FROM mail WHERE state = 'failed') AS failed`,
  )
  // What was sent is needed for the report alone, so its text is not kept.
  const sent = db.prepare<[number]>(
    "UPDATE mail SET state = 'sent', tries = tries + 1, body = '', fault = NULL, due_at = NULL WHERE id = ?",
  )
  const retry = db.prepare<[string, Instant, number]>(
    'UPDATE mail SET tries = tries + 1, fault = ?, due_at = ? WHERE id = ?',
  )
  const fail = db.prepare<[string, number]>(
    "UPDATE mail SET state = 'failed', tries = tries + 1, fault = ?, due_at = NULL WHERE id = ?",
  )
  // The condition is the index's own, so that it is used.
  const dropTexts = db.prepare<[Instant]>(
    `UPDATE mail SET body = '' WHERE ends_at <= ? AND ends_at IS NOT NULL AND body <> '' AND state <> 'waiting'`,
  )
  const drop = db.prepare<[Instant, string]>(
    `DELETE FROM mail WHERE created_at < ? AND state IN ('sent', 'kept', 'failed')
       AND id NOT IN (SELECT value FROM json_each(?))`,
  )
  const lastId = db.prepare<[], number | null>('SELECT max(id) FROM mail').pluck()
  const assign = db.prepare<[number, number]>('UPDATE mail SET sheet_id = ? WHERE id > ?')
  const failedOf = db.prepare<[number, number], StoredMail>(
    `${MAIL} WHERE sheet_id = ? AND state = 'failed' ORDER BY id DESC LIMIT ?`,
  )
  const again = db.prepare<[Instant, number, string]>(
    `UPDATE mail SET state = 'waiting', tries = 0, fault = NULL, due_at = ?
     WHERE sheet_id = ? AND state = 'failed' AND code IN (SELECT value FROM json_each(?))`,
  )
  // Mail that is tried again has gone out, as far as anybody knows.
  const recall = db.prepare<[number, string, Instant, string | null]>(
    `DELETE FROM mail WHERE sheet_id = ? AND cause = ? AND cause <> '' AND state = 'waiting' AND tries = 0 AND due_at > ?
       AND recipient = ifnull(?, recipient)`,
  )
  const causedBy = db
    .prepare<[number, string, string | null], string>(
      `SELECT recipient FROM mail WHERE sheet_id = ? AND cause = ? AND cause <> '' AND state <> 'failed'
         AND recipient = ifnull(?, recipient) ORDER BY id`,
    )
    .pluck()
  const keepHeld = db.prepare<[Instant]>(
    `UPDATE mail SET state = 'kept', due_at = NULL WHERE state = 'waiting' AND due_at <= ? AND cause <> ''`,
  )
  const byIds = db.prepare<[string], StoredMail>(`${MAIL} WHERE id IN (SELECT value FROM json_each(?))`)
  const insert = (mail: MailToKeep, now: Instant, state: MailState): number => {
    if (!db.inTransaction) throw new Error('A mail is handed over in the transaction that causes it.')
    return Number(
      add.run(
        newCode(),
        mail.to,
        mail.subject,
        mail.text,
        now,
        state,
        state === 'waiting' ? (mail.from ?? now) : null,
        mail.endsAt ?? null,
        mail.cause ?? '',
      ).lastInsertRowid,
    )
  }
  return {
    /** Puts a mail into the outbox, where it stays; one that is held, once its time has come. Gives its id. */
    keep: (mail: MailToKeep, now: Instant) =>
      insert(mail, now, mail.from !== undefined && mail.from > now ? 'waiting' : 'kept'),
    /** Puts mail that was held into the outbox, where its time has come. */
    keepHeld: (now: Instant) => keepHeld.run(now),
    /**
     * Takes back what is held because of something that was undone.
     * @param to where it was undone for one person alone: their address
     * @returns to whom something went out already
     */
    recall(sheetId: number, cause: string, now: Instant, to: string | null = null): string[] {
      recall.run(sheetId, cause, now, to)
      return causedBy.all(sheetId, cause, to)
    },
    /** Puts a mail into the queue. Gives its id. */
    queue: (mail: MailToKeep, now: Instant) => insert(mail, now, 'waiting'),
    /** Mails whose turn has come, the oldest first: those that are of use for a while only, as codes are, or all others. */
    due: (now: Instant, most: number, codes: boolean) => due.all(codes ? 0 : 1, now, most),
    sent: (id: number) => sent.run(id),
    /** Says that a mail was not taken and when it is tried again. */
    retry: (id: number, fault: string, at: Instant) => retry.run(fault, at, id),
    fail: (id: number, fault: string) => fail.run(fault, id),
    /** Gives up what is of no use any more. Gives how many. */
    lapse: (now: Instant): number => lapse.run(now).changes,
    /** Drops the texts of codes that are over, wherever they are kept. */
    dropTexts: (now: Instant) => dropTexts.run(now),
    /** Forgets mail that was handed over before an instant and waits no more, but for some by their ids. */
    drop: (before: Instant, but: readonly number[]) => drop.run(before, JSON.stringify(but)),
    /** The newest mail there is, by its id; 0 before the first. */
    lastId: (): number => lastId.get() ?? 0,
    /** Says of which sheet the mails after one are. */
    assign: (sheetId: number, after: number) => assign.run(sheetId, after),
    /** Mails of a sheet that were given up, newest first. */
    failedOf: (sheetId: number, most: number) => failedOf.all(sheetId, most),
    /** Puts mails of a sheet that were given up into the queue again. Gives how many. */
    again: (sheetId: number, codes: readonly string[], now: Instant): number =>
      again.run(now, sheetId, JSON.stringify(codes)).changes,
    counts: (): MailCounts => count.get()!,
    byIds: (ids: readonly number[]): StoredMail[] => byIds.all(JSON.stringify(ids)),
    /** The newest mails, newest first. */
    newest: (count: number) => newest.all(count),
  }
}
