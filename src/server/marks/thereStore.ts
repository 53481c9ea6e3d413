import type { Db } from '../db/open.ts'

export type ThereStore = ReturnType<typeof createThereStore>

/** Who was there when a group was marked without a hand-in: theirs is the mark, whoever sits there later. */
export function createThereStore(db: Db) {
  const ofTask = db.prepare<[number], { group_id: number; enrolment_id: number }>(
    'SELECT group_id, enrolment_id FROM marked_there WHERE task_id = ? ORDER BY enrolment_id',
  )
  const ofGroup = db
    .prepare<[number, number], number>(
      'SELECT enrolment_id FROM marked_there WHERE task_id = ? AND group_id = ? ORDER BY enrolment_id',
    )
    .pluck()
  const groupsOf = db
    .prepare<[number, number], number>(
      'SELECT group_id FROM marked_there WHERE enrolment_id = ? AND task_id = ? ORDER BY group_id',
    )
    .pluck()
  const add = db.prepare<[number, number, number]>(
    'INSERT INTO marked_there (task_id, group_id, enrolment_id) VALUES (?, ?, ?)',
  )
  const drop = db.prepare<[number, number]>('DELETE FROM marked_there WHERE task_id = ? AND group_id = ?')
  const byHand = db
    .prepare<[number, number], 1>('SELECT 1 FROM there_by_hand WHERE task_id = ? AND group_id = ?')
    .pluck()
  const setByHand = db.prepare<[number, number]>(
    'INSERT OR IGNORE INTO there_by_hand (task_id, group_id) VALUES (?, ?)',
  )
  return {
    /** Who was there, by group, for each group of a task of which it is known. */
    ofTask(taskId: number): Map<number, number[]> {
      const there = new Map<number, number[]>()
      for (const { group_id, enrolment_id } of ofTask.all(taskId))
        there.set(group_id, [...(there.get(group_id) ?? []), enrolment_id])
      return there
    },
    /** Who was there of one group; null while it is not known. */
    ofGroup(taskId: number, groupId: number): number[] | null {
      const there = ofGroup.all(taskId, groupId)
      return there.length > 0 ? there : null
    },
    /** The groups of a task in which somebody was there. */
    groupsOf: (taskId: number, enrolmentId: number) => groupsOf.all(enrolmentId, taskId),
    /** Says who was there, in place of what was known. */
    set(taskId: number, groupId: number, enrolments: readonly number[]): void {
      drop.run(taskId, groupId)
      for (const id of new Set(enrolments)) add.run(taskId, groupId, id)
    },
    forget: (taskId: number, groupId: number) => drop.run(taskId, groupId),
    /** Whether it was said by hand who was there. */
    isByHand: (taskId: number, groupId: number) => byHand.get(taskId, groupId) === 1,
    setByHand: (taskId: number, groupId: number) => setByHand.run(taskId, groupId),
  }
}
