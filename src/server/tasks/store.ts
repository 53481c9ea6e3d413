import type { Instant } from '../../core/instant.ts'
import type { DatedBy, LateHandIn, SharesRule, TaskFor, WithoutGroup } from '../../core/task.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface Task {
  id: number
  code: string
  sheet_id: number
  title: string
  instructions: string
  /** 0 where nothing is handed in; what it would take else is kept all the same. */
  hands_in: 0 | 1
  takes_text: 0 | 1
  takes_links: 0 | 1
  takes_files: 0 | 1
  /** The most words that its text may have; null where that is free. */
  most_words: number | null
  available_from: Instant | null
  /** Null where there is none, or where each group's own date says it. */
  due_at: Instant | null
  dated_by: DatedBy
  late: LateHandIn
  late_until: Instant | null
  for_whom: TaskFor
  /** The list whose students do it, each alone; null where it is for all. */
  list_id: number | null
  without_group: WithoutGroup
  points: number
  /** Whether members are asked how the work was shared, and who sees it. */
  shares: SharesRule
  /** 1 where students may answer each remark on their work, once. */
  answers: 0 | 1
  /** JSON of the criteria. */
  criteria: string
  out_at: Instant | null
  removed_at: Instant | null
}

export type TaskFields = Omit<Task, 'id' | 'code' | 'sheet_id' | 'removed_at'>

/** Whose work: a group's or a student's, by id. */
export type Owner = { group_id: number; student_id: null } | { group_id: null; student_id: number }

export interface HandIn {
  id: number
  task_id: number
  group_id: number | null
  student_id: number | null
  version: number
  by_id: number
  text: string
  /** JSON of the links. */
  links: string
  handed_at: Instant
  late: 0 | 1
  taken_back_at: Instant | null
  /** JSON of the enrolments it counts for. */
  members: string
  /** JSON of the kept files, by id. */
  files: string
}

export interface WorkDraft {
  id: number
  text: string
  links: string
  holder_id: number | null
  held_at: Instant | null
  saved_at: Instant
}

export type TaskStore = ReturnType<typeof createTaskStore>

const TASK = `SELECT id, code, sheet_id, title, instructions, hands_in, takes_text, takes_links, takes_files, most_words, available_from, due_at,
  dated_by, late, late_until, for_whom, list_id, without_group, points, shares, answers, criteria, out_at, removed_at FROM task`
const HAND_IN = `SELECT h.id, h.task_id, h.group_id, h.student_id, h.version, h.by_id, h.text, h.links, h.handed_at, h.late,
  h.taken_back_at, (SELECT json_group_array(m.enrolment_id) FROM hand_in_member m WHERE m.hand_in_id = h.id) AS members,
  (SELECT json_group_array(f.file_id) FROM hand_in_file f WHERE f.hand_in_id = h.id) AS files
  FROM hand_in h`

