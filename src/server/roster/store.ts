import type { Instant } from '../../core/instant.ts'
import { listedName, type NameOrder, nameOrder } from '../../core/names.ts'
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
  /** How they are called everywhere. */
  name: string
  /** The roster's name for them, which is the same unless they are called otherwise. */
  listed: string
  /** The two parts of the roster's name; empty where its words tell them. */
  given: string
  family: string
  /** What they are called, where that is not the roster's name; else empty. */
  called: string
  /** What the school counts them by, or empty. Staff see it, students never. */
  number: string
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
export type EnrolmentFields = Pick<
  Enrolment,
  'listed' | 'given' | 'family' | 'called' | 'number' | 'role' | 'section_id' | 'status'
>

/** Somebody new on a roster: the rest of the name is empty where it is not said. */
export type NewEnrolment = Pick<Enrolment, 'name' | 'role' | 'section_id' | 'status'> &
  Partial<Pick<Enrolment, 'given' | 'family' | 'called' | 'number'>>

/** A course, as far as its class list is concerned. */
export interface Listed {
  id: number
  name_language: string
  name_particles: NameOrder['particles']
}

export type RosterStore = ReturnType<typeof createRosterStore>

const ENROLMENT = `SELECT e.id, e.code, e.course_id, e.person_id, p.email,
  CASE e.called WHEN '' THEN e.name ELSE e.called END AS name, e.name AS listed, e.given, e.family, e.called, e.number, e.role, e.section_id, e.status, e.here_since,
  e.attributes
  FROM enrolment e JOIN person p ON p.id = e.person_id`

