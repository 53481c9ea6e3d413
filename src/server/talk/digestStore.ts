import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'

/** Somebody who wants what they have not read by mail. */
export interface Digest {
  person_id: number
  /** When it is looked again whether there is something to send. */
  look_at: Instant
  /** Under which address the pages are. */
  address: string
  /** The newest post when it was last sent. */
  up_to: number
}

/** What somebody has not read of a subject: how many posts, and the newest of them. */
export interface Unread {
  title: string
  posts: number
  newest: number
}

export type DigestStore = ReturnType<typeof createDigestStore>

/** Who wants unread talk by mail, and when they got it last. */
export function createDigestStore(db: Db) {
  const ofPerson = db.prepare<[number], Digest>(
    'SELECT person_id, look_at, address, up_to FROM talk_digest WHERE person_id = ?',
  )
  const put = db.prepare<[number, Instant, string]>(
    `INSERT OR REPLACE INTO talk_digest (person_id, look_at, address, up_to)
     VALUES (?, ?, ?, ifnull((SELECT max(id) FROM talk_post), 0))`,
  )
  const drop = db.prepare<[number]>('DELETE FROM talk_digest WHERE person_id = ?')
  const due = db.prepare<[Instant, number], Digest>(
    'SELECT person_id, look_at, address, up_to FROM talk_digest WHERE look_at <= ? ORDER BY look_at LIMIT ?',
  )
  const look = db.prepare<[Instant, number, number]>(
    'UPDATE talk_digest SET look_at = ?, up_to = ? WHERE person_id = ?',
  )
  const unread = db.prepare<[number, number, Instant, number], Unread>(
    `SELECT s.title, count(*) AS posts, max(p.id) AS newest
     FROM talk_subject s JOIN talk_post p ON p.subject_id = s.id
       LEFT JOIN talk_read r ON r.subject_id = s.id AND r.enrolment_id = ?
     WHERE s.group_id = ? AND p.posted_at <= ? AND p.by_id <> ? AND p.removed_at IS NULL
       AND p.id > ifnull(r.post_id, 0)
     GROUP BY s.id ORDER BY newest DESC`,
  )
  return {
    ofPerson: (personId: number) => ofPerson.get(personId),
    /** From now on: what is posted later is sent, with whatever else is not read then. */
    begin: (personId: number, now: Instant, address: string) => put.run(personId, now, address),
    end: (personId: number) => drop.run(personId),
    /** Those for whom it is time to look, the longest waiting first. */
    due: (now: Instant, most: number) => due.all(now, most),
    /** Notes when it is looked again, and up to which post all was sent. */
    lookAgain: (personId: number, at: Instant, upTo: number) => look.run(at, upTo, personId),
    /** What somebody has not read in a group of what was posted up to an instant, by subject, the newest first. */
    unread: (groupId: number, enrolmentId: number, upTo: Instant) =>
      unread.all(enrolmentId, groupId, upTo, enrolmentId),
  }
}
