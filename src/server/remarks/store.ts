import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'
import type { Owner } from '../tasks/store.ts'

export interface Remark {
  id: number
  code: string
  task_id: number
  group_id: number | null
  student_id: number | null
  version: number
  file_id: number | null
  /** JSON of the place. */
  place: string
  words: string
  criterion: string | null
  points: number | null
  edition: number
  by_id: number
  removed_at: Instant | null
}

export interface RemarkAnswer {
  remark_id: number
  by_id: number
  words: string
  answered_at: Instant
}

export type RemarkFields = Pick<Remark, 'version' | 'file_id' | 'place' | 'words' | 'criterion' | 'points'>
export type RemarkStore = ReturnType<typeof createRemarkStore>

const REMARK = `SELECT id, code, task_id, group_id, student_id, version, file_id, place, words, criterion, points, edition,
  by_id, removed_at FROM remark`

/** Remarks on works, answers to them, and files that go back with marks. */
export function createRemarkStore(db: Db) {
  const ofOwner = db.prepare<[number, number | null, number | null], Remark>(
    `${REMARK} WHERE task_id = ? AND group_id IS ? AND student_id IS ? AND removed_at IS NULL ORDER BY id`,
  )
  const byCode = db.prepare<[number, string], Remark>(`${REMARK} WHERE task_id = ? AND code = ?`)
  const byKey = db.prepare<[number, number, string], Remark>(
    `${REMARK} WHERE task_id = ? AND by_id = ? AND page_key = ?`,
  )
  const add = db.prepare(
    `INSERT INTO remark (code, page_key, task_id, group_id, student_id, version, file_id, place, words, criterion, points,
       by_id, made_at, changed_at)
     VALUES (@code, @key, @taskId, @group_id, @student_id, @version, @file_id, @place, @words, @criterion, @points,
       @byId, @now, @now)`,
  )
  const change = db.prepare(
    `UPDATE remark SET version = @version, file_id = @file_id, place = @place, words = @words, criterion = @criterion,
       points = @points, edition = edition + 1, changed_at = @now WHERE id = @id`,
  )
  const setRemoved = db.prepare<[Instant | null, number]>('UPDATE remark SET removed_at = ? WHERE id = ?')
  const counts = db.prepare<[number], Owner & { remarks: number; answers: number }>(
    `SELECT r.group_id, r.student_id, count(DISTINCT r.id) AS remarks, count(a.by_id) AS answers
     FROM remark r LEFT JOIN remark_answer a ON a.remark_id = r.id
     WHERE r.task_id = ? AND r.removed_at IS NULL GROUP BY r.group_id, r.student_id`,
  )
  const phrases = db
    .prepare<[number, number], string>(
      `SELECT words FROM remark WHERE task_id = ? AND removed_at IS NULL AND words <> ''
       GROUP BY words ORDER BY count(*) DESC, max(id) DESC LIMIT ?`,
    )
    .pluck()
  const answersOf = db.prepare<[number, number | null, number | null], RemarkAnswer>(
    `SELECT a.remark_id, a.by_id, a.words, a.answered_at FROM remark_answer a JOIN remark r ON r.id = a.remark_id
     WHERE r.task_id = ? AND r.group_id IS ? AND r.student_id IS ? ORDER BY a.answered_at, a.by_id`,
  )
  const answered = db
    .prepare<[number, number], 1>('SELECT 1 FROM remark_answer WHERE remark_id = ? AND by_id = ?')
    .pluck()
  const answer = db.prepare<[number, number, string, Instant]>(
    'INSERT INTO remark_answer (remark_id, by_id, words, answered_at) VALUES (?, ?, ?, ?)',
  )
  const files = db
    .prepare<[number, number | null, number | null], number>(
      'SELECT file_id FROM feedback_file WHERE task_id = ? AND group_id IS ? AND student_id IS ? ORDER BY file_id',
    )
    .pluck()
  const addFile = db.prepare<[number, number, number | null, number | null]>(
    'INSERT INTO feedback_file (file_id, task_id, group_id, student_id) VALUES (?, ?, ?, ?)',
  )
  const dropFile = db.prepare<[number]>('DELETE FROM feedback_file WHERE file_id = ?')
  const fileFor = db.prepare<[number], Owner & { task_id: number }>(
    'SELECT task_id, group_id, student_id FROM feedback_file WHERE file_id = ?',
  )
  return {
    /** Remarks on an owner's work that are not removed, oldest first. */
    ofOwner: (taskId: number, { group_id, student_id }: Owner) => ofOwner.all(taskId, group_id, student_id),
    /** A remark of a task by its code, removed or not. */
    byCode: (taskId: number, code: string) => byCode.get(taskId, code),
    /** The remark that somebody's page called so, removed or not. */
    byKey: (taskId: number, byId: number, key: string) => byKey.get(taskId, byId, key),
    add(
      taskId: number,
      { group_id, student_id }: Owner,
      fields: RemarkFields,
      by: { byId: number; key: string; now: Instant },
    ): void {
      add.run({ ...fields, ...by, code: newCode(), taskId, group_id, student_id })
    },
    change: (id: number, fields: RemarkFields, now: Instant) => change.run({ ...fields, id, now }),
    /** Takes a remark away, or brings it back with null. */
    setRemoved: (id: number, at: Instant | null) => setRemoved.run(at, id),
    /** How many remarks each owner's work of a task has, and how many answers. */
    counts: (taskId: number) => counts.all(taskId),
    /** What was written in remarks on a task, that used most often first. */
    phrases: (taskId: number, most: number) => phrases.all(taskId, most),
    /** Answers to an owner's remarks, in the order they came. */
    answersOf: (taskId: number, { group_id, student_id }: Owner) =>
      answersOf.all(taskId, group_id, student_id),
    isAnswered: (remarkId: number, byId: number) => answered.get(remarkId, byId) === 1,
    answer: (remarkId: number, byId: number, words: string, now: Instant) =>
      answer.run(remarkId, byId, words, now),
    /** Files that go back with an owner's mark, by id. */
    files: (taskId: number, { group_id, student_id }: Owner) => files.all(taskId, group_id, student_id),
    addFile: (fileId: number, taskId: number, { group_id, student_id }: Owner) =>
      addFile.run(fileId, taskId, group_id, student_id),
    dropFile: (fileId: number) => dropFile.run(fileId),
    /** For whose mark a file goes back; undefined for other files. */
    fileFor: (fileId: number) => fileFor.get(fileId),
  }
}
