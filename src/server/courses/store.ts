import type { TutorsMay } from '../../contract/courses.ts'
import type { Instant } from '../../core/instant.ts'
import { DEFAULT_ORDER, type NameOrder, type Particles } from '../../core/names.ts'
import { newCode } from '../codes.ts'
import { createKeeper } from '../db/kept.ts'
import type { Db } from '../db/open.ts'

export interface Course {
  id: number
  code: string
  course_code: string
  title: string
  zone: string
  /** What tutors may do besides seeing: nothing, or seat people in the groups they look after. */
  tutors_may: TutorsMay
  /** Whether tutors mark the groups they look after. */
  tutors_mark: 0 | 1
  name_language: string
  name_particles: Particles
  archived_at: Instant | null
  deleted_at: Instant | null
}

const COURSE = `SELECT id, code, course_code, title, zone, tutors_may, tutors_mark, name_language, name_particles,
  archived_at, deleted_at FROM course`

export type CourseStore = ReturnType<typeof createCourseStore>

/** Courses: code, title, time zone. */
export function createCourseStore(database: Db) {
  const { db, keep } = createKeeper(database)
  const byId = db.prepare<[number], Course>(`${COURSE} WHERE id = ? AND deleted_at IS NULL`)
  const byCode = db.prepare<[string], Course>(`${COURSE} WHERE code = ? AND deleted_at IS NULL`)
  const deleted = db.prepare<[string], Course>(`${COURSE} WHERE code = ? AND deleted_at IS NOT NULL`)
  const all = db.prepare<[], Course>(`${COURSE} ORDER BY id`)
  const add = db.prepare<[string, string, string, string, Instant]>(
    'INSERT INTO course (code, course_code, title, zone, created_at) VALUES (?, ?, ?, ?, ?)',
  )
  const letTutors = db.prepare<[TutorsMay, 0 | 1, number]>(
    'UPDATE course SET tutors_may = ?, tutors_mark = ? WHERE id = ?',
  )
  const orderNames = db.prepare<[string, Particles, number]>(
    'UPDATE course SET name_language = ?, name_particles = ? WHERE id = ?',
  )
  const name = db.prepare<[string, string, number]>(
    'UPDATE course SET course_code = ?, title = ? WHERE id = ?',
  )
  const setZone = db.prepare<[string, number]>('UPDATE course SET zone = ? WHERE id = ?')
  const archive = db.prepare<[Instant | null, number]>('UPDATE course SET archived_at = ? WHERE id = ?')
  const setDeleted = db.prepare<[Instant | null, number]>('UPDATE course SET deleted_at = ? WHERE id = ?')
  return {
    /** A course; a deleted one is none. */
    byId: keep((id: number) => byId.get(id)),
    byCode: (code: string) => byCode.get(code),
    /** A deleted course, to be brought back. */
    deleted: (code: string) => deleted.get(code),
    /** Every course there ever was. */
    all: () => all.all(),
    name: (id: number, courseCode: string, title: string) => name.run(courseCode, title, id),
    setZone: (id: number, zone: string) => setZone.run(zone, id),
    archive: (id: number, at: Instant | null) => archive.run(at, id),
    setDeleted: (id: number, at: Instant | null) => setDeleted.run(at, id),
    /** Says what tutors of a course may do. */
    letTutors: (id: number, may: TutorsMay, mark: boolean) => letTutors.run(may, mark ? 1 : 0, id),
    /** Says how names of a course are put in order. */
    orderNames: (id: number, { language, particles }: NameOrder) => orderNames.run(language, particles, id),
    add(fields: { courseCode: string; title: string; zone: string }, now: Instant): Course {
      const code = newCode()
      const id = Number(add.run(code, fields.courseCode, fields.title, fields.zone, now).lastInsertRowid)
      return {
        id,
        code,
        course_code: fields.courseCode,
        title: fields.title,
        zone: fields.zone,
        tutors_may: 'see',
        tutors_mark: 0,
        name_language: DEFAULT_ORDER.language,
        name_particles: DEFAULT_ORDER.particles,
        archived_at: null,
        deleted_at: null,
      }
    },
  }
}
