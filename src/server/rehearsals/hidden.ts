import type { Instant } from '../../core/instant.ts'
import { mostPoints } from '../../core/marks.ts'
import type { Db } from '../db/open.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { createReads, criteriaOf } from '../tasks/owners.ts'
import type { Owner } from '../tasks/store.ts'

/** Whose words stand in what is made up: somebody who counts nowhere. */
const MADE_UP_BY = { email: 'somebody-else@rehearsal.invalid', name: 'Somebody Else' }

/** What belongs to an owner of work, by table: a group or a student, and a task. */
export const OF_OWNERS = [
  'mark',
  'second_reading',
  'remark',
  'feedback_file',
  'hand_in',
  'work_draft',
  'draft_file',
]

/** What belongs to a group alone, by table. */
export const OF_GROUPS = [
  'work_share',
  'marked_there',
  'there_by_hand',
  'group_message',
  'group_file',
  'talk_subject',
  'talk_notice',
  'talk_noticed',
  'meeting',
  'could_meet',
  'leave_ask',
]

/** What hangs on a row of those above, and has none of its own once that is gone: table, column, and on which. */
const HANGING = [
  ['remark_answer', 'remark_id', 'remark'],
  ['hand_in_member', 'hand_in_id', 'hand_in'],
  ['hand_in_file', 'hand_in_id', 'hand_in'],
  ['group_file_version', 'group_file_id', 'group_file'],
  ['talk_post', 'subject_id', 'talk_subject'],
  ['talk_read', 'subject_id', 'talk_subject'],
  ['talk_mention', 'post_id', 'talk_post'],
  ['talk_earlier', 'post_id', 'talk_post'],
] as const

/** Whoever plays a part, and in whose sheet's course. */
export interface Player {
  enrolment: Enrolment
  sheet: Sheet
}

/**
 * Takes out of a copy of the database what whoever plays may not read themselves: talk, messages, files, meetings, work,
 * remarks and marks of groups that a tutor does not look after, and of students who sit in none of theirs; what students
 * have written and not handed in, from everybody. Where the part that is played meets what was taken out, something
 * made up stands instead. It writes to tables of every room, which nothing else does: the copy is thrown away.
 */
export function hideFrom(
  { enrolment, sheet }: Player,
  db: Db,
  stores: Stores,
): { standIn(as: Played): void } {
  const { sheets, tasks, marks, groups, talk, roster } = stores
  const everySheet = sheets.ofCourse(sheet.course_id)
  const hidden = new Set<number>()
  const released = new Set<number>()
  db.pragma('foreign_keys = OFF')
  db.exec(`CREATE TEMP TABLE hidden_group (id INTEGER PRIMARY KEY);
    CREATE TEMP TABLE hidden_student (sheet_id INTEGER, id INTEGER, PRIMARY KEY (sheet_id, id)) WITHOUT ROWID;
    DELETE FROM work_draft; DELETE FROM draft_file; DELETE FROM upload;`)
  const hideGroup = db.prepare('INSERT INTO hidden_group VALUES (?)')
  const hideStudent = db.prepare('INSERT INTO hidden_student VALUES (?, ?)')
  const people = roster.everybody(sheet.course_id)
  for (const each of everySheet) {
    const reads = createReads(enrolment, each, stores)
    for (const { id } of sheets.everyGroup(each.id)) {
      if (reads({ group_id: id, student_id: null })) continue
      hidden.add(id)
      hideGroup.run(id)
    }
    for (const { id } of people) if (!reads({ group_id: null, student_id: id })) hideStudent.run(each.id, id)
    for (const { id } of tasks.ofSheet(each.id))
      if (marks.ofTask(id).some(({ released_at }) => released_at !== null)) released.add(id)
  }
  for (const table of OF_OWNERS)
    db.exec(`DELETE FROM ${table} WHERE group_id IN (SELECT id FROM hidden_group)
      OR (student_id IS NOT NULL AND EXISTS (SELECT 1 FROM hidden_student h JOIN task t ON t.sheet_id = h.sheet_id
        WHERE t.id = ${table}.task_id AND h.id = ${table}.student_id))`)
  for (const table of OF_GROUPS)
    db.exec(`DELETE FROM ${table} WHERE group_id IN (SELECT id FROM hidden_group)`)
  for (const [table, column, on] of HANGING)
    db.exec(`DELETE FROM ${table} WHERE ${column} NOT IN (SELECT id FROM ${on})`)
  db.exec(`UPDATE group_place SET meeting = '' WHERE group_id IN (SELECT id FROM hidden_group)`)
  db.pragma('foreign_keys = ON')

  return {
    /** Puts something made up where the part that is played would meet what was taken out. */
    standIn({ part, at }) {
      if (hidden.size === 0) return
      const other = roster.ensurePerson(MADE_UP_BY.email, at)
      const fields = { name: MADE_UP_BY.name, role: 'student', section_id: null, status: 'left' } as const
      roster.enrol(sheet.course_id, other.id, fields, at)
      const by = roster.enrolmentIn(sheet.course_id, other.id)
      if (!by) return
      for (const each of everySheet) {
        if (groups.extras(each.id).talk)
          for (const { id } of sheets.everyGroup(each.id))
            if (hidden.has(id))
              talk.open(id, { title: 'Made up', byId: by.id, text: MADE_UP_POST, shared: null }, at)
        const reads = createReads(enrolment, each, stores)
        const held = stores.seats.heldBy(each.id, part.id).map(({ group_id }) => group_id)
        for (const task of tasks.ofSheet(each.id)) {
          const owners: Owner[] =
            task.for_whom === 'students'
              ? [{ group_id: null, student_id: part.id }]
              : held.map((group_id) => ({ group_id, student_id: null }))
          const past = task.due_at !== null && task.due_at <= at
          for (const owner of owners) {
            if (reads(owner) || task.out_at === null) continue
            const version = { version: 1, by_id: by.id, text: MADE_UP_WORK, links: '[]', late: 0 as const }
            if (past && task.hands_in === 1)
              tasks.handIn(task.id, owner, { ...version, members: [part.id], files: [] }, task.due_at ?? at)
            if (!released.has(task.id)) continue
            const criteria = criteriaOf(task)
            const placements = Object.fromEntries(criteria.map(({ id, points }) => [id, half(points)]))
            const points = criteria.length === 0 ? half(mostPoints({ points: task.points, criteria })) : null
            marks.add(
              task.id,
              owner,
              null,
              { placements: JSON.stringify(placements), points, feedback: MADE_UP_FEEDBACK },
              { now: at, personId: other.id, releasedAt: at },
            )
          }
        }
      }
    },
  }
}

/** Whose part is played, and at which hour. */
export interface Played {
  part: Enrolment
  at: Instant
}

const MADE_UP_POST = 'What members write stands here. This post is made up: you do not look after this group.'
const MADE_UP_WORK = 'What was handed in stands here. This text is made up: you do not read this work.'
const MADE_UP_FEEDBACK = 'Feedback stands here. It is made up, and so is the mark: you do not read this work.'

/** Half of the most points, whole. */
const half = (most: number) => Math.ceil(most / 2)
