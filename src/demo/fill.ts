import Papa from 'papaparse'
import { DAY, HOUR, type Instant, MINUTE, msOf, shift } from '../core/instant.ts'
import { drawLots, type Lot } from '../core/lot.ts'
import type { HouseRules } from '../core/rules.ts'
import { localTimeOf } from '../core/zone.ts'
import type { Course } from '../server/courses/store.ts'
import type { Db } from '../server/db/open.ts'
import type { Disk } from '../server/files/disk.ts'
import { importRoster } from '../server/roster/import.ts'
import type { Enrolment, Person } from '../server/roster/store.ts'
import type { Claims } from '../server/seats/claims.ts'
import type { Edit } from '../server/sheets/edit.ts'
import { changeSheet, publish } from '../server/sheets/sheetEdits.ts'
import type { Sheet } from '../server/sheets/store.ts'
import { addTopics } from '../server/sheets/topicEdits.ts'
import type { Stores } from '../server/stores.ts'
import { drawPeople, type MadeUp } from './names.ts'
import { setToWork } from './pastTerm.ts'
import {
  AROMA,
  BENCH_INSTRUCTIONS,
  BENCHES,
  FIELD,
  PANELS,
  SAFETY,
  type SampleTopic,
  TASTING,
} from './plot.ts'
import { setWork } from './work.ts'

export const ZONE = 'Europe/Copenhagen'
const DOMAIN = 'brinemoor.example'

/** A clock that the sample data moves through the past days. */
export interface MovableClock {
  set(instant: Instant): void
}

export interface FillParts {
  db: Db
  stores: Stores
  claims: Claims
  disk: Disk
  clock: MovableClock
  /** The instant that the data is dated against. */
  now: Instant
  lotNumber: number
}

/** People of the sample whom the demo's door puts first. */
export const STAFF = {
  renske: { name: 'Renske Okonjo', email: `renske.okonjo@${DOMAIN}` },
  matteo: { name: 'Matteo Lindgren', email: `matteo.lindgren@${DOMAIN}` },
  ifeoma: { name: 'Ifeoma Castellanos', email: `ifeoma.castellanos@${DOMAIN}` },
  jonas: { name: 'Jonas Wehrli', email: `jonas.wehrli@${DOMAIN}` },
  yuki: { name: 'Yuki Tanabe-Holm', email: `yuki.tanabe-holm@${DOMAIN}` },
}

/** Fills an empty database with two courses, and one of last term. The same lot number and instant give the same data. */
export async function fillSample(parts: FillParts): Promise<void> {
  const lot = drawLots(parts.lotNumber)
  const people = drawPeople(118 + 22, lot, DOMAIN)
  const students = people.slice(0, 118)
  parts.clock.set(shift(parts.now, -60 * DAY))
  const ferm = addCourse(
    parts,
    'FERM 210',
    'Fermentation Science',
    ['Tue lab', 'Wed lab', 'Thu lab'],
    STAFF.renske,
  )
  bringIn(parts, ferm, [
    ...[STAFF.renske, STAFF.matteo].map((person) => ({ ...person, section: '', role: 'instructor' })),
    ...[STAFF.ifeoma, STAFF.jonas, STAFF.yuki].map((person) => ({ ...person, section: '', role: 'tutor' })),
    ...students.map((person, i) => ({ ...person, section: sectionOf(i), role: 'student' })),
  ])
  const sens = addCourse(parts, 'SENS 105', 'Sensory Methods', [], STAFF.jonas)
  const both = [3, 17, 29, 44, 51, 63, 70, 82, 88, 97, 103, 114].map((i) => students[i] as MadeUp)
  bringIn(parts, sens, [
    { ...STAFF.jonas, section: '', role: 'instructor' },
    ...[...both, ...people.slice(118)].map((person) => ({ ...person, section: '', role: 'student' })),
  ])

  const safety = addSheet(parts, ferm, STAFF.renske, 'Safety walk teams', SAFETY, {
    seats: 4,
    opens: -44,
    closes: -37,
  })
  await seatAll(parts, safety, SAFETY, lot, 1, 2)
  parts.db.transaction(() => setWork(parts.stores, safety, STAFF.renske.email, parts.now, drawLots(7)))()
  const benches = addSheet(parts, ferm, STAFF.renske, 'Culture benches', BENCHES, {
    seats: 4,
    floor: 3,
    opens: -5,
    closes: 2,
    instructions: BENCH_INSTRUCTIONS,
  })
  await seatAll(parts, benches, BENCHES, lot, 0.8)
  keepSome(parts, benches)
  addSheet(parts, ferm, STAFF.renske, 'Tasting panel slots', TASTING, { seats: 4, opens: 6, closes: 13 })
  addSheet(parts, ferm, STAFF.matteo, 'Field mornings', FIELD, { seats: 12, floor: 6 })
  const panels = addSheet(parts, sens, STAFF.jonas, 'Triangle test panels', PANELS, {
    seats: 5,
    floor: 3,
    opens: -1,
    closes: 4,
    rules: { fullGroups: 'line', invitations: 'convener' },
  })
  await seatAll(parts, panels, PANELS, lot, 0.6)
  await waitAndInvite(parts, panels)
  addSheet(parts, sens, STAFF.jonas, 'Aroma wheel studies', AROMA, { seats: 4 })
  await fillPastTerm(parts, new Set(people.map(({ email }) => email)))
}

