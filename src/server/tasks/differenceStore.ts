import type { Instant } from '../../core/instant.ts'
import type { DifferenceFor } from '../../core/task.ts'
import { newCode } from '../codes.ts'
import { createKeeper } from '../db/kept.ts'
import type { Db } from '../db/open.ts'
import type { Task } from './store.ts'

/** What may be otherwise in a task for some. What is left out is as in the task. */
export type DifferingFields = Partial<
  Pick<
    Task,
    | 'instructions'
    | 'hands_in'
    | 'takes_text'
    | 'takes_links'
    | 'takes_files'
    | 'most_words'
    | 'available_from'
    | 'due_at'
    | 'dated_by'
    | 'late'
    | 'late_until'
  >
>

export interface Difference {
  id: number
  code: string
  /** For the staff alone. */
  note: string
  fields: DifferingFields
  /** For whom it is, by id. */
  for: DifferenceFor<number>[]
}

export type DifferenceStore = ReturnType<typeof createDifferenceStore>

interface TargetRow {
  group_id: number | null
  list_id: number | null
  student_id: number | null
}

/** What is otherwise in tasks for some groups, lists or students. */
export function createDifferenceStore(database: Db) {
  const { db, keep } = createKeeper(database)
  const ofTask = db.prepare<[number], { id: number; code: string; note: string; fields: string }>(
    'SELECT id, code, note, fields FROM task_difference WHERE task_id = ? ORDER BY id',
  )
  const targets = db.prepare<[number], TargetRow>(
    'SELECT group_id, list_id, student_id FROM task_difference_for WHERE difference_id = ? ORDER BY rowid',
  )
  const withList = db
    .prepare<[number], 1>('SELECT 1 FROM task_difference_for WHERE list_id = ? LIMIT 1')
    .pluck()
  const add = db.prepare<[string, number, string, string, Instant]>(
    'INSERT INTO task_difference (code, task_id, note, fields, created_at) VALUES (?, ?, ?, ?, ?)',
  )
  const change = db.prepare<[string, string, number]>(
    'UPDATE task_difference SET note = ?, fields = ? WHERE id = ?',
  )
  const drop = db.prepare<[number]>('DELETE FROM task_difference WHERE id = ?')
  const dropTargets = db.prepare<[number]>('DELETE FROM task_difference_for WHERE difference_id = ?')
  const addTarget = db.prepare<[number, number | null, number | null, number | null]>(
    'INSERT INTO task_difference_for (difference_id, group_id, list_id, student_id) VALUES (?, ?, ?, ?)',
  )
  const setTargets = (id: number, given: readonly DifferenceFor<number>[]) => {
    dropTargets.run(id)
    for (const one of given)
      addTarget.run(
        id,
        one.kind === 'group' ? one.group : null,
        one.kind === 'list' ? one.list : null,
        one.kind === 'student' ? one.student : null,
      )
  }
  return {
    /** The differences of a task, in the order in which they were made. */
    ofTask: keep((taskId: number): readonly Difference[] =>
      ofTask.all(taskId).map(({ id, code, note, fields }) => ({
        id,
        code,
        note,
        fields: JSON.parse(fields) as DifferingFields,
        for: targets.all(id).map(targetOf),
      })),
    ),
    /** Whether some task differs for a list. */
    forList: (listId: number) => withList.get(listId) === 1,
    add(
      taskId: number,
      { note, fields, for: given }: Omit<Difference, 'id' | 'code'>,
      now: Instant,
      code = newCode(),
    ): void {
      const { lastInsertRowid } = add.run(code, taskId, note, JSON.stringify(fields), now)
      setTargets(Number(lastInsertRowid), given)
    },
    change(id: number, { note, fields, for: given }: Omit<Difference, 'id' | 'code'>): void {
      change.run(note, JSON.stringify(fields), id)
      setTargets(id, given)
    },
    /** Ends a difference: whoever it was for has the task as it is. */
    drop(id: number): void {
      dropTargets.run(id)
      drop.run(id)
    },
  }
}

function targetOf({ group_id, list_id, student_id }: TargetRow): DifferenceFor<number> {
  if (group_id !== null) return { kind: 'group', group: group_id }
  if (list_id !== null) return { kind: 'list', list: list_id }
  return { kind: 'student', student: student_id as number }
}
