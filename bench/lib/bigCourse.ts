import { createHash, randomBytes } from 'node:crypto'
import { DAY, type Instant, instantFromMs } from '../../src/core/instant.ts'
import { openDb } from '../../src/server/db/open.ts'
import type { Sheet } from '../../src/server/sheets/store.ts'
import { createStores, type Stores } from '../../src/server/stores.ts'

/** A student as the load knows one: a cookie to call with, and the enrolment to look up afterwards. */
export interface BenchStudent {
  cookie: string
  enrolment: number
}

export interface BenchSheet {
  id: number
  code: string
  groups: string[]
}

export interface BigCourse {
  students: BenchStudent[]
  sheets: BenchSheet[]
}

export interface BigCoursePlan {
  students: number
  /** One sheet for each entry; in `filled` ones every student sits already. */
  sheets: { groups: number; seats: number; filled?: boolean }[]
}

/** Fills a new database with one large course whose sheets are open, and signs every student in. */
export function fillBigCourse(file: string, plan: BigCoursePlan): BigCourse & { courseId: number } {
  const db = openDb(file)
  const stores = createStores(db)
  const filled = db.transaction(() => fillCourse(stores, 'BENCH 1', plan))()
  db.close()
  return filled
}

/** Somebody who teaches in such courses. */
export interface Owner {
  id: number
  cookie: string
  /** Makes them instructor of a course. */
  instructs(courseId: number): void
}

/** Adds an instructor, signed in, to a database that is open. */
export function addOwner(stores: Stores): Owner {
  const now = instantFromMs(Date.now())
  const person = stores.roster.ensurePerson('owner@bench.example', now)
  const token = randomBytes(32).toString('base64url')
  stores.access.addSession(createHash('sha256').update(token).digest('hex'), person.id, now)
  const fields = { name: 'Owner', role: 'instructor', section_id: null, status: 'active' } as const
  return {
    id: person.id,
    cookie: `__Host-haplon_session=${token}`,
    instructs: (courseId) => void stores.roster.enrol(courseId, person.id, fields, now),
  }
}

/** Fills a new database with a course of 600 whose sheet has 160 groups, with its instructor. */
export function fillTaughtCourse(
  file: string,
): BigCourse & { cookie: string; course: string; sheet: string; group: string; topic: string } {
  const db = openDb(file)
  const stores = createStores(db)
  const owner = addOwner(stores)
  const filled = db.transaction(() => {
    const course = fillCourse(stores, 'BENCH 1', { students: 600, sheets: [{ groups: 160, seats: 4 }] })
    owner.instructs(course.courseId)
    return course
  })()
  const [sheet] = filled.sheets
  const known = stores.sheets.byCode(sheet?.code ?? '')
  const named = {
    course: stores.courses.byId(filled.courseId)?.code ?? '',
    sheet: sheet?.code ?? '',
    group: sheet?.groups[0] ?? '',
    topic: (known && stores.sheets.topics(known.id)[0]?.code) ?? '',
  }
  db.close()
  return { ...filled, ...named, cookie: owner.cookie }
}

/** Adds such a course to a database that is open. Courses of one database share their students. */
export function fillCourse(
  stores: Stores,
  courseCode: string,
  plan: BigCoursePlan,
): BigCourse & { courseId: number } {
  const now = instantFromMs(Date.now())
  const course = stores.courses.add({ courseCode, title: 'A large course', zone: 'UTC' }, now)
  const students = Array.from({ length: plan.students }, (_, n) => addStudent(stores, course.id, n, now))
  const sheets = plan.sheets.map((wanted, n) => {
    const sheet = addSheet(stores, course.id, `Sheet ${n + 1}`, wanted, now)
    if (wanted.filled) seatAll(stores, sheet.id, students, now)
    return sheet
  })
  return { courseId: course.id, students, sheets }
}

function addStudent(stores: Stores, courseId: number, n: number, now: Instant): BenchStudent {
  const person = stores.roster.ensurePerson(`student${n}@bench.example`, now)
  const fields = { name: `Student ${n}`, role: 'student', section_id: null, status: 'active' } as const
  stores.roster.enrol(courseId, person.id, fields, now)
  const token = randomBytes(32).toString('base64url')
  stores.access.addSession(createHash('sha256').update(token).digest('hex'), person.id, now)
  const enrolment = stores.roster.enrolmentIn(courseId, person.id)
  if (!enrolment) throw new Error('the student was not enrolled')
  return { cookie: `__Host-haplon_session=${token}`, enrolment: enrolment.id }
}

function seatAll(stores: Stores, sheetId: number, students: readonly BenchStudent[], now: Instant): void {
  const groups = stores.sheets.groups(sheetId)
  students.forEach(({ enrolment }, n) => {
    const group = groups[n % groups.length]
    if (!group) return
    stores.seats.seat(sheetId, group.id, enrolment, false, now)
    stores.ledger.note({
      sheetId,
      at: now,
      actorId: null,
      kind: 'seat-taken',
      enrolmentId: enrolment,
      toGroupId: group.id,
    })
  })
}

function addSheet(
  stores: Stores,
  courseId: number,
  title: string,
  { groups, seats }: { groups: number; seats: number },
  now: Instant,
): BenchSheet {
  const sheet = stores.sheets.add(courseId, { title, contact: '', seats, floor: 1 }, now)
  const opened: Sheet = {
    ...sheet,
    opens_at: instantFromMs(Date.now() - DAY),
    closes_at: instantFromMs(Date.now() + DAY),
  }
  stores.sheets.change(sheet.id, opened)
  stores.sheets.publish(sheet.id, now)
  const topic = { brief: 'Four weeks, one culture.', place: '', link: '', starts_at: null, ends_at: null }
  for (let i = 0; i < groups; i++) {
    stores.sheets.addTopic(
      sheet.id,
      { ...topic, title: `Topic ${i + 1}`, seats: null, floor: null, mixed: null },
      [null],
      now,
    )
  }
  return { id: sheet.id, code: sheet.code, groups: stores.sheets.groups(sheet.id).map(({ code }) => code) }
}
