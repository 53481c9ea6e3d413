import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'

/** What a ledger entry records. Seat kinds carry an enrolment and groups; the others say more in `detail`. */
export type LedgerKind =
  | 'seat-taken'
  | 'seat-moved'
  | 'seat-given-up'
  | 'seat-removed'
  | 'sheet-added'
  | 'sheet-changed'
  | 'sheet-published'
  | 'sheet-withdrawn'
  | 'section-added'
  | 'section-removed'
  | 'section-restored'
  | 'sheet-archived'
  | 'sheet-unarchived'
  | 'sheet-deleted'
  | 'sheet-restored'
  | 'topic-added'
  | 'topic-changed'
  | 'topic-removed'
  | 'topic-restored'
  | 'topics-reordered'
  | 'group-changed'
  | 'convener-named'
  | 'tutors-assigned'
  | 'line-joined'
  | 'line-left'
  | 'seat-held'
  | 'seat-freed'
  | 'request-made'
  | 'request-answered'
  | 'invitation-made'
  | 'invitation-answered'
  | 'task-added'
  | 'task-changed'
  | 'task-removed'
  | 'task-restored'
  | 'work-handed-in'
  | 'work-taken-back'
  | 'mark-given'
  | 'marks-released'
  | 'marks-hidden'
  | 'difference-made'
  | 'difference-changed'
  | 'difference-ended'
  | 'there-corrected'
  | 'second-reading-drawn'
  | 'leave-asked'
  | 'leave-answered'
  | 'swap-offered'
  | 'swap-answered'
  | 'swap-ended'
  | 'extras-changed'
  | 'own-extras-changed'
  | 'place-changed'

export const SEAT_KINDS: readonly LedgerKind[] = ['seat-taken', 'seat-moved', 'seat-given-up', 'seat-removed']
/** Kinds that change a waiting line and no seat; the group stands in `detail.group` by its id. */
export const LINE_KINDS: readonly LedgerKind[] = ['line-joined', 'line-left']

/**
 * Kinds that concern one student, named by the entry, and the staff: nobody else's page changes. An invitation also
 * concerns the convener who made it, by `detail.by`, and an answer to a swap all who are in it, by `detail.with`.
 */
export const OWN_KINDS: readonly LedgerKind[] = [
  'request-made',
  'request-answered',
  'invitation-made',
  'invitation-answered',
  'work-handed-in',
  'work-taken-back',
  // Students learn of a mark when it is released.
  'mark-given',
  // Whoever a task does not differ for is not to guess that it does for others.
  'difference-made',
  'difference-changed',
  'difference-ended',
  'there-corrected',
  'second-reading-drawn',
  'leave-asked',
  'leave-answered',
  'swap-offered',
  'swap-answered',
  'swap-ended',
]

export interface LedgerEntry {
  id: number
  sheet_id: number
  at: Instant
  actor_id: number | null
  kind: LedgerKind
  enrolment_id: number | null
  from_group_id: number | null
  to_group_id: number | null
  /** JSON. */
  detail: string
}

/** An entry to be written. */
export interface LedgerNote {
  sheetId: number
  at: Instant
  actorId: number | null
  kind: LedgerKind
  enrolmentId?: number
  fromGroupId?: number
  toGroupId?: number
  detail?: Readonly<Record<string, unknown>>
}

export type LedgerStore = ReturnType<typeof createLedgerStore>

