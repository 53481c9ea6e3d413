import { searchable } from '../names.ts'
import {
  type Columns,
  cellOf,
  type LineFault,
  readRows,
  recogniseColumns,
  short,
  writeTable,
} from './table.ts'

/** One seat, or one student without any, as a line of an export. */
export interface SeatLine {
  name: string
  email: string
  section: string
  status: string
  /** Empty for no group. */
  topic: string
  groupSection: string
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
] as const

const yes = (value: boolean) => (value ? 'yes' : '')

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
  ]
}

/** Cells of one row per group, in the order of `GROUP_HEAD`. */
export function groupCells(line: GroupLine): (string | number)[] {
  const { topic, section, seats, floor, taken, place, starts, ends, link, convener, tutors, members } = line
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

type Column = 'name' | 'email' | 'topic' | 'group section'
const SPELLINGS: Readonly<Record<Column, readonly string[]>> = {
  name: ['name', 'full name', 'student', 'person'],
  email: ['email', 'e-mail', 'mail', 'email address'],
  topic: ['topic', 'group', 'group name', 'title'],
  'group section': ['group section', 'section of the group'],
}

/** What a file of seats is held against. */
export interface SeatsKnown {
  people: readonly { key: string; name: string; email: string; section: string | null }[]
  groups: readonly { key: string; topic: string; section: string | null; sectionName: string }[]
}

export interface SeatsReading {
  /** A person's seat, or null where the file names none. */
  seats: { line: number; person: string; group: string | null }[]
  faults: LineFault[]
}

/**
 * Reads who is to sit where from CSV: a column for the person (address, or name) and one for the topic. Where a topic
 * has a group in several sections, the person's own section is meant, unless a column says which.
 */
export function readSeatsCsv(text: string, { people, groups }: SeatsKnown): SeatsReading {
  const [head, ...rows] = readRows(text)
  const faults: LineFault[] = []
  const columns: Columns<Column> = head ? recogniseColumns(head.cells, SPELLINGS) : {}
  if (!head || columns.topic === undefined || (columns.email === undefined && columns.name === undefined)) {
    const message = 'The first line must name the columns: email (or name), and topic.'
    return {
      seats: [],
      faults: [{ line: 1, field: 'line', found: short(head?.cells.join(', ') ?? ''), message }],
    }
  }
  const byEmail = new Map(people.map((person) => [person.email.toLowerCase(), person]))
  const named = (name: string) => people.filter((person) => searchable(person.name) === searchable(name))
  const seats: SeatsReading['seats'] = []
  const seen = new Map<string, number>()
  for (const row of rows) {
    const fault = (field: Column | 'line', message: string) =>
      faults.push({
        line: row.line,
        field,
        found: short(field === 'line' ? row.cells.join(', ') : cellOf(row, columns, field)),
        message,
      })
    if (row.broken) {
      fault('line', 'A quotation mark in this line is not closed.')
      continue
    }
    const email = cellOf(row, columns, 'email')
    const name = cellOf(row, columns, 'name')
    const found =
      email !== '' ? [byEmail.get(email.toLowerCase())].filter((one) => one !== undefined) : named(name)
    const [person] = found
    if (!person) {
      fault(
        email !== '' ? 'email' : 'name',
        'Nobody active on the roster is called that. Bring the roster in first, or correct it.',
      )
      continue
    }
    if (found.length > 1) {
      fault('name', `${found.length} people are called that. Add a column with their addresses.`)
      continue
    }
    const before = seen.get(person.key)
    if (before !== undefined) {
      fault('line', `${person.name} stands on line ${before} too. Keep one of the two.`)
      continue
    }
    seen.set(person.key, row.line)
    const topic = cellOf(row, columns, 'topic')
    if (topic === '') {
      seats.push({ line: row.line, person: person.key, group: null })
      continue
    }
    const ofTopic = groups.filter((group) => searchable(group.topic) === searchable(topic))
    const section = cellOf(row, columns, 'group section')
    const meant =
      section !== ''
        ? ofTopic.filter((group) => searchable(group.sectionName) === searchable(section))
        : ofTopic.length > 1
          ? ofTopic.filter((group) => group.section === person.section)
          : ofTopic
    const [group] = meant
    if (ofTopic.length === 0) fault('topic', 'The sheet has no topic of that title.')
    else if (!group && section !== '')
      fault('group section', 'That topic has no group in a section of that name.')
    else if (!group)
      fault('topic', `That topic has no group in ${person.name}’s section. Add a column “group section”.`)
    else seats.push({ line: row.line, person: person.key, group: group.key })
  }
  return { seats, faults }
}
