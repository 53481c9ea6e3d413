import type { Instant } from '../../core/instant.ts'
import { newCode } from '../codes.ts'
import type { Db } from '../db/open.ts'

export interface ProgramTokenRow {
  id: number
  code: string
  course_id: number
  person_id: number
  name: string
  may_write: 0 | 1
  made_at: Instant
  used_at: Instant | null
  ended_at: Instant | null
}

export type ProgramStore = ReturnType<typeof createProgramStore>

const COLUMNS = 'id, code, course_id, person_id, name, may_write, made_at, used_at, ended_at'

/** Tokens of programs, by their hashes. */
export function createProgramStore(db: Db) {
  const standing = db.prepare<[number], ProgramTokenRow>(
    `SELECT ${COLUMNS} FROM program_token WHERE course_id = ? AND ended_at IS NULL ORDER BY id`,
  )
  const byHash = db.prepare<[string], ProgramTokenRow>(
    `SELECT ${COLUMNS} FROM program_token WHERE token_hash = ? AND ended_at IS NULL`,
  )
  const add = db.prepare<[string, number, number, string, string, 0 | 1, Instant]>(
    `INSERT INTO program_token (code, course_id, person_id, name, token_hash, may_write, made_at)
     VALUES (?, ?, ?, ?, ?, ?, ?)`,
  )
  const used = db.prepare<[Instant, number]>('UPDATE program_token SET used_at = ? WHERE id = ?')
  const end = db.prepare<[Instant, number, string]>(
    'UPDATE program_token SET ended_at = ? WHERE course_id = ? AND code = ? AND ended_at IS NULL',
  )
  return {
    ofCourse: (courseId: number) => standing.all(courseId),
    byHash: (hash: string) => byHash.get(hash),
    add: (
      token: { courseId: number; personId: number; name: string; hash: string; mayWrite: boolean },
      now: Instant,
    ) =>
      add.run(newCode(), token.courseId, token.personId, token.name, token.hash, token.mayWrite ? 1 : 0, now),
    used: (id: number, now: Instant) => used.run(now, id),
    /** Ends every token of a course whose maker is none of these people. */
    endAllBut(courseId: number, makers: ReadonlySet<number>, now: Instant): void {
      for (const { code, person_id } of standing.all(courseId))
        if (!makers.has(person_id)) end.run(now, courseId, code)
    },
    /** Ends a token of a course; false where none of that code stands. */
    end: (courseId: number, code: string, now: Instant): boolean => end.run(now, courseId, code).changes > 0,
  }
}