/** A course of last term whose groups are at work. It is drawn by a lot of its own, so that it changes nothing else. */
async function fillPastTerm(parts: FillParts, known: ReadonlySet<string>): Promise<void> {
  const { stores, disk, now } = parts
  const lot = drawLots(parts.lotNumber + 1)
  const students = drawPeople(60, lot, DOMAIN)
    .filter(({ email }) => !known.has(email))
    .slice(0, 38)
  const course = addCourse(
    parts,
    'FERM 210-T',
    'Fermentation Science, last term',
    ['Mon lab', 'Fri lab'],
    STAFF.matteo,
  )
  bringIn(parts, course, [
    { ...STAFF.matteo, section: '', role: 'instructor' },
    ...[STAFF.ifeoma, STAFF.yuki].map((person) => ({ ...person, section: '', role: 'tutor' })),
    ...students.map((person, i) => ({ ...person, section: i < 20 ? 'Mon lab' : 'Fri lab', role: 'student' })),
  ])
  const topics = BENCHES.slice(0, 7)
  const sheet = addSheet(parts, course, STAFF.matteo, 'Culture benches', topics, {
    seats: 3,
    floor: 2,
    opens: -45,
    closes: -38,
    instructions: BENCH_INSTRUCTIONS,
  })
  // Two look, and take nothing.
  await seatAll(parts, sheet, topics, lot, 1, 2)
  const everybody = stores.roster.everybody(course.id)
  const owner = everybody.find(({ role }) => role === 'instructor') as Enrolment
  const tutors = everybody.filter(({ role }) => role === 'tutor')
  stores.courses.letTutors(course.id, 'seat', true)
  await setToWork({ stores, disk, sheet, owner, tutors, now, lot })
}

function sectionOf(i: number): string {
  if (i < 40) return 'Tue lab'
  return i < 78 ? 'Wed lab' : 'Thu lab'
}

function addCourse(
  { stores, now }: FillParts,
  courseCode: string,
  title: string,
  sections: string[],
  owner: MadeUp,
): Course {
  const created = shift(now, -60 * DAY)
  const course = stores.courses.add({ courseCode, title, zone: ZONE }, created)
  sections.forEach((name, i) => {
    stores.roster.addSection(course.id, name, i + 1)
  })
  const person = stores.roster.ensurePerson(owner.email, created)
  const fields = {
    name: owner.name,
    role: 'instructor' as const,
    section_id: null,
    status: 'active' as const,
  }
  stores.roster.enrol(course.id, person.id, fields, created)
  return course
}

/** Writes a roster file and brings it in as an instructor would. */
function bringIn(
  { db, stores, now }: FillParts,
  course: Course,
  lines: (MadeUp & { section: string; role: string })[],
): void {
  const csv = Papa.unparse(lines, { columns: ['name', 'email', 'section', 'role'] })
  db.transaction(() =>
    importRoster(
      course.id,
      { csv, skipFaults: false, unlisted: 'leave' },
      shift(now, -60 * DAY),
      stores.roster,
    ),
  ).immediate()
}

