import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface KeptPlanRow {
  id: number
  code: string
  sheet_id: number
  title: string
  /** JSON of a `PlanContent`. */
  content: string
  position: number
  made_at: Instant
  made_by: number | null
  applied_at: Instant | null
  undone_at: Instant | null
}

export interface KeepingRow {
  id: number
  code: string
  kind: 'apart' | 'together'
  note: string
  expires_at: Instant | null
  /** JSON of the enrolments' ids. */
  members: string
}

/** A house rule that could not be carried out, until it can. */
export interface TroubleRow {
  rule: 'close' | 'late'
  closes_at: Instant
  why: string
  since: Instant
}

export type PlanStore = ReturnType<typeof createPlanStore>

const PLAN =
  'SELECT id, code, sheet_id, title, content, position, made_at, made_by, applied_at, undone_at FROM plan'

/** Plans that are kept or were applied, who keeps apart or together, and what was done at each close. */
export function createPlanStore(db: Db) {
  const ofSheet = db.prepare<[number], KeptPlanRow>(`${PLAN} WHERE sheet_id = ? ORDER BY id DESC LIMIT 50`)
  const byId = db.prepare<[number], KeptPlanRow>(`${PLAN} WHERE id = ?`)
  const byCode = db.prepare<[number, string], KeptPlanRow>(`${PLAN} WHERE sheet_id = ? AND code = ?`)
  const add = db.prepare<[string, number, string, string, number, Instant, number | null]>(
    'INSERT INTO plan (code, sheet_id, title, content, position, made_at, made_by) VALUES (?, ?, ?, ?, ?, ?, ?)',
  )
  const drafted = db
    .prepare<[number], number>(
      `SELECT json_array_length(content, '$.moves') FROM plan
       WHERE sheet_id = ? AND made_by IS NULL AND applied_at IS NULL ORDER BY id DESC LIMIT 1`,
    )
    .pluck()
  const applied = db.prepare<[Instant, string, number, number]>(
    'UPDATE plan SET applied_at = ?, content = ?, position = ? WHERE id = ? AND applied_at IS NULL',
  )
  const undone = db.prepare<[Instant, number]>(
    'UPDATE plan SET undone_at = ? WHERE id = ? AND applied_at IS NOT NULL AND undone_at IS NULL',
  )
  const drop = db.prepare<[number, string]>(
    'DELETE FROM plan WHERE sheet_id = ? AND code = ? AND applied_at IS NULL',
  )
  const forget = db.prepare<[number, string]>(
    'UPDATE closing SET plan_id = NULL WHERE plan_id = (SELECT id FROM plan WHERE sheet_id = ? AND code = ?)',
  )
  const keepings = db.prepare<[number], KeepingRow>(
    `SELECT k.id, k.code, k.kind, k.note, k.expires_at, json_group_array(m.enrolment_id) AS members
     FROM keeping k JOIN keeping_member m ON m.keeping_id = k.id WHERE k.course_id = ? GROUP BY k.id ORDER BY k.id`,
  )
  const addKeeping = db.prepare<[string, number, string, string, Instant | null, Instant]>(
    'INSERT INTO keeping (code, course_id, kind, note, expires_at, made_at) VALUES (?, ?, ?, ?, ?, ?)',
  )
  const addMember = db.prepare<[number, number]>(
    'INSERT INTO keeping_member (keeping_id, enrolment_id) VALUES (?, ?)',
  )
  const dropKeeping = db.prepare<[number, string]>('DELETE FROM keeping WHERE course_id = ? AND code = ?')
  const closed = db
    .prepare<[number, Instant], number>('SELECT 1 FROM closing WHERE sheet_id = ? AND closes_at = ?')
    .pluck()
  const close = db.prepare<[number, Instant, Instant, number | null]>(
    'INSERT OR IGNORE INTO closing (sheet_id, closes_at, done_at, plan_id) VALUES (?, ?, ?, ?)',
  )
  const troubles = db.prepare<[number], TroubleRow>(
    'SELECT rule, closes_at, why, since FROM rule_trouble WHERE sheet_id = ? ORDER BY rule',
  )
  const lateTold = db.prepare<[number], { position: number; told_at: Instant | null }>(
    'SELECT position, told_at FROM late_told WHERE sheet_id = ?',
  )
  const setLateTold = db.prepare<[number, number, Instant | null]>(
    `INSERT INTO late_told (sheet_id, position, told_at) VALUES (?, ?, ?)
     ON CONFLICT (sheet_id) DO UPDATE SET position = excluded.position, told_at = excluded.told_at`,
  )
  const addTrouble = db.prepare<[number, string, Instant, string, Instant]>(
    `INSERT INTO rule_trouble (sheet_id, rule, closes_at, why, since) VALUES (?, ?, ?, ?, ?)
     ON CONFLICT (sheet_id, rule) DO UPDATE
     SET closes_at = excluded.closes_at, why = excluded.why, since = excluded.since
     WHERE closes_at <> excluded.closes_at OR (rule = 'late' AND why <> excluded.why)`,
  )
  const endTrouble = db.prepare<[number, string]>('DELETE FROM rule_trouble WHERE sheet_id = ? AND rule = ?')
  return {
    /** Rules of a sheet that could not be carried out so far. */
    /** Up to where in the ledger instructors were told whom the rule for late enrolments seated. */
    lateTold: (sheetId: number) => lateTold.get(sheetId),
    setLateTold: (sheetId: number, position: number, at: Instant | null) =>
      setLateTold.run(sheetId, position, at),
    troubles: (sheetId: number) => troubles.all(sheetId),
    /**
     * Notes that a rule could not be carried out, and why; false when that is known already: a close fails once,
     * late enrolments anew for others.
     */
    addTrouble: (sheetId: number, rule: TroubleRow['rule'], closesAt: Instant, why: string, now: Instant) =>
      addTrouble.run(sheetId, rule, closesAt, why, now).changes > 0,
    /** Notes that a rule was carried out, or has nothing to do any more. */
    endTrouble: (sheetId: number, rule: TroubleRow['rule']) => endTrouble.run(sheetId, rule),
    /** The newest plans of a sheet, newest first. */
    ofSheet: (sheetId: number) => ofSheet.all(sheetId),
    /** Moves of the newest plan that a house rule drafted and that waits; 0 where none does. */
    drafted: (sheetId: number) => drafted.get(sheetId) ?? 0,
    byCode: (sheetId: number, code: string) => byCode.get(sheetId, code),
    byId: (id: number) => byId.get(id),
    /** Keeps a plan under a code, or a new one. Gives its id. */
    add(
      sheetId: number,
      fields: { code?: string; title: string; content: string; position: number },
      now: Instant,
      personId: number | null,
    ): number {
      const { code = newCode(), title, content, position } = fields
      return Number(add.run(code, sheetId, title, content, position, now, personId).lastInsertRowid)
    },
    /** Marks a plan as applied, with what was applied. */
    applied: (id: number, content: string, position: number, now: Instant) =>
      applied.run(now, content, position, id),
    /** Marks an applied plan as taken back; false when it is not applied. */
    undone: (id: number, now: Instant) => undone.run(now, id).changes > 0,
    /** Drops a plan that was not applied. */
    drop(sheetId: number, code: string): boolean {
      forget.run(sheetId, code)
      return drop.run(sheetId, code).changes > 0
    },
    keepings: (courseId: number) => keepings.all(courseId),
    addKeeping(
      courseId: number,
      fields: {
        kind: 'apart' | 'together'
        note: string
        expiresAt: Instant | null
        members: readonly number[]
      },
      now: Instant,
    ): void {
      const { kind, note, expiresAt, members } = fields
      const id = Number(addKeeping.run(newCode(), courseId, kind, note, expiresAt, now).lastInsertRowid)
      for (const member of members) addMember.run(id, member)
    },
    dropKeeping: (courseId: number, code: string) => dropKeeping.run(courseId, code).changes > 0,
    /** Whether the rule for this close was carried out. */
    closed: (sheetId: number, closesAt: Instant) => closed.get(sheetId, closesAt) === 1,
    /** Says that the rule for this close was carried out, with the plan that came of it. */
    close: (sheetId: number, closesAt: Instant, now: Instant, planId: number | null) =>
      close.run(sheetId, closesAt, now, planId),
  }
}
