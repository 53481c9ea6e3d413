import { searchable } from '../names.ts'
import { cellOf, findHeadings, type LineFault, passedOver, readRows, short, writeTable } from './table.ts'
import { type Nameable, personFinder, WHO_SPELLINGS } from './who.ts'

/** One seat, or one student without any, as a line of an export. */
export interface SeatLine {
  name: string
  /** The roster’s name in its two parts. */
  given: string
  family: string
  /** The student number, or empty. */
  number: string
  email: string
  section: string
  status: string
  /** Empty for no group. */
  topic: string
  groupSection: string
  /** The group’s own code, which stays; empty for no group. */
  groupCode: string
  place: string
  /** Day and time in the course's zone, `2026-05-13 17:00`, or empty. */
  starts: string
  ends: string
  link: string
  convener: boolean
  extra: boolean
  /** When the seat was taken, in the course's zone. */
  since: string
}

/** One group as a line of an export, members by name. */
export interface GroupLine {
  topic: string
  /** The group’s own code, which stays. */
  code: string
  section: string
  seats: number | null
  floor: number
  taken: number
  place: string
  starts: string
  ends: string
  link: string
  convener: string
  tutors: string[]
  members: { name: string; email: string }[]
}

export const STUDENT_HEAD = [
  'name',
  'email',
  'section',
  'status',
  'topic',
  'group section',
  'place',
  'starts',
  'ends',
  'link',
  'convener',
  'extra seat',
  'since',
  'student number',
  'given name',
  'surname',
  'group code',
] as const
export const GROUP_HEAD = [
  'topic',
  'section',
  'seats',
  'floor',
  'taken',
  'place',
  'starts',
  'ends',
  'link',
  'convener',
  'tutors',
  'members',
  'emails',
  'group code',
] as const

const yes = (value: boolean) => (value ? 'yes' : '')

/** Columns of both tables that hold a day and a time of day. */
export const MOMENT_COLUMNS: readonly string[] = ['starts', 'ends', 'since']

/** Cells of one row per student and seat, in the order of `STUDENT_HEAD`. */
export function studentCells(line: SeatLine): string[] {
  const {
    name,
    email,
    section,
    status,
    topic,
    groupSection,
    place,
    starts,
    ends,
    link,
    convener,
    extra,
    since,
    number,
    given,
    family,
    groupCode,
  } = line
  return [
    name,
    email,
    section,
    status,
    topic,
    groupSection,
    place,
    starts,
    ends,
    link,
    yes(convener),
    yes(extra),
    since,
    number,
    given,
    family,
    groupCode,
  ]
}

/** Cells of one row per group, in the order of `GROUP_HEAD`. */
export function groupCells(line: GroupLine): (string | number)[] {
  const { topic, section, seats, floor, taken, place, starts, ends, link, convener, tutors, members, code } =
    line
  const names = members.map(({ name }) => name).join('; ')
  const emails = members.map(({ email }) => email).join('; ')
  return [
    topic,
    section,
    seats ?? 'no limit',
    floor,
    taken,
    place,
    starts,
    ends,
    link,
    convener,
    tutors.join('; '),
    names,
    emails,
    code,
  ]
}

/** The roster with groups as CSV, one row per student and seat. */
export function writeStudentsCsv(lines: readonly SeatLine[]): string {
  return writeTable([...STUDENT_HEAD], lines.map(studentCells))
}

/** The groups with members as CSV, one row per group. */
export function writeGroupsCsv(lines: readonly GroupLine[]): string {
  return writeTable(
    [...GROUP_HEAD],
    lines.map((line) => groupCells(line).map(String)),
  )
}

const SPELLINGS = {
  ...WHO_SPELLINGS,
  topic: ['topic', 'group', 'group name', 'title'],
  'group section': ['group section', 'section of the group'],
  'group code': ['group code'],
} as const satisfies Record<string, readonly string[]>
type Column = keyof typeof SPELLINGS

/** What a file of seats is held against. */
export interface SeatsKnown {
  people: readonly (Nameable & { section: string | null })[]
  groups: readonly KnownGroup[]
  /** Seats that each may have: a person stands in that many lines. */
  seatsEach?: number
}

export interface KnownGroup {
  key: string
  topic: string
  section: string | null
  sectionName: string
}

