import type { Instant } from '../../core/instant.ts'
import type { EnrolmentStatus, Role } from '../../core/roster.ts'
import { newCode } from '../codes.ts'
import { createKeeper } from '../db/kept.ts'
import type { Db } from '../db/open.ts'

export interface Person {
  id: number
  email: string
}

export interface Section {
  id: number
  code: string
  name: string
}

export interface Enrolment {
  id: number
  code: string
  course_id: number
  person_id: number
  email: string
  name: string
  role: Role
  section_id: number | null
  status: EnrolmentStatus
  /** Since when they take part: since they were added, or came back. */
  here_since: Instant
  /** What a roster file says of them besides, as JSON. */
  attributes: string
}

/** What is read of group mates. */
export type Named = Pick<Enrolment, 'id' | 'name' | 'status' | 'email'>

/** What an enrolment is to be; the rest of it follows from the person and the course. */
export type EnrolmentFields = Pick<Enrolment, 'name' | 'role' | 'section_id' | 'status'>

export type RosterStore = ReturnType<typeof createRosterStore>

const ENROLMENT = `SELECT e.id, e.code, e.course_id, e.person_id, p.email, e.name, e.role, e.section_id, e.status, e.here_since,
  e.attributes
  FROM enrolment e JOIN person p ON p.id = e.person_id`

/** People, sections and enrolments. */
export function createRosterStore(database: Db) {
  const { db, keep } = createKeeper(database)
  const personByEmail = db.prepare<[string], Person>('SELECT id, email FROM person WHERE email = ?')
  const personById = db.prepare<[number], Person>('SELECT id, email FROM person WHERE id = ?')
  const addPerson = db.prepare<[string, Instant]>('INSERT INTO person (email, created_at) VALUES (?, ?)')
  const sectionsOf = db.prepare<[number], Section>(
    'SELECT id, code, name FROM section WHERE course_id = ? ORDER BY position',
  )
  const addSection = db.prepare<[string, number, string, number]>(
    'INSERT INTO section (code, course_id, name, position) VALUES (?, ?, ?, ?)',
  )
  const renameSection = db.prepare<[string, number]>('UPDATE section SET name = ? WHERE id = ?')
  const enrolmentById = db.prepare<[number], Enrolment>(`${ENROLMENT} WHERE e.id = ?`)
  const enrolmentIn = db.prepare<[number, number], Enrolment>(
    `${ENROLMENT} WHERE e.course_id = ? AND e.person_id = ?`,
  )
  const enrolmentsOfPerson = db.prepare<[number], Enrolment>(
    `${ENROLMENT} WHERE e.person_id = ? ORDER BY e.id`,
  )
  const enrolmentsOfCourse = db.prepare<[number], Enrolment>(
    `${ENROLMENT} WHERE e.course_id = ? ORDER BY e.id`,
  )
  const addEnrolment = db.prepare<
    [string, number, number, string, Role, number | null, EnrolmentStatus, Instant, Instant]
  >(
    `INSERT INTO enrolment (code, course_id, person_id, name, role, section_id, status, created_at, here_since)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  )
  const changeEnrolment = db.prepare<[string, Role, number | null, EnrolmentStatus, Instant, number]>(
    'UPDATE enrolment SET name = ?, role = ?, section_id = ?, status = ?, here_since = ? WHERE id = ?',
  )

  const setAttributes = db.prepare<[string, number]>('UPDATE enrolment SET attributes = ? WHERE id = ?')
  const changeOwner = db.prepare<[number, number]>('UPDATE enrolment SET person_id = ? WHERE id = ?')
  const undo = db.prepare<[number], { at: Instant; what: string; before: string }>(
    'SELECT at, what, before FROM roster_undo WHERE course_id = ?',
  )
  const keepUndo = db.prepare<[number, Instant, string, string]>(
    `INSERT INTO roster_undo (course_id, at, what, before) VALUES (?, ?, ?, ?)
     ON CONFLICT (course_id) DO UPDATE SET at = excluded.at, what = excluded.what, before = excluded.before`,
  )
  const dropUndo = db.prepare<[number]>('DELETE FROM roster_undo WHERE course_id = ?')
  const dropUndos = db.prepare<[Instant]>('DELETE FROM roster_undo WHERE at < ?')

  const inCourse = keep((pair: string) => {
    const [courseId = 0, personId = 0] = pair.split(' ').map(Number)
    return enrolmentIn.get(courseId, personId)
  })

  return {
    personByEmail: (email: string) => personByEmail.get(email),
    personById: keep((id: number) => personById.get(id)),
    /** The person with this address, made if there is none. */
    ensurePerson(email: string, now: Instant): Person {
      return personByEmail.get(email) ?? { id: Number(addPerson.run(email, now).lastInsertRowid), email }
    },
    sections: keep((courseId: number) => sectionsOf.all(courseId)),
    addSection: (courseId: number, name: string, position: number) =>
      addSection.run(newCode(), courseId, name, position),
    renameSection: (id: number, name: string) => renameSection.run(name, id),
    enrolment: keep((id: number) => enrolmentById.get(id)),
    enrolmentIn: (courseId: number, personId: number) => inCourse(`${courseId} ${personId}`),
    enrolmentsOfPerson: (personId: number) => enrolmentsOfPerson.all(personId),
    /** Everybody on the roster, in the order they were added. */
    everybody: (courseId: number) => enrolmentsOfCourse.all(courseId),
    /** Those who count: active students. */
    students: (courseId: number) =>
      enrolmentsOfCourse
        .all(courseId)
        .filter(({ role, status }) => role === 'student' && status === 'active'),
    /** What to call a person outside any one course: the name on their newest enrolment, or the address. */
    nameOf(person: Person): string {
      return enrolmentsOfPerson.all(person.id).at(-1)?.name ?? person.email
    },
    enrol(courseId: number, personId: number, fields: EnrolmentFields, now: Instant): void {
      const { name, role, section_id, status } = fields
      addEnrolment.run(newCode(), courseId, personId, name, role, section_id, status, now, now)
    },
    /** Keeps what is said of somebody besides, by name. */
    setAttributes: (id: number, attributes: string) => setAttributes.run(attributes, id),
    /** Puts an enrolment under another person, when an address is corrected. */
    changeOwner: (id: number, personId: number) => changeOwner.run(personId, id),
    /** How the roster was before its last change, as JSON, with when that was and what. */
    undo: (courseId: number) => undo.get(courseId),
    keepUndo: (courseId: number, at: Instant, what: string, before: string) =>
      keepUndo.run(courseId, at, what, before),
    dropUndo: (courseId: number) => dropUndo.run(courseId),
    dropUndosBefore: (instant: Instant) => dropUndos.run(instant),
    /** Changes an enrolment. Whoever takes part again does so since now. */
    changeEnrolment(
      { id, status: before, here_since }: Pick<Enrolment, 'id' | 'status' | 'here_since'>,
      { name, role, section_id, status }: EnrolmentFields,
      now: Instant,
    ): void {
      const since = before !== 'active' && status === 'active' ? now : here_since
      changeEnrolment.run(name, role, section_id, status, since, id)
    },
    /** Puts an enrolment back as it was. */
    restoreEnrolment: (
      id: number,
      { name, role, section_id, status, here_since }: EnrolmentFields & { here_since: Instant },
    ) => changeEnrolment.run(name, role, section_id, status, here_since, id),
  }
}
