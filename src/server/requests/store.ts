import type { RequestState } from '../../contract/asking.ts'
import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface SeatRequest {
  id: number
  code: string
  sheet_id: number
  enrolment_id: number
  from_group_id: number
  to_group_id: number | null
  reason: string
  made_at: Instant
  answer: Exclude<RequestState, 'open'> | null
  answered_at: Instant | null
}

export type RequestStore = ReturnType<typeof createRequestStore>

const REQUEST = `SELECT id, code, sheet_id, enrolment_id, from_group_id, to_group_id, reason, made_at, answer,
  answered_at FROM seat_request`

/** Requests to change seats. */
export function createRequestStore(db: Db) {
  const openOn = db.prepare<[number], SeatRequest>(
    `${REQUEST} WHERE sheet_id = ? AND answer IS NULL ORDER BY id`,
  )
  const newestOf = db.prepare<[number, number], SeatRequest>(
    `${REQUEST} WHERE sheet_id = ? AND enrolment_id = ? ORDER BY id DESC LIMIT 1`,
  )
  const byCode = db.prepare<[number, string], SeatRequest>(`${REQUEST} WHERE sheet_id = ? AND code = ?`)
  const add = db.prepare<[string, number, number, number, number | null, string, Instant]>(
    `INSERT INTO seat_request (code, sheet_id, enrolment_id, from_group_id, to_group_id, reason, made_at)
     VALUES (?, ?, ?, ?, ?, ?, ?)`,
  )
  const answer = db.prepare<[string, Instant, number, number]>(
    'UPDATE seat_request SET answer = ?, answered_at = ?, answered_by = ? WHERE id = ? AND answer IS NULL',
  )
  return {
    /** Requests on a sheet that wait for an answer, oldest first. */
    openOn: (sheetId: number) => openOn.all(sheetId),
    newestOf: (sheetId: number, enrolmentId: number) => newestOf.get(sheetId, enrolmentId),
    byCode: (sheetId: number, code: string) => byCode.get(sheetId, code),
    add: (
      sheetId: number,
      enrolmentId: number,
      from: number,
      to: number | null,
      reason: string,
      now: Instant,
    ) => add.run(newCode(), sheetId, enrolmentId, from, to, reason, now),
    /** Answers an open request. */
    answer: (id: number, state: Exclude<RequestState, 'open'>, now: Instant, personId: number) =>
      answer.run(state, now, personId, id),
  }
}
