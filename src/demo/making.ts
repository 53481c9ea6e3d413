import Papa from 'papaparse'
import type { SheetChanges } from '../contract/sheets.ts'
import { DAY, HOUR, type Instant, MINUTE, msOf, shift } from '../core/instant.ts'
import type { Lot } from '../core/lot.ts'
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
import type { MadeUp } from './names.ts'
import type { SampleTopic } from './plot.ts'

export const ZONE = 'Europe/Copenhagen'
export const DOMAIN = 'brinemoor.example'

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

/** Adds a course with its sections and its first instructor. */
export function addCourse(
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

/** Further columns of the sample's rosters, which groups can be balanced by. */
const FURTHER = ['level', 'programme'] as const
const LEVELS = ['first year', 'second year', 'third year']
const PROGRAMMES = ['Food science', 'Biology', 'Brewing', 'Nutrition']

const COLUMNS = [
  'name',
  'given name',
  'surname',
  'called',
  'student number',
  'email',
  'section',
  'role',
  ...FURTHER,
]

/** Who of a roster goes by another name than the one it has. */
const CALLED_OTHERWISE = 17

/** A made-up name in its parts: the given name is its first word. */
function partsOf(name: string): { 'given name': string; surname: string } {
  const [given = '', ...surname] = name.split(' ')
  return { 'given name': given, surname: surname.join(' ') }
}

/** Writes a roster file and brings it in as an instructor would. */
export function bringIn(
  { db, stores, now }: FillParts,
  course: Course,
  lines: (MadeUp & { section: string; role: string })[],
): void {
  const told = lines.map((line, i) => ({
    ...line,
    ...partsOf(line.name),
    called: i === CALLED_OTHERWISE ? `Ottilie ${partsOf(line.name).surname}` : '',
    'student number': line.role === 'student' ? `26-${String(4_107 + i * 13).padStart(5, '0')}` : '',
    level: line.role === 'student' ? LEVELS[(i * 7 + (i >> 2)) % LEVELS.length] : '',
    programme: line.role === 'student' ? PROGRAMMES[(i * 5 + (i >> 1)) % PROGRAMMES.length] : '',
  }))
  const csv = Papa.unparse(told, { columns: COLUMNS })
  db.transaction(() =>
    importRoster(
      course.id,
      { csv, keep: [...FURTHER], skipFaults: false, unlisted: 'leave' },
      shift(now, -60 * DAY),
      stores.roster,
    ),
  ).immediate()
}

/** What of a sample sheet differs from the first choices. */
export interface Setting {
  seats: number
  floor?: number
  /** Days from now; both left out for a draft. */
  opens?: number
  closes?: number
  instructions?: string
  rules?: Omit<SheetChanges, 'was' | 'confirmed'>
}

/** Writes a sheet as its instructor would have, some days ago; published where it has an opening time. */
export function addSheet(
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
        { ...edit, sheet: stores.sheets.byId(sheet.id) as Sheet },
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
export async function seatAll(
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
  const students = lot.shuffle(stores.audience.students(sheet))
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

function pick(weights: readonly number[], lot: Lot): number {
  let left = lot.next() * weights.reduce((sum, weight) => sum + weight, 0)
  return weights.findIndex((weight) => {
    left -= weight
    return left < 0
  })
}
