import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'
import type { Owner } from '../tasks/store.ts'

export interface Mark {
  id: number
  task_id: number
  group_id: number | null
  student_id: number | null
  /** The member who is set apart; null for the whole. */
  apart_id: number | null
  /** JSON of the placements. */
  placements: string
  points: number | null
  feedback: string
  version: number
  changed_at: Instant
  changed_by: number
  released_at: Instant | null
}

export type MarkFields = Pick<Mark, 'placements' | 'points' | 'feedback'>
export type MarkStore = ReturnType<typeof createMarkStore>

/** Marks of groups and students, and of members set apart. */
export function createMarkStore(db: Db) {
  const ofTask = db.prepare<[number], Mark>(
    `SELECT id, task_id, group_id, student_id, apart_id, placements, points, feedback, version, changed_at, changed_by,
       released_at FROM mark WHERE task_id = ? ORDER BY id`,
  )
  const add = db.prepare<
    [
      number,
      number | null,
      number | null,
      number | null,
      string,
      number | null,
      string,
      Instant,
      number,
      Instant | null,
    ]
  >(
    `INSERT INTO mark (task_id, group_id, student_id, apart_id, placements, points, feedback, changed_at, changed_by, released_at)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  )
  const change = db.prepare<[string, number | null, string, Instant, number, number]>(
    `UPDATE mark SET placements = ?, points = ?, feedback = ?, changed_at = ?, changed_by = ?, version = version + 1
     WHERE id = ?`,
  )
  const isMarked = db
    .prepare<[number, number | null, number | null], 1>(
      'SELECT 1 FROM mark WHERE task_id = ? AND ifnull(group_id, 0) = ifnull(?, 0) AND ifnull(student_id, 0) = ifnull(?, 0) LIMIT 1',
    )
    .pluck()
  const any = db.prepare<[number], 1>('SELECT 1 FROM mark WHERE task_id = ? LIMIT 1').pluck()
  const drop = db.prepare<[number]>('DELETE FROM mark WHERE id = ?')
  const release = db.prepare<[Instant | null, number]>('UPDATE mark SET released_at = ? WHERE id = ?')
  return {
    ofTask: (taskId: number) => ofTask.all(taskId),
    /** Whether a mark was begun for an owner. */
    isMarked: (taskId: number, { group_id, student_id }: Owner) =>
      isMarked.get(taskId, group_id, student_id) === 1,
    /** Whether a mark was begun for anybody. */
    any: (taskId: number) => any.get(taskId) === 1,
    add(
      taskId: number,
      owner: Owner,
      apartId: number | null,
      { placements, points, feedback }: MarkFields,
      by: { now: Instant; personId: number; releasedAt: Instant | null },
    ): void {
      const { now, personId, releasedAt } = by
      add.run(
        taskId,
        owner.group_id,
        owner.student_id,
        apartId,
        placements,
        points,
        feedback,
        now,
        personId,
        releasedAt,
      )
    },
    change: (id: number, { placements, points, feedback }: MarkFields, now: Instant, personId: number) =>
      change.run(placements, points, feedback, now, personId, id),
    drop: (id: number) => drop.run(id),
    /** Shows a mark to those it is for, or hides it with null. */
    release: (id: number, at: Instant | null) => release.run(at, id),
  }
}
