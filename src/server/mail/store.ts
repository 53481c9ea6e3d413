import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface KeptMail {
  code: string
  recipient: string
  subject: string
  body: string
  created_at: Instant
}

export type MailStore = ReturnType<typeof createMailStore>

/** The outbox that ships with the application: mail is kept here when no mail server is set. */
export function createMailStore(db: Db) {
  const add = db.prepare<[string, string, string, string, Instant]>(
    'INSERT INTO mail (code, recipient, subject, body, created_at) VALUES (?, ?, ?, ?, ?)',
  )
  const newest = db.prepare<[number], KeptMail>(
    'SELECT code, recipient, subject, body, created_at FROM mail ORDER BY id DESC LIMIT ?',
  )
  return {
    keep: (to: string, subject: string, text: string, now: Instant) =>
      add.run(newCode(), to, subject, text, now),
    /** The newest mails, newest first. */
    newest: (count: number) => newest.all(count),
  }
}