interface Setting {
  seats: number
  floor?: number
  /** Days from now; both left out for a draft. */
  opens?: number
  closes?: number
  instructions?: string
  rules?: Partial<Pick<HouseRules, 'fullGroups' | 'invitations'>>
}

function addSheet(
  { db, stores, clock, now }: FillParts,
  course: Course,
  owner: MadeUp,
  title: string,
  topics: readonly SampleTopic[],
  { seats, floor = 2, opens, closes, instructions = '', rules = {} }: Setting,
): Sheet {
  const person = stores.roster.personByEmail(owner.email) as Person
  const written = opens === undefined ? shift(now, -2 * DAY) : shift(now, Math.min(opens, -1) * DAY - 2 * DAY)
  clock.set(written)
  const at = (days: number, time: string) =>
    `${localTimeOf(shift(now, days * DAY), course.zone).slice(0, 10)}T${time}`
  return db
    .transaction(() => {
      const sheet = stores.sheets.add(course.id, { title, contact: owner.email, seats, floor }, written)
      const edit: Edit = { sheet, course, person, now: written, stores }
      stores.ledger.note({
        sheetId: sheet.id,
        at: written,
        actorId: person.id,
        kind: 'sheet-added',
        detail: { title },
      })
      changeSheet(edit, {
        instructions,
        ...rules,
        ...(opens !== undefined && { opensAt: at(opens, '09:00') }),
        ...(closes !== undefined && { closesAt: at(closes, '17:00') }),
      })
      addTopics(
        edit,
        topics.map(({ wanted: _, when, ...fields }) => ({
          ...fields,
          ...(when && { startsAt: at(when.day, when.from), endsAt: at(when.day, when.to) }),
        })),
      )
      const changed = stores.sheets.byId(sheet.id) as Sheet
      if (opens !== undefined) publish({ ...edit, sheet: changed })
      return stores.sheets.byId(sheet.id) as Sheet
    })
    .immediate()
}

/** Lets students take seats over the days since opening: a rush at first, then fewer, hardly any by night. */
async function seatAll(
  parts: FillParts,
  sheet: Sheet,
  topics: readonly SampleTopic[],
  lot: Lot,
  share: number,
  /** How many of those who come look, and take nothing. */
  looking = 0,
): Promise<void> {
  const { stores, clock, now } = parts
  const opens = msOf(sheet.opens_at as Instant)
  const last = Math.min(msOf(now) - 10 * MINUTE, msOf(sheet.closes_at as Instant) - HOUR)
  const students = lot.shuffle(stores.roster.students(sheet.course_id))
  const coming = students.slice(0, Math.round(students.length * share))
  const lookers = new Set(coming.slice(0, looking))
  const visits = coming.flatMap((student) => {
    const at = arrival(opens, last, lot)
    const again = lot.next() < 0.12 ? [{ student, at: at + (last - at) * lot.next() }] : []
    return [{ student, at }, ...again]
  })
  visits.sort((a, b) => a.at - b.at)
  for (const { student, at } of visits) {
    const instant = new Date(at).toISOString()
    clock.set(instant)
    if (lookers.has(student)) {
      stores.nudges.visit(sheet.id, student.id, instant)
      // Their draw is not used, so that what follows is drawn as if they had come.
      lot.next()
    } else await visit(parts, sheet, topics, student, lot, instant)
  }
  // Some look at the sheet and take nothing yet; the others have never opened it.
  for (const { id } of students.slice(coming.length).filter(({ id }) => id % 5 < 3)) {
    stores.nudges.visit(
      sheet.id,
      id,
      new Date(opens + ((last - opens) * ((id * 37) % 100)) / 100).toISOString(),
    )
  }
}

function arrival(opens: number, last: number, lot: Lot): number {
  for (;;) {
    const rush = lot.next() < 0.35
    const at = rush ? opens - Math.log(1 - lot.next()) * 5 * HOUR : opens + (last - opens) * lot.next()
    const hour = Number(localTimeOf(new Date(at).toISOString(), ZONE).slice(11, 13))
    const asleep = hour < 7 && lot.next() < 0.95
    if (at <= last && !asleep) return at
  }
}

