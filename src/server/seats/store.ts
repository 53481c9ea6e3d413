import type { ClaimRefusal } from '../../core/claim.ts'
import type { Instant } from '../../core/instant.ts'
import { pastLimit } from '../../core/limit.ts'
import { createKeeper } from '../db/kept.ts'
import type { Db } from '../db/open.ts'

export interface Seat {
  id: number
  sheet_id: number
  group_id: number
  enrolment_id: number
  extra: 0 | 1
  taken_at: Instant
}

/** The answer a claim got, with what was asked, as its asker's key recalls it. */
export interface ClaimAnswer {
  sheet_id: number
  ask: string
  refusal: ClaimRefusal | null
}

/** A place in the line of a full group. */
export interface LinePlace {
  id: number
  group_id: number
  enrolment_id: number
  joined_at: Instant
}

export type SeatStore = ReturnType<typeof createSeatStore>

const SEAT = 'SELECT id, sheet_id, group_id, enrolment_id, extra, taken_at FROM seat'

/** Seats, and the answers given to claims. */
export function createSeatStore(database: Db) {
  // Between two batches of claims many are answered about the same groups.
  const { db, keep } = createKeeper(database)
  const ofSheet = db.prepare<[number], Seat>(`${SEAT} WHERE sheet_id = ? ORDER BY id`)
  const ofGroup = db.prepare<[number], Seat>(`${SEAT} WHERE group_id = ? ORDER BY id`)
  const sitters = db
    .prepare<[number], number>('SELECT enrolment_id FROM seat WHERE group_id = ? ORDER BY id')
    .pluck()
  const heldBy = db.prepare<[number, number], Seat>(
    `${SEAT} WHERE sheet_id = ? AND enrolment_id = ? ORDER BY id`,
  )
  const takenIn = db.prepare<[number], number>('SELECT count(*) FROM seat WHERE group_id = ?').pluck()
  const counts = db.prepare<[number], { group_id: number; taken: number }>(
    'SELECT group_id, count(*) AS taken FROM seat WHERE sheet_id = ? GROUP BY group_id',
  )
  const seat = db.prepare<[number, number, number, 0 | 1, Instant]>(
    'INSERT INTO seat (sheet_id, group_id, enrolment_id, extra, taken_at) VALUES (?, ?, ?, ?, ?)',
  )
  const giveUp = db.prepare<[number, number]>('DELETE FROM seat WHERE group_id = ? AND enrolment_id = ?')
  const setExtras = db.prepare<[number, number, number]>(
    `UPDATE seat SET extra = id IN (SELECT id FROM seat WHERE group_id = ? ORDER BY id DESC LIMIT ?)
     WHERE group_id = ?`,
  )
  const noExtras = db.prepare<[number]>('UPDATE seat SET extra = 0 WHERE group_id = ? AND extra = 1')
  const answerTo = db.prepare<[number, string], ClaimAnswer>(
    'SELECT sheet_id, ask, refusal FROM claim_answer WHERE enrolment_id = ? AND claim_key = ?',
  )
  const keepAnswer = db.prepare<[number, number, string, string, ClaimRefusal | null, Instant]>(
    'INSERT INTO claim_answer (enrolment_id, sheet_id, claim_key, ask, refusal, at) VALUES (?, ?, ?, ?, ?, ?)',
  )
  const dropAnswers = db.prepare<[Instant]>('DELETE FROM claim_answer WHERE at < ?')
  const PLACE = 'SELECT id, group_id, enrolment_id, joined_at FROM line_place'
  const lines = db.prepare<[number], LinePlace>(`${PLACE} WHERE sheet_id = ? ORDER BY id`)
  const lineOf = db.prepare<[number], LinePlace>(`${PLACE} WHERE group_id = ? ORDER BY id`)
  const waitsIn = db.prepare<[number, number], LinePlace>(
    `${PLACE} WHERE sheet_id = ? AND enrolment_id = ? ORDER BY id`,
  )
  const joinLine = db.prepare<[number, number, number, Instant]>(
    'INSERT INTO line_place (sheet_id, group_id, enrolment_id, joined_at) VALUES (?, ?, ?, ?)',
  )
  const restorePlace = db.prepare<[number, number, number, number, Instant]>(
    'INSERT OR IGNORE INTO line_place (id, sheet_id, group_id, enrolment_id, joined_at) VALUES (?, ?, ?, ?, ?)',
  )
  const leaveLine = db.prepare<[number, number]>(
    'DELETE FROM line_place WHERE group_id = ? AND enrolment_id = ?',
  )
  return {
    /** Everybody who waits on a sheet, in the order they joined. */
    lines: (sheetId: number) => lines.all(sheetId),
    /** The line of a group, first in line first. */
    lineOf: keep((groupId: number) => lineOf.all(groupId)),
    waitsIn: (sheetId: number, enrolmentId: number) => waitsIn.all(sheetId, enrolmentId),
    joinLine: (sheetId: number, groupId: number, enrolmentId: number, now: Instant) =>
      joinLine.run(sheetId, groupId, enrolmentId, now),
    /** Puts a place back that was left, before all who joined later. */
    restorePlace: (sheetId: number, { id, group_id, enrolment_id, joined_at }: LinePlace) =>
      restorePlace.run(id, sheetId, group_id, enrolment_id, joined_at),
    leaveLine: (groupId: number, enrolmentId: number) => leaveLine.run(groupId, enrolmentId),
    ofSheet: (sheetId: number) => ofSheet.all(sheetId),
    ofGroup: keep((groupId: number) => ofGroup.all(groupId)),
    /** The enrolments of those who sit in a group, in the order they sat down. */
    sitters: keep((groupId: number) => sitters.all(groupId)),
    heldBy: (sheetId: number, enrolmentId: number) => heldBy.all(sheetId, enrolmentId),
    takenIn: keep((groupId: number) => takenIn.get(groupId) ?? 0),
    /** Seats taken in each group of a sheet; groups with none are left out. */
    counts: (sheetId: number) => new Map(counts.all(sheetId).map(({ group_id, taken }) => [group_id, taken])),
    /** Gives a seat, one past the limit if need be. */
    seat: (sheetId: number, groupId: number, enrolmentId: number, extra: boolean, now: Instant) =>
      seat.run(sheetId, groupId, enrolmentId, extra ? 1 : 0, now),
    giveUp: (groupId: number, enrolmentId: number) => giveUp.run(groupId, enrolmentId),
    /** Makes the newest seats past a limit extra seats, and all others ordinary ones. */
    settleExtras(groupId: number, limit: number): void {
      const past = pastLimit(limit, takenIn.get(groupId) ?? 0)
      if (past > 0) setExtras.run(groupId, past, groupId)
      else noExtras.run(groupId)
    },
    /** Forgets the answers given before an instant. */
    dropAnswers: (before: Instant) => dropAnswers.run(before),
    answerTo: (enrolmentId: number, key: string) => answerTo.get(enrolmentId, key),
    keepAnswer: (
      enrolmentId: number,
      sheetId: number,
      key: string,
      ask: string,
      refusal: ClaimRefusal | null,
      now: Instant,
    ) => keepAnswer.run(enrolmentId, sheetId, key, ask, refusal, now),
  }
}