/** People, sections and enrolments. */
export function createRosterStore(database: Db) {
  const { db, keep } = createKeeper(database)
  const personByEmail = db.prepare<[string], Person>('SELECT id, email FROM person WHERE email = ?')
  const personById = db.prepare<[number], Person>('SELECT id, email FROM person WHERE id = ?')
  const addPerson = db.prepare<[string, Instant]>('INSERT INTO person (email, created_at) VALUES (?, ?)')
  const sectionsOf = db.prepare<[number], Section>(
    'SELECT id, code, name FROM section WHERE course_id = ? AND removed_at IS NULL ORDER BY position',
  )
  const everySection = db.prepare<[number], Section & { removed_at: Instant | null; removal: string | null }>(
    `SELECT id, code, ifnull(removed_name, name) AS name, removed_at, removal FROM section
     WHERE course_id = ? ORDER BY position`,
  )
  const removeSection = db.prepare<[Instant, string, number]>(
    `UPDATE section SET removed_at = ?, removal = ?, removed_name = name, name = 'removed ' || code WHERE id = ?`,
  )
  const restoreSection = db.prepare<[number]>(
    `UPDATE section SET name = removed_name, removed_at = NULL, removed_name = NULL, removal = NULL
     WHERE id = ? AND removed_at IS NOT NULL`,
  )
  const putInSection = db.prepare<[number | null, number]>('UPDATE enrolment SET section_id = ? WHERE id = ?')
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
    [Required<NewEnrolment> & { code: string; courseId: number; personId: number; now: Instant }]
  >(
    `INSERT INTO enrolment (code, course_id, person_id, name, given, family, called, number, role, section_id, status,
       created_at, here_since)
     VALUES (@code, @courseId, @personId, @name, @given, @family, @called, @number, @role, @section_id, @status, @now,
       @now)`,
  )
  const changeEnrolment = db.prepare<[EnrolmentFields & { id: number; here_since: Instant }]>(
    `UPDATE enrolment SET name = @listed, given = @given, family = @family, called = @called, number = @number,
       role = @role, section_id = @section_id, status = @status, here_since = @here_since
     WHERE id = @id`,
  )

  const setEmail = db.prepare<[string, number]>('UPDATE person SET email = ? WHERE id = ?')
  const setAttributes = db.prepare<[string, number]>('UPDATE enrolment SET attributes = ? WHERE id = ?')
  const changeOwner = db.prepare<[number, number]>('UPDATE enrolment SET person_id = ? WHERE id = ?')
  const undo = db.prepare<
    [number],
    { at: Instant; what: string; before: string; step: string; by_id: number | null }
  >('SELECT at, what, before, step, by_id FROM roster_undo WHERE course_id = ?')
  const keepUndo = db.prepare<[number, Instant, string, string, string, number]>(
    `INSERT INTO roster_undo (course_id, at, what, before, step, by_id) VALUES (?, ?, ?, ?, ?, ?)
     ON CONFLICT (course_id) DO UPDATE SET at = excluded.at, what = excluded.what, before = excluded.before,
       step = excluded.step, by_id = excluded.by_id`,
  )
  const dropUndo = db.prepare<[number]>('DELETE FROM roster_undo WHERE course_id = ?')
  const dropUndos = db.prepare<[Instant]>('DELETE FROM roster_undo WHERE at < ?')

  /** Where each stands in the class list: rank by id, for a course with its language and what counts of particles. */
  const ranks = keep((key: string): ReadonlyMap<number, number> => {
    const [courseId = '', language = '', particles] = key.split(' ')
    const order = { language, particles: particles as NameOrder['particles'] }
    const inOrder = enrolmentsOfCourse.all(Number(courseId)).toSorted(nameOrder(order, listedName))
    return new Map(inOrder.map(({ id }, rank) => [id, rank]))
  })

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
    /** Every section the course ever had, with what its removal changed. */
    everySection: keep((courseId: number) => everySection.all(courseId)),
    /** What sections are called, those that were removed included: id to name. */
    sectionNames: keep(
      (courseId: number): ReadonlyMap<number, string> =>
        new Map(everySection.all(courseId).map(({ id, name }) => [id, name])),
    ),
    /** Takes a section away. `removal` says, as JSON, what has to be put back with it. */
    removeSection: (id: number, at: Instant, removal: string) => removeSection.run(at, removal, id),
    restoreSection: (id: number) => restoreSection.run(id),
    putInSection: (enrolmentId: number, sectionId: number | null) => putInSection.run(sectionId, enrolmentId),
    addSection: (courseId: number, name: string, position: number) =>
      addSection.run(newCode(), courseId, name, position),
    renameSection: (id: number, name: string) => renameSection.run(name, id),
    enrolment: keep((id: number) => enrolmentById.get(id)),
    enrolmentIn: (courseId: number, personId: number) => inCourse(`${courseId} ${personId}`),
    enrolmentsOfPerson: (personId: number) => enrolmentsOfPerson.all(personId),
    /** Everybody on the roster, in the order they were added. */
    everybody: (courseId: number) => enrolmentsOfCourse.all(courseId),
    /** People of a course in the order of its class list. */
    classList<Somebody extends { id: number }>(course: Listed, people: readonly Somebody[]): Somebody[] {
      const rank = ranks(`${course.id} ${course.name_language} ${course.name_particles}`)
      return people.toSorted((a, b) => (rank.get(a.id) ?? 0) - (rank.get(b.id) ?? 0))
    },
    /** Those who count: active students. */
    students: (courseId: number) =>
      enrolmentsOfCourse
        .all(courseId)
        .filter(({ role, status }) => role === 'student' && status === 'active'),
    /** What to call a person outside any one course: the name on their newest enrolment, or the address. */
    nameOf(person: Person): string {
      return enrolmentsOfPerson.all(person.id).at(-1)?.name ?? person.email
    },
    enrol(courseId: number, personId: number, fields: NewEnrolment, now: Instant): void {
      const parts = { given: '', family: '', called: '', number: '' }
      addEnrolment.run({ ...parts, ...fields, code: newCode(), courseId, personId, now })
    },
    /** Keeps what is said of somebody besides, by name. */
    setAttributes: (id: number, attributes: string) => setAttributes.run(attributes, id),
    /**
     * Makes an enrolment somebody's who has nothing besides: no place in another course, no sign-ins, no secret
     * addresses. For a copy in which their part is played: whoever plays it sees nothing else of theirs.
     */
    putAlone({ id, email, person_id }: Pick<Enrolment, 'id' | 'email' | 'person_id'>, now: Instant): Person {
      setEmail.run('besides@rehearsal.invalid', person_id)
      const person = { id: Number(addPerson.run(email, now).lastInsertRowid), email }
      changeOwner.run(person.id, id)
      return person
    },
    /** Puts an enrolment under another person, when an address is corrected. */
    changeOwner: (id: number, personId: number) => changeOwner.run(personId, id),
    /** How the roster was before its last change, as JSON, with when that was, what, by whom, and what names it. */
    undo: (courseId: number) => undo.get(courseId),
    keepUndo: (courseId: number, at: Instant, byId: number, what: string, before: string) =>
      keepUndo.run(courseId, at, what, before, newCode(), byId),
    dropUndo: (courseId: number) => dropUndo.run(courseId),
    dropUndosBefore: (instant: Instant) => dropUndos.run(instant),
    /** Changes an enrolment. Whoever takes part again does so since now. */
    changeEnrolment(
      { id, status: before, here_since }: Pick<Enrolment, 'id' | 'status' | 'here_since'>,
      fields: EnrolmentFields,
      now: Instant,
    ): void {
      const since = before !== 'active' && fields.status === 'active' ? now : here_since
      changeEnrolment.run({ ...fields, here_since: since, id })
    },
    /** Puts an enrolment back as it was. */
    restoreEnrolment: (id: number, fields: EnrolmentFields & { here_since: Instant }) =>
      changeEnrolment.run({ ...fields, id }),
  }
}