async function visit(
  { stores, claims }: FillParts,
  sheet: Sheet,
  topics: readonly SampleTopic[],
  student: Enrolment,
  lot: Lot,
  at: Instant,
) {
  stores.nudges.visit(sheet.id, student.id, at)
  const counts = stores.seats.counts(sheet.id)
  const order = stores.sheets.topics(sheet.id).map(({ id }) => id)
  const held = stores.seats.heldBy(sheet.id, student.id)[0]
  const open = stores.sheets
    .groups(sheet.id)
    .filter(({ section_id }) => section_id === null || section_id === student.section_id)
    .filter(({ id, seats }) => id !== held?.group_id && (counts.get(id) ?? 0) < seats)
  const weights = open.map(({ id, topic_id }) => {
    const wanted = topics[order.indexOf(topic_id)]?.wanted ?? 1
    return wanted + 1.5 * (counts.get(id) ?? 0)
  })
  const chosen = open[pick(weights, lot)]
  if (!chosen) return
  const from = held && stores.sheets.groups(sheet.id).find(({ id }) => id === held.group_id)?.code
  await claims.submit({
    sheetId: sheet.id,
    enrolmentId: student.id,
    actorId: student.person_id,
    key: `sample-${sheet.id}-${student.id}-${held ? 'again' : 'first'}`,
    ask: from ? { kind: 'move', from, to: chosen.code } : { kind: 'take', to: chosen.code },
  })
}

/** Two who wait in line for the first group that is full, and an invitation to one of those without a group. */
async function waitAndInvite({ stores, claims, clock, now }: FillParts, sheet: Sheet): Promise<void> {
  const { sheets, seats, roster, invitations, ledger } = stores
  clock.set(shift(now, -HOUR))
  const seated = new Set(seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
  const idle = roster.students(sheet.course_id).filter(({ id }) => !seated.has(id))
  const groups = sheets.groups(sheet.id)
  const full = groups.find((group) => seats.takenIn(group.id) === group.seats)
  for (const student of full ? idle.slice(0, 2) : []) {
    await claims.submit({
      sheetId: sheet.id,
      enrolmentId: student.id,
      actorId: student.person_id,
      key: `sample-${sheet.id}-${student.id}-waits`,
      ask: { kind: 'wait', to: full?.code ?? '' },
    })
  }
  const open = groups.find(({ id, seats: limit }) => {
    const taken = seats.takenIn(id)
    return taken > 0 && limit - taken >= 2
  })
  const [first] = open ? seats.ofGroup(open.id) : []
  const convener = first && roster.enrolment(first.enrolment_id)
  const guest = idle[2]
  if (!open || !convener || !guest) return
  const at = shift(now, -HOUR)
  invitations.add(sheet.id, open.id, guest.id, convener.id, at)
  ledger.note({
    sheetId: sheet.id,
    at,
    actorId: convener.person_id,
    kind: 'invitation-made',
    enrolmentId: guest.id,
    detail: { group: open.id, by: convener.id },
  })
}

/** Who keeps apart or together, among those of the sheet's first section who have no group yet. */
function keepSome({ stores, now }: FillParts, sheet: Sheet): void {
  const seated = new Set(stores.seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
  const [section] = stores.roster.sections(sheet.course_id)
  const idle = stores.roster
    .students(sheet.course_id)
    .filter(({ id, section_id }) => !seated.has(id) && section_id === section?.id)
    .map(({ id }) => id)
  const keep = (kind: 'apart' | 'together', members: readonly number[], note: string) => {
    if (members.length > 1)
      stores.plans.addKeeping(sheet.course_id, { kind, note, expiresAt: null, members }, shift(now, -DAY))
  }
  keep('apart', idle.slice(0, 2), 'asked for it')
  keep('apart', idle.slice(2, 4), '')
  keep('together', idle.slice(4, 6), 'share a car')
}

function pick(weights: readonly number[], lot: Lot): number {
  let left = lot.next() * weights.reduce((sum, weight) => sum + weight, 0)
  return weights.findIndex((weight) => {
    left -= weight
    return left < 0
  })
}