/** The record of every change to a sheet. Entries are only ever added. */
export function createLedgerStore(db: Db) {
  const add = db.prepare<
    [number, Instant, number | null, LedgerKind, number | null, number | null, number | null, string]
  >(
    `INSERT INTO ledger (sheet_id, at, actor_id, kind, enrolment_id, from_group_id, to_group_id, detail)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
  )
  const since = db.prepare<[number, number, number], LedgerEntry>(
    `SELECT id, sheet_id, at, actor_id, kind, enrolment_id, from_group_id, to_group_id, detail FROM ledger
     WHERE sheet_id = ? AND id > ? ORDER BY id LIMIT ?`,
  )
  const newest = db
    .prepare<[number], number>('SELECT ifnull(max(id), 0) FROM ledger WHERE sheet_id = ?')
    .pluck()
  const entry = db.prepare<[number, number], LedgerEntry>(
    `SELECT id, sheet_id, at, actor_id, kind, enrolment_id, from_group_id, to_group_id, detail FROM ledger
     WHERE sheet_id = ? AND id = ?`,
  )
  const ofGroup = db.prepare<[number, number, number, number, number], LedgerEntry>(
    `SELECT id, sheet_id, at, actor_id, kind, enrolment_id, from_group_id, to_group_id, detail FROM ledger
     WHERE sheet_id = ? AND (from_group_id = ? OR to_group_id = ? OR detail ->> '$.group' = ?)
     ORDER BY id DESC LIMIT ?`,
  )
  const leftAt = db
    .prepare<[number, number, number], Instant | null>(
      'SELECT max(at) FROM ledger WHERE sheet_id = ? AND enrolment_id = ? AND from_group_id = ?',
    )
    .pluck()
  // All that were taken out at once the last time, in the order in which they had sat down.
  const lastTakenOut = db
    .prepare<[{ sheetId: number; groupId: number; because: string }], number>(
      `SELECT enrolment_id FROM ledger
       WHERE sheet_id = @sheetId AND kind = 'seat-removed' AND from_group_id = @groupId
         AND detail ->> '$.because' = @because
         AND at = (
           SELECT max(at) FROM ledger
           WHERE sheet_id = @sheetId AND kind = 'seat-removed' AND from_group_id = @groupId
             AND detail ->> '$.because' = @because
         )
       ORDER BY id`,
    )
    .pluck()
  const everSeated = db
    .prepare<[number, number], number>(
      `SELECT 1 FROM ledger WHERE sheet_id = ? AND enrolment_id = ? AND kind = 'seat-taken' LIMIT 1`,
    )
    .pluck()
  const countSince = db
    .prepare<[number, number, string], number>(
      'SELECT count(*) FROM ledger WHERE sheet_id = ? AND id > ? AND kind IN (SELECT value FROM json_each(?))',
    )
    .pluck()
  return {
    note(entry: LedgerNote): void {
      const { sheetId, at, actorId, kind, enrolmentId, fromGroupId, toGroupId, detail } = entry
      const groups = [fromGroupId ?? null, toGroupId ?? null] as const
      add.run(sheetId, at, actorId, kind, enrolmentId ?? null, ...groups, JSON.stringify(detail ?? {}))
    },
    /** Entries of a sheet after a position, oldest first. */
    since: (sheetId: number, position: number, most = 100_000) => since.all(sheetId, position, most),
    /** The newest entries about a group, newest first: seats, and whatever names it in `detail.group` by its id. */
    ofGroup: (sheetId: number, groupId: number, most: number) =>
      ofGroup.all(sheetId, groupId, groupId, groupId, most),
    /** When somebody left a group last; null when they never did. */
    leftAt: (sheetId: number, enrolmentId: number, groupId: number) =>
      leftAt.get(sheetId, enrolmentId, groupId) ?? null,
    /** One entry of a sheet. */
    entry: (sheetId: number, position: number) => entry.get(sheetId, position),
    /** Enrolments whom a group lost together when it last went away for this cause. */
    /** Whether somebody ever sat down on a sheet. */
    everSeated: (sheetId: number, enrolmentId: number) => everSeated.get(sheetId, enrolmentId) !== undefined,
    lastTakenOut: (sheetId: number, groupId: number, because: string) =>
      lastTakenOut.all({ sheetId, groupId, because }),
    /** How many entries of some kinds a sheet got after a position. */
    countSince: (sheetId: number, position: number, kinds: readonly LedgerKind[]) =>
      countSince.get(sheetId, position, JSON.stringify(kinds)) ?? 0,
    /** The position of a sheet's newest entry; 0 before the first. */
    newest: (sheetId: number) => newest.get(sheetId) ?? 0,
  }
}
