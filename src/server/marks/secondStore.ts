import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'
import type { Owner } from '../tasks/store.ts'
import type { MarkFields } from './store.ts'

/** A work that was drawn for a second reading, and what its second reader says of it. */
export interface Second extends MarkFields {
  id: number
  task_id: number
  group_id: number | null
  student_id: number | null
  /** Who reads it. */
  reader_id: number
  lot_number: number
  drawn_at: Instant
  version: number
  /** When the reader last said something; null before. */
  read_at: Instant | null
}

export type SecondStore = ReturnType<typeof createSecondStore>

/** Works drawn by lot for a second reading. What is said there changes no mark. */
export function createSecondStore(db: Db) {
  const ofTask = db.prepare<[number], Second>(
    `SELECT id, task_id, group_id, student_id, reader_id, lot_number, drawn_at, placements, points, feedback, version, read_at
     FROM second_reading WHERE task_id = ? ORDER BY id`,
  )
  const add = db.prepare<[number, number | null, number | null, number, number, Instant]>(
    `INSERT INTO second_reading (task_id, group_id, student_id, reader_id, lot_number, drawn_at) VALUES (?, ?, ?, ?, ?, ?)`,
  )
  const say = db.prepare<[string, number | null, string, Instant, number]>(
    `UPDATE second_reading SET placements = ?, points = ?, feedback = ?, read_at = ?, version = version + 1 WHERE id = ?`,
  )
  const drop = db.prepare<[number]>('DELETE FROM second_reading WHERE id = ?')
  return {
    ofTask: (taskId: number) => ofTask.all(taskId),
    add(
      taskId: number,
      { group_id, student_id }: Owner,
      { readerId, lotNumber }: { readerId: number; lotNumber: number },
      now: Instant,
    ): void {
      add.run(taskId, group_id, student_id, readerId, lotNumber, now)
    },
    say: (id: number, { placements, points, feedback }: MarkFields, now: Instant) =>
      say.run(placements, points, feedback, now, id),
    drop: (id: number) => drop.run(id),
  }
}