export interface SeatsReading {
  /** A person's seat, or null where the file names none. */
  seats: { line: number; person: string; group: string | null }[]
  faults: LineFault[]
  /** What of the file was passed over, in sentences. */
  notes: string[]
}

/**
 * Reads who is to sit where from CSV: a column for the person (address, student number or name) and one for the topic.
 * Where a topic has a group in several sections, the person's own section is meant, unless a column says which; the code
 * of a group, as it goes out, says it for good.
 */
export function readSeatsCsv(text: string, { people, groups, seatsEach = 1 }: SeatsKnown): SeatsReading {
  const all = readRows(text)
  const faults: LineFault[] = []
  const found = findHeadings(
    all,
    SPELLINGS,
    ({ email, number, name, topic, 'group code': code }) =>
      [email, number, name].some((at) => at !== undefined) && (topic ?? code) !== undefined,
  )
  if (!found) {
    const message = 'The first line must name the columns: email (or student number, or name), and topic.'
    const cells = all[0]?.cells.join(', ') ?? ''
    return { seats: [], faults: [{ line: 1, field: 'line', found: short(cells), message }], notes: [] }
  }
  const { columns } = found
  const find = personFinder(people)
  const groupOf = groupFinder(groups)
  const seats: SeatsReading['seats'] = []
  const seen = new Map<string, SeatsReading['seats']>()
  for (const row of all.slice(found.at + 1)) {
    const cell = (column: Column) => cellOf(row, columns, column)
    const fault = (field: Column | 'line', found: string, message: string) =>
      faults.push({ line: row.line, field, found: short(found), message })
    if (row.broken) {
      fault('line', row.cells.join(', '), 'A quotation mark in this line is not closed.')
      continue
    }
    const meant = find({ email: cell('email'), number: cell('number'), name: cell('name') })
    if ('message' in meant) {
      fault(meant.field, meant.found, meant.message)
      continue
    }
    const { person } = meant
    const topic = { topic: cell('topic'), section: cell('group section'), code: cell('group code') }
    const group = groupOf(topic, person)
    if (group !== null && typeof group === 'object') {
      fault(group.field, cell(group.field), group.message)
      continue
    }
    const before = seen.get(person.key) ?? []
    const [first] = before
    if (first && (before.length >= seatsEach || before.some((one) => one.group === group))) {
      const again = seatsEach > 1 && before.length >= seatsEach ? `, and has ${seatsEach} seats at most` : ''
      fault(
        'line',
        row.cells.join(', '),
        `${person.name} stands on line ${first.line} too${again}. Keep one of the two.`,
      )
      continue
    }
    const seat = { line: row.line, person: person.key, group }
    seen.set(person.key, [...before, seat])
    seats.push(seat)
  }
  return { seats, faults, notes: passedOver(all, found.at, Object.values(columns)) }
}

/** Makes a finder of the group that a line means: its key, null for none, or what is wrong with which cell. */
function groupFinder(groups: readonly KnownGroup[]) {
  const alike = (one: string, other: string) => searchable(one) === searchable(other)
  return (
    said: { topic: string; section: string; code: string },
    person: { name: string; section: string | null },
  ): string | null | { field: Column; message: string } => {
    if (said.topic === '' && said.code === '') return null
    const coded = groups.find(({ key }) => key === said.code)
    if (coded) return coded.key
    if (said.topic === '') return { field: 'group code', message: 'The sheet has no such group.' }
    const ofTopic = groups.filter(({ topic }) => alike(topic, said.topic))
    if (ofTopic.length === 0) return { field: 'topic', message: 'The sheet has no topic of that title.' }
    const fits =
      said.section !== ''
        ? ofTopic.filter(({ sectionName }) => alike(sectionName, said.section))
        : ofTopic.length > 1
          ? ofTopic.filter(({ section }) => section === person.section)
          : ofTopic
    const [group] = fits
    if (fits.length > 1)
      return {
        field: 'topic',
        message: `${fits.length} groups are called that. The column “group code” tells them apart; export the file to have it.`,
      }
    if (group) return group.key
    return said.section !== ''
      ? { field: 'group section', message: 'That topic has no group in a section of that name.' }
      : {
          field: 'topic',
          message: `That topic has no group in ${person.name}’s section. Add a column “group section”.`,
        }
  }
}
