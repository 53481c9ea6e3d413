import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface WishListRow {
  id: number
  code: string
  sheet_id: number
  enrolment_id: number
  /** JSON of topic ids by rank. */
  ranks: string
  /** JSON of topics that cannot be, with reasons. */
  cannot: string
  /** JSON of mates: their addresses, and whether being together comes before topics. */
  mates: string
  version: number
  changed_at: Instant
}

/** What a plan by wishes that was applied was made from. */
export interface WishSettlingRow {
  plan_id: number
  sheet_id: number
  /** JSON of a `PlanInput`. */
  input: string
  handed_out: 0 | 1
}

export type WishStore = ReturnType<typeof createWishStore>

const LIST =
  'SELECT id, code, sheet_id, enrolment_id, ranks, cannot, mates, version, changed_at FROM wish_list'

/** What students wish for, and what seats by wishes were made from. */
export function createWishStore(db: Db) {
  const of = db.prepare<[number, number], WishListRow>(`${LIST} WHERE sheet_id = ? AND enrolment_id = ?`)
  const ofSheet = db.prepare<[number], WishListRow>(`${LIST} WHERE sheet_id = ? ORDER BY enrolment_id`)
  const save = db.prepare<[string, number, number, string, string, string, Instant]>(
    `INSERT INTO wish_list (code, sheet_id, enrolment_id, ranks, cannot, mates, version, changed_at) VALUES (?, ?, ?, ?, ?, ?, 1, ?)
     ON CONFLICT (sheet_id, enrolment_id) DO UPDATE
     SET ranks = excluded.ranks, cannot = excluded.cannot, mates = excluded.mates, version = version + 1, changed_at = excluded.changed_at`,
  )
  const addSettling = db.prepare<[number, number, string]>(
    'INSERT OR REPLACE INTO wish_settling (plan_id, sheet_id, input) VALUES (?, ?, ?)',
  )
  const settlings = db.prepare<[number], WishSettlingRow>(
    'SELECT plan_id, sheet_id, input, handed_out FROM wish_settling WHERE sheet_id = ? ORDER BY plan_id DESC',
  )
  const handOut = db.prepare<[number, number]>('UPDATE wish_settling SET handed_out = ? WHERE plan_id = ?')
  return {
    /** The list of one student on a sheet. */
    of: (sheetId: number, enrolmentId: number) => of.get(sheetId, enrolmentId),
    /** Every list of a sheet, of those who left too. */
    ofSheet: (sheetId: number) => ofSheet.all(sheetId),
    /** Stores a list in the place of the one before. */
    save(
      sheetId: number,
      enrolmentId: number,
      { ranks, cannot, mates }: Pick<WishListRow, 'ranks' | 'cannot' | 'mates'>,
      now: Instant,
      code = newCode(),
    ): void {
      save.run(code, sheetId, enrolmentId, ranks, cannot, mates, now)
    },
    /** Keeps what an applied plan was made from. */
    addSettling: (planId: number, sheetId: number, input: string) => addSettling.run(planId, sheetId, input),
    /** Every settling of a sheet, the newest first, those among them whose plan was taken back. */
    settlings: (sheetId: number) => settlings.all(sheetId),
    handOut: (planId: number, out: boolean) => handOut.run(out ? 1 : 0, planId),
  }
}
