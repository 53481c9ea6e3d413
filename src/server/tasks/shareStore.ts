import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'

/** What one member said of how the work was shared. */
export interface Share {
  group_id: number
  by_id: number
  /** JSON of the points, by enrolment. */
  points: string
  words: string
  given_at: Instant
}

export type ShareStore = ReturnType<typeof createShareStore>

/** How members say the work was shared. */
export function createShareStore(db: Db) {
  const ofTask = db.prepare<[number], Share>(
    'SELECT group_id, by_id, points, words, given_at FROM work_share WHERE task_id = ? ORDER BY by_id',
  )
  const ofGroup = db.prepare<[number, number], Share>(
    'SELECT group_id, by_id, points, words, given_at FROM work_share WHERE task_id = ? AND group_id = ? ORDER BY by_id',
  )
  const put = db.prepare<[number, number, number, string, string, Instant]>(
    `INSERT OR REPLACE INTO work_share (task_id, group_id, by_id, points, words, given_at) VALUES (?, ?, ?, ?, ?, ?)`,
  )
  return {
    ofTask: (taskId: number) => ofTask.all(taskId),
    ofGroup: (taskId: number, groupId: number) => ofGroup.all(taskId, groupId),
    put(
      taskId: number,
      groupId: number,
      byId: number,
      { points, words }: { points: Readonly<Record<number, number>>; words: string },
      now: Instant,
    ): void {
      put.run(taskId, groupId, byId, JSON.stringify(points), words, now)
    },
  }
}
