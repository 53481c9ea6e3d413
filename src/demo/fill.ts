import { DAY, HOUR, shift } from '../core/instant.ts'
import { drawLots } from '../core/lot.ts'
import type { Enrolment } from '../server/roster/store.ts'
import type { Sheet } from '../server/sheets/store.ts'
import { addCourse, addSheet, bringIn, DOMAIN, type FillParts, seatAll } from './making.ts'
import { drawPeople, type MadeUp } from './names.ts'
import { setToWork } from './pastTerm.ts'
import { AROMA, BENCH_INSTRUCTIONS, BENCHES, FIELD, PANELS, SAFETY, TASTING } from './plot.ts'
import { fillRoads } from './roads.ts'
import { fillBrewPartners, fillPastWishes } from './wishes.ts'
import { setWork } from './work.ts'

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
  fillBrewPartners(parts, ferm, STAFF.renske)
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
  const known = parts.stores.courses
    .all()
    .flatMap(({ id }) => parts.stores.roster.everybody(id).map(({ email }) => email))
  await fillRoads(parts, new Set(known), STAFF.renske, STAFF.ifeoma)
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
  fillPastWishes(parts, course, STAFF.matteo)
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
