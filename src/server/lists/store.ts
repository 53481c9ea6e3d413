import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import { createKeeper } from '../db/kept.ts'
import type { Db } from '../db/open.ts'

/** People of a course under a title. The note is for staff. */
export interface PeopleList {
  id: number
  code: string
  course_id: number
  title: string
  note: string
  made_at: Instant
  removed_at: Instant | null
}

export type ListStore = ReturnType<typeof createListStore>

const LIST = 'SELECT id, code, course_id, title, note, made_at, removed_at FROM people_list'

/** Lists of people. */
export function createListStore(database: Db) {
  const { db, keep } = createKeeper(database)
  const ofCourse = db.prepare<[number], PeopleList>(
    `${LIST} WHERE course_id = ? AND removed_at IS NULL ORDER BY id`,
  )
  const byCode = db.prepare<[number, string], PeopleList>(`${LIST} WHERE course_id = ? AND code = ?`)
  const byId = db.prepare<[number], PeopleList>(`${LIST} WHERE id = ?`)
  const add = db.prepare<[string, number, string, string, Instant]>(
    'INSERT INTO people_list (code, course_id, title, note, made_at) VALUES (?, ?, ?, ?, ?)',
  )
  const change = db.prepare<[string, string, number]>(
    'UPDATE people_list SET title = ?, note = ? WHERE id = ?',
  )
  const setRemoved = db.prepare<[Instant | null, number]>(
    'UPDATE people_list SET removed_at = ? WHERE id = ?',
  )
  const membersOf = db
    .prepare<[number], number>('SELECT enrolment_id FROM people_list_member WHERE list_id = ?')
    .pluck()
  const dropMembers = db.prepare<[number]>('DELETE FROM people_list_member WHERE list_id = ?')
  const addMember = db.prepare<[number, number]>(
    'INSERT OR IGNORE INTO people_list_member (list_id, enrolment_id) VALUES (?, ?)',
  )
  return {
    /** The lists of a course, oldest first, removed ones left out. */
    ofCourse: (courseId: number) => ofCourse.all(courseId),
    /** A list of the course by its code, removed or not. */
    byCode: (courseId: number, code: string) => byCode.get(courseId, code),
    byId: (id: number) => byId.get(id),
    /** Who is on a list, by their enrolments, whatever became of them since. */
    members: keep((id: number): ReadonlySet<number> => new Set(membersOf.all(id))),
    add(courseId: number, title: string, note: string, now: Instant): PeopleList {
      const { lastInsertRowid } = add.run(newCode(), courseId, title, note, now)
      return byId.get(Number(lastInsertRowid)) as PeopleList
    },
    change: (id: number, title: string, note: string) => change.run(title, note, id),
    setMembers(id: number, enrolments: readonly number[]): void {
      dropMembers.run(id)
      for (const enrolment of enrolments) addMember.run(id, enrolment)
    },
    /** Takes a list away, or brings it back with null. */
    setRemoved: (id: number, at: Instant | null) => setRemoved.run(at, id),
  }
}
