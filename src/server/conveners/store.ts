import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'

export type ConvenerStore = ReturnType<typeof createConvenerStore>

/** Members whom their convener has asked to leave, and who have not answered. */
export function createConvenerStore(db: Db) {
  const asked = db.prepare<[number], { enrolment_id: number; asked_at: Instant }>(
    'SELECT enrolment_id, asked_at FROM leave_ask WHERE group_id = ?',
  )
  const ask = db.prepare<[number, number, number, Instant]>(
    'INSERT OR REPLACE INTO leave_ask (group_id, enrolment_id, by_id, asked_at) VALUES (?, ?, ?, ?)',
  )
  const drop = db.prepare<[number, number]>('DELETE FROM leave_ask WHERE group_id = ? AND enrolment_id = ?')
  return {
    /** Who of a group was asked to leave and has not answered, with when, by enrolment. */
    asked: (groupId: number) =>
      new Map(asked.all(groupId).map(({ enrolment_id, asked_at }) => [enrolment_id, asked_at])),
    ask: (groupId: number, enrolmentId: number, byId: number, now: Instant) =>
      ask.run(groupId, enrolmentId, byId, now),
    /** Ends what somebody was asked; false where nothing was. */
    drop: (groupId: number, enrolmentId: number) => drop.run(groupId, enrolmentId).changes > 0,
  }
}
