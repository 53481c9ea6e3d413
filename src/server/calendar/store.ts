import { randomBytes } from 'node:crypto'
import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'

export interface Feed {
  person_id: number
  token: string
  made_at: Instant
}

/** What went out to somebody's calendar, as it did last. */
export interface KeptEntry {
  person_id: number
  entry: string
  /** As JSON. */
  content: string
  sequence: number
  changed_at: Instant
  /** When it was saved as a file of its own and not taken back since. */
  saved_at: Instant | null
}

export type CalendarStore = ReturnType<typeof createCalendarStore>

/** Private addresses of calendars, one a person, and what went out to each. */
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
  const entriesOf = db.prepare<[number], KeptEntry>(
    'SELECT person_id, entry, content, sequence, changed_at, saved_at FROM calendar_entry WHERE person_id = ?',
  )
  const keepEntry = db.prepare<[KeptEntry]>(
    `INSERT INTO calendar_entry (person_id, entry, content, sequence, changed_at, saved_at)
     VALUES (@person_id, @entry, @content, @sequence, @changed_at, @saved_at)
     ON CONFLICT (person_id, entry) DO UPDATE SET content = excluded.content, sequence = excluded.sequence,
       changed_at = excluded.changed_at, saved_at = excluded.saved_at`,
  )
  const dropEntries = db.prepare<[Instant]>('DELETE FROM calendar_entry WHERE changed_at < ?')
  const keepAll = db.transaction((entries: readonly KeptEntry[]) => {
    for (const entry of entries) keepEntry.run(entry)
  })
  return {
    entriesOf: (personId: number) => entriesOf.all(personId),
    keepEntries(entries: readonly KeptEntry[]): void {
      if (entries.length > 0) keepAll.immediate(entries)
    },
    dropEntriesBefore: (instant: Instant) => dropEntries.run(instant),
    ofPerson: (personId: number) => ofPerson.get(personId),
    byToken: (token: string) => byToken.get(token),
    /** Gives a person a new address (192 random bits) in place of the one before. */
    renew: (personId: number, now: Instant) => put.run(personId, randomBytes(24).toString('base64url'), now),
    drop: (personId: number) => drop.run(personId),
  }
}