/** Tasks, what was handed in for them, and what is being written. */
export function createTaskStore(db: Db) {
  const ofSheet = db.prepare<[number], Task>(`${TASK} WHERE sheet_id = ? AND removed_at IS NULL ORDER BY id`)
  const byCode = db.prepare<[number, string], Task>(`${TASK} WHERE sheet_id = ? AND code = ?`)
  const add = db.prepare(
    `INSERT INTO task (code, sheet_id, title, instructions, hands_in, takes_text, takes_links, takes_files, most_words, available_from, due_at, dated_by, late, late_until,
       for_whom, list_id, without_group, points, shares, answers, criteria, out_at, created_at)
     VALUES (@code, @sheetId, @title, @instructions, @hands_in, @takes_text, @takes_links, @takes_files, @most_words, @available_from, @due_at, @dated_by, @late, @late_until,
       @for_whom, @list_id, @without_group, @points, @shares, @answers, @criteria, @out_at, @now)`,
  )
  const change = db.prepare(
    `UPDATE task SET title = @title, instructions = @instructions, takes_text = @takes_text, takes_links = @takes_links,
       takes_files = @takes_files, hands_in = @hands_in, most_words = @most_words, available_from = @available_from, due_at = @due_at,
       dated_by = @dated_by, late = @late, late_until = @late_until, for_whom = @for_whom, list_id = @list_id,
       without_group = @without_group, points = @points, shares = @shares, answers = @answers, criteria = @criteria, out_at = @out_at WHERE id = @id`,
  )
  const setRemoved = db.prepare<[Instant | null, number]>('UPDATE task SET removed_at = ? WHERE id = ?')
  const groupsOf = db.prepare<[number], number>('SELECT group_id FROM task_group WHERE task_id = ?').pluck()
  const dropGroups = db.prepare<[number]>('DELETE FROM task_group WHERE task_id = ?')
  const addGroup = db.prepare<[number, number]>('INSERT INTO task_group (task_id, group_id) VALUES (?, ?)')
  const handInsOf = db.prepare<[number], HandIn>(`${HAND_IN} WHERE h.task_id = ? ORDER BY h.version`)
  const addHandIn = db.prepare<
    [number, number | null, number | null, number, number, string, string, Instant, 0 | 1]
  >(
    `INSERT INTO hand_in (task_id, group_id, student_id, version, by_id, text, links, handed_at, late)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  )
  const addMember = db.prepare<[number, number]>(
    'INSERT INTO hand_in_member (hand_in_id, enrolment_id) VALUES (?, ?)',
  )
  const addHandInFile = db.prepare<[number, number]>(
    'INSERT INTO hand_in_file (hand_in_id, file_id) VALUES (?, ?)',
  )
  // Groups and students have an index each, which one question for both would not use.
  const each = <Row>(head: string, tail = '') => {
    const ofGroup = db.prepare<[number, number], Row>(
      `${head} WHERE h.task_id = ? AND h.group_id = ? ${tail}`,
    )
    const ofStudent = db.prepare<[number, number], Row>(
      `${head} WHERE h.task_id = ? AND h.student_id = ? ${tail}`,
    )
    return (taskId: number, { group_id, student_id }: Owner): Row[] =>
      group_id === null ? ofStudent.all(taskId, student_id) : ofGroup.all(taskId, group_id)
  }
  const ofOwner = each<HandIn>(HAND_IN, 'ORDER BY h.version')
  const standing = each<HandIn>(HAND_IN, 'AND h.taken_back_at IS NULL ORDER BY h.version DESC LIMIT 1')
  const stands = each<{ late: 0 | 1 }>(
    'SELECT h.late FROM hand_in h',
    'AND h.taken_back_at IS NULL ORDER BY h.version DESC LIMIT 1',
  )
  const any = db.prepare<[number], 1>('SELECT 1 FROM hand_in WHERE task_id = ? LIMIT 1').pluck()
  const standingGroups = db
    .prepare<[number], number>(
      `SELECT DISTINCT group_id FROM hand_in WHERE task_id = ? AND group_id IS NOT NULL AND taken_back_at IS NULL`,
    )
    .pluck()
  const countedIn = db
    .prepare<[number, number], number | null>(
      `SELECT DISTINCT h.group_id FROM hand_in_member m JOIN hand_in h ON h.id = m.hand_in_id
       WHERE m.enrolment_id = ? AND h.task_id = ?`,
    )
    .pluck()
  const withFile = db.prepare<[number], HandIn>(
    `${HAND_IN} WHERE h.id IN (SELECT hand_in_id FROM hand_in_file WHERE file_id = ?) ORDER BY h.id`,
  )
  const byId = db.prepare<[number], Task>(`${TASK} WHERE id = ?`)
  const draftFiles = db
    .prepare<[number, number | null, number | null], number>(
      'SELECT file_id FROM draft_file WHERE task_id = ? AND group_id IS ? AND student_id IS ? ORDER BY file_id',
    )
    .pluck()
  const addDraftFile = db.prepare<[number, number, number | null, number | null]>(
    'INSERT OR IGNORE INTO draft_file (file_id, task_id, group_id, student_id) VALUES (?, ?, ?, ?)',
  )
  const dropDraftFile = db.prepare<[number]>('DELETE FROM draft_file WHERE file_id = ?')
  const draftWith = db.prepare<
    [number],
    { task_id: number; group_id: number | null; student_id: number | null }
  >('SELECT task_id, group_id, student_id FROM draft_file WHERE file_id = ?')
  const taskFiles = db
    .prepare<[number], number>('SELECT file_id FROM task_file WHERE task_id = ? ORDER BY file_id')
    .pluck()
  const addTaskFile = db.prepare<[number, number]>('INSERT INTO task_file (task_id, file_id) VALUES (?, ?)')
  const dropTaskFile = db.prepare<[number]>('DELETE FROM task_file WHERE file_id = ?')
  const taskWith = db.prepare<[number], number>('SELECT task_id FROM task_file WHERE file_id = ?').pluck()
  const takeBack = db.prepare<[Instant, number, number | null, number | null]>(
    `UPDATE hand_in SET taken_back_at = ? WHERE task_id = ? AND group_id IS ? AND student_id IS ? AND taken_back_at IS NULL`,
  )
  const bound = db
    .prepare<[number], number>(
      `SELECT DISTINCT h.group_id FROM hand_in h JOIN task t ON t.id = h.task_id
       WHERE t.sheet_id = ? AND t.removed_at IS NULL AND h.group_id IS NOT NULL AND h.taken_back_at IS NULL`,
    )
    .pluck()
  const isBound = db
    .prepare<[number], number>(
      `SELECT 1 FROM hand_in h JOIN task t ON t.id = h.task_id
       WHERE h.group_id = ? AND t.removed_at IS NULL AND h.taken_back_at IS NULL LIMIT 1`,
    )
    .pluck()
  const draft = db.prepare<[number, number | null, number | null], WorkDraft>(
    `SELECT id, text, links, holder_id, held_at, saved_at FROM work_draft
     WHERE task_id = ? AND group_id IS ? AND student_id IS ?`,
  )
  const begunBy = db.prepare<[number, number], { group_id: number | null; student_id: number | null }>(
    `SELECT group_id, student_id FROM work_draft WHERE task_id = ? AND (text <> '' OR links <> '[]')
     UNION SELECT group_id, student_id FROM draft_file WHERE task_id = ?`,
  )
  const addDraft = db.prepare<
    [number, number | null, number | null, string, string, number | null, Instant | null, Instant]
  >(
    `INSERT INTO work_draft (task_id, group_id, student_id, text, links, holder_id, held_at, saved_at)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
  )
  const changeDraft = db.prepare<[string, string, number | null, Instant | null, Instant, number]>(
    'UPDATE work_draft SET text = ?, links = ?, holder_id = ?, held_at = ?, saved_at = ? WHERE id = ?',
  )
  const letGo = db.prepare<[number]>('UPDATE work_draft SET holder_id = NULL, held_at = NULL WHERE id = ?')
  const dropDraft = db.prepare<[number]>('DELETE FROM work_draft WHERE id = ?')
  return {
    ofSheet: (sheetId: number) => ofSheet.all(sheetId),
    byId: (id: number) => byId.get(id),
    /** A task of a sheet by its code, removed or not. */
    byCode: (sheetId: number, code: string) => byCode.get(sheetId, code),
    add(sheetId: number, fields: TaskFields, now: Instant): Task {
      const code = newCode()
      add.run({ ...fields, code, sheetId, now })
      return byCode.get(sheetId, code) as Task
    },
    change(id: number, fields: TaskFields): void {
      change.run({ ...fields, id })
    },
    /** Takes a task away, or brings it back with null. */
    setRemoved: (id: number, at: Instant | null) => setRemoved.run(at, id),
    /** The groups that a task is for, where it is for some. */
    groups: (taskId: number) => groupsOf.all(taskId),
    setGroups(taskId: number, groupIds: readonly number[]): void {
      dropGroups.run(taskId)
      for (const id of new Set(groupIds)) addGroup.run(taskId, id)
    },
    /** Every version handed in for a task, oldest first, those taken back included. */
    handIns: (taskId: number) => handInsOf.all(taskId),
    handIn(
      taskId: number,
      { group_id, student_id }: Owner,
      fields: Pick<HandIn, 'version' | 'by_id' | 'text' | 'links' | 'late'> & {
        members: readonly number[]
        files: readonly number[]
      },
      now: Instant,
    ): void {
      const { version, by_id, text, links, late, members, files } = fields
      const added = addHandIn.run(taskId, group_id, student_id, version, by_id, text, links, now, late)
      for (const member of members) addMember.run(Number(added.lastInsertRowid), member)
      for (const file of files) addHandInFile.run(Number(added.lastInsertRowid), file)
    },
    /** What stands handed in by an owner: the newest version that was not taken back. */
    standing: (taskId: number, owner: Owner): HandIn | undefined => standing(taskId, owner)[0],
    /** Whether anything stands handed in by an owner, and late; without its text. */
    stands: (taskId: number, owner: Owner): { late: 0 | 1 } | undefined => stands(taskId, owner)[0],
    /** Every version of an owner, oldest first, those taken back included. */
    ofOwner: (taskId: number, owner: Owner) => ofOwner(taskId, owner),
    /** Whether anybody ever handed in anything for a task. */
    anyHandIn: (taskId: number) => any.get(taskId) === 1,
    /** Groups whose work for a task stands handed in. */
    standingGroups: (taskId: number) => new Set(standingGroups.all(taskId)),
    /** The groups in which work for a task counts for somebody; null among them: their own. */
    countedIn: (taskId: number, enrolmentId: number) => countedIn.all(enrolmentId, taskId),
    /** Every version that a file was handed in with. */
    handInsWith: (fileId: number) => withFile.all(fileId),
    /** Files brought for an owner's next hand-in, by id. */
    draftFiles: (taskId: number, { group_id, student_id }: Owner) =>
      draftFiles.all(taskId, group_id, student_id),
    addDraftFile: (taskId: number, { group_id, student_id }: Owner, fileId: number) =>
      addDraftFile.run(fileId, taskId, group_id, student_id),
    dropDraftFile: (fileId: number) => dropDraftFile.run(fileId),
    /** For whose next hand-in a file was brought. */
    draftWith: (fileId: number) => draftWith.get(fileId),
    /** Files that come with a task, by id. */
    taskFiles: (taskId: number) => taskFiles.all(taskId),
    addTaskFile: (taskId: number, fileId: number) => addTaskFile.run(taskId, fileId),
    dropTaskFile: (fileId: number) => dropTaskFile.run(fileId),
    /** The task that a file comes with. */
    taskWith: (fileId: number) => taskWith.get(fileId),
    /** Takes back everything that an owner handed in for a task. */
    takeBack: (taskId: number, { group_id, student_id }: Owner, now: Instant) =>
      takeBack.run(now, taskId, group_id, student_id),
    /** Groups of a sheet whose work is handed in, so that they do not silently change. */
    bound: (sheetId: number) => new Set(bound.all(sheetId)),
    isBound: (groupId: number) => isBound.get(groupId) === 1,
    /** For whose next hand-in something is written or brought. */
    begunBy: (taskId: number) => begunBy.all(taskId, taskId),
    draft: (taskId: number, { group_id, student_id }: Owner) => draft.get(taskId, group_id, student_id),
    saveDraft(
      taskId: number,
      owner: Owner,
      fields: { text: string; links: string; holderId: number | null },
      now: Instant,
    ): void {
      const { text, links, holderId } = fields
      const held = holderId === null ? null : now
      const known = draft.get(taskId, owner.group_id, owner.student_id)
      if (known) changeDraft.run(text, links, holderId, held, now, known.id)
      else addDraft.run(taskId, owner.group_id, owner.student_id, text, links, holderId, held, now)
    },
    letGoDraft: (id: number) => letGo.run(id),
    dropDraft: (id: number) => dropDraft.run(id),
  }
}
