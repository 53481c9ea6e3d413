import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'

/** A post that names somebody, whom no mail has told of it yet. */
export interface Notice {
  enrolment_id: number
  group_id: number
  post_id: number
  address: string
}

export type NoticeStore = ReturnType<typeof createNoticeStore>

/** Who is still to be told that posts name them, and when they were told last, by group. */
export function createNoticeStore(db: Db) {
  const add = db.prepare<[number, number, number, string]>(
    'INSERT OR REPLACE INTO talk_notice (enrolment_id, post_id, group_id, address) VALUES (?, ?, ?, ?)',
  )
  const drop = db.prepare<[number, number]>('DELETE FROM talk_notice WHERE enrolment_id = ? AND post_id = ?')
  const noticedAt = db
    .prepare<[number, number], Instant>('SELECT at FROM talk_noticed WHERE enrolment_id = ? AND group_id = ?')
    .pluck()
  const setNoticed = db.prepare<[number, number, Instant]>(
    `INSERT INTO talk_noticed (enrolment_id, group_id, at) VALUES (?, ?, ?)
     ON CONFLICT (enrolment_id, group_id) DO UPDATE SET at = excluded.at`,
  )
  const forget = db.prepare<[Instant]>('DELETE FROM talk_noticed WHERE at < ?')
  const waiting = db.prepare<[Instant], Notice>(
    `SELECT n.enrolment_id, n.group_id, n.post_id, n.address FROM talk_notice n
       LEFT JOIN talk_noticed t ON t.enrolment_id = n.enrolment_id AND t.group_id = n.group_id
     WHERE t.at IS NULL OR t.at <= ? ORDER BY n.post_id`,
  )
  return {
    add: ({ enrolment_id, post_id, group_id, address }: Notice) =>
      add.run(enrolment_id, post_id, group_id, address),
    drop: ({ enrolment_id, post_id }: Pick<Notice, 'enrolment_id' | 'post_id'>) =>
      drop.run(enrolment_id, post_id),
    /** When somebody was last told of posts in a group; undefined: never, or long ago. */
    noticedAt: (enrolmentId: number, groupId: number) => noticedAt.get(enrolmentId, groupId),
    setNoticed: (enrolmentId: number, groupId: number, now: Instant) =>
      setNoticed.run(enrolmentId, groupId, now),
    /** Notices of those who were not told since an instant, the oldest post first. */
    waiting: (toldBefore: Instant) => waiting.all(toldBefore),
    forget: (before: Instant) => forget.run(before),
  }
}
