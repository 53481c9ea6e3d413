import type { SwapEnding } from '../../contract/swaps.ts'
import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface SwapWishRow {
  sheet_id: number
  enrolment_id: number
  /** JSON of topic ids by rank. */
  ranks: string
  version: number
  changed_at: Instant
}

export interface SwapRow {
  id: number
  code: string
  sheet_id: number
  found_at: Instant
  until: Instant
  ended_at: Instant | null
  ending: SwapEnding | null
}

export interface SwapPartRow {
  swap_id: number
  enrolment_id: number
  from_group_id: number
  to_group_id: number
  accepted_at: Instant | null
  told_at: Instant | null
}

export type SwapStore = ReturnType<typeof createSwapStore>

const WISH = 'SELECT sheet_id, enrolment_id, ranks, version, changed_at FROM swap_wish'
const SWAP = 'SELECT id, code, sheet_id, found_at, until, ended_at, ending FROM swap'
const PART = 'SELECT swap_id, enrolment_id, from_group_id, to_group_id, accepted_at, told_at FROM swap_part'

/** What people would rather have than their seats, and swaps that were offered. */
export function createSwapStore(db: Db) {
  const wish = db.prepare<[number, number], SwapWishRow>(`${WISH} WHERE sheet_id = ? AND enrolment_id = ?`)
  const wishes = db.prepare<[number], SwapWishRow>(`${WISH} WHERE sheet_id = ?`)
  const saveWish = db.prepare<[number, number, string, Instant]>(
    `INSERT INTO swap_wish (sheet_id, enrolment_id, ranks, version, changed_at) VALUES (?, ?, ?, 1, ?)
     ON CONFLICT (sheet_id, enrolment_id) DO UPDATE
     SET ranks = excluded.ranks, version = version + 1, changed_at = excluded.changed_at`,
  )
  const byCode = db.prepare<[number, string], SwapRow>(`${SWAP} WHERE sheet_id = ? AND code = ?`)
  const ofSheet = db.prepare<[number], SwapRow>(`${SWAP} WHERE sheet_id = ? ORDER BY id DESC`)
  const openOn = db.prepare<[number], SwapRow>(`${SWAP} WHERE sheet_id = ? AND ended_at IS NULL ORDER BY id`)
  const newestOf = db.prepare<[number, number], SwapRow & SwapPartRow>(
    `SELECT id, code, sheet_id, found_at, until, ended_at, ending,
       swap_id, enrolment_id, from_group_id, to_group_id, accepted_at, told_at
     FROM swap_part JOIN swap ON swap.id = swap_part.swap_id
     WHERE enrolment_id = ? AND sheet_id = ? ORDER BY swap_id DESC LIMIT 1`,
  )
  const toldLast = db
    .prepare<[number, number], Instant | null>(
      `SELECT max(told_at) FROM swap_part JOIN swap ON swap.id = swap_part.swap_id
       WHERE enrolment_id = ? AND sheet_id = ?`,
    )
    .pluck()
  const parts = db.prepare<[number], SwapPartRow>(`${PART} WHERE swap_id = ? ORDER BY enrolment_id`)
  const due = db
    .prepare<[Instant], number>('SELECT DISTINCT sheet_id FROM swap WHERE ended_at IS NULL AND until <= ?')
    .pluck()
  const add = db.prepare<[string, number, Instant, Instant]>(
    'INSERT INTO swap (code, sheet_id, found_at, until) VALUES (?, ?, ?, ?)',
  )
  const addPart = db.prepare<[number, number, number, number, Instant | null]>(
    `INSERT INTO swap_part (swap_id, enrolment_id, from_group_id, to_group_id, told_at) VALUES (?, ?, ?, ?, ?)`,
  )
  const accept = db.prepare<[Instant, number, number]>(
    'UPDATE swap_part SET accepted_at = ? WHERE swap_id = ? AND enrolment_id = ? AND accepted_at IS NULL',
  )
  const end = db.prepare<[Instant, SwapEnding, number]>(
    'UPDATE swap SET ended_at = ?, ending = ? WHERE id = ? AND ended_at IS NULL',
  )
  return {
    /** What one student would rather have, as they said. */
    wish: (sheetId: number, enrolmentId: number) => wish.get(sheetId, enrolmentId),
    wishes: (sheetId: number) => wishes.all(sheetId),
    saveWish: (sheetId: number, enrolmentId: number, ranks: readonly (readonly number[])[], now: Instant) =>
      saveWish.run(sheetId, enrolmentId, JSON.stringify(ranks), now),
    byCode: (sheetId: number, code: string) => byCode.get(sheetId, code),
    /** Every swap of a sheet, the newest first. */
    ofSheet: (sheetId: number) => ofSheet.all(sheetId),
    /** Swaps of a sheet that wait for answers. */
    openOn: (sheetId: number) => openOn.all(sheetId),
    /** The newest swap of a sheet that somebody is in, with their part. */
    newestOf: (sheetId: number, enrolmentId: number) => newestOf.get(enrolmentId, sheetId),
    /** When somebody was last told by mail of a swap of a sheet. */
    toldLast: (sheetId: number, enrolmentId: number) => toldLast.get(enrolmentId, sheetId) ?? null,
    parts: (swapId: number) => parts.all(swapId),
    /** Sheets with swaps that nobody can accept any more. */
    due: (now: Instant) => due.all(now),
    add(sheetId: number, now: Instant, until: Instant): { id: number; code: string } {
      const code = newCode()
      const { lastInsertRowid } = add.run(code, sheetId, now, until)
      return { id: Number(lastInsertRowid), code }
    },
    addPart: (swapId: number, part: Omit<SwapPartRow, 'swap_id' | 'accepted_at'>) =>
      addPart.run(swapId, part.enrolment_id, part.from_group_id, part.to_group_id, part.told_at),
    /** Notes that somebody accepts; gives false where they had. */
    accept: (swapId: number, enrolmentId: number, now: Instant) =>
      accept.run(now, swapId, enrolmentId).changes > 0,
    /** Ends a swap that waits for answers; gives false where it had ended. */
    end: (id: number, how: SwapEnding, now: Instant) => end.run(now, how, id).changes > 0,
  }
}
