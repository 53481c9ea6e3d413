import { randomBytes } from 'node:crypto'
import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'

export interface Feed {
  person_id: number
  token: string
  made_at: Instant
}

export type CalendarStore = ReturnType<typeof createCalendarStore>

/** Private addresses of calendars, one a person. */
export function createCalendarStore(db: Db) {
  const ofPerson = db.prepare<[number], Feed>(
    'SELECT person_id, token, made_at FROM calendar_feed WHERE person_id = ?',
  )
  const byToken = db.prepare<[string], Feed>(
    'SELECT person_id, token, made_at FROM calendar_feed WHERE token = ?',
  )
  const put = db.prepare<[number, string, Instant]>(
    `INSERT INTO calendar_feed (person_id, token, made_at) VALUES (?, ?, ?)
     ON CONFLICT (person_id) DO UPDATE SET token = excluded.token, made_at = excluded.made_at`,
  )
  const drop = db.prepare<[number]>('DELETE FROM calendar_feed WHERE person_id = ?')
  return {
    ofPerson: (personId: number) => ofPerson.get(personId),
    byToken: (token: string) => byToken.get(token),
    /** Gives a person a new address (192 random bits) in place of the one before. */
    renew: (personId: number, now: Instant) => put.run(personId, randomBytes(24).toString('base64url'), now),
    drop: (personId: number) => drop.run(personId),
  }
}
