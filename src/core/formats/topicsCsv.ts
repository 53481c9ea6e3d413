import { LIMITS } from '../limits.ts'
import {
  type Columns,
  cellOf,
  findHeadings,
  type LineFault,
  type Row,
  readRows,
  recogniseColumns,
  surplus,
  titlesPassed,
  unreadColumns,
  without,
  writeTable,
} from './table.ts'
import { type TopicGroup, type TopicLine, topicsOf } from './topicGroups.ts'
import { readTopicLine, TOPIC_COLUMNS, type TopicColumn, type TopicPerson, writeKept } from './topicLine.ts'
import { type DayOrder, type DaysRead, dayOrderIn } from './when.ts'

export type TopicsReading =
  | {
      readable: true
      lines: TopicLine[]
      faults: LineFault[]
      /** How the days are written; doubtful where that has to be asked. */
      days: DaysRead
      /** What each column is called: by its heading, or by what stands in its first line where there are none. */
      header: string[]
      /** Which column is which, counted from 0. */
      columns: Columns<TopicColumn>
      /** Whether a line of headings was read; else columns are taken in the order of TOPIC_COLUMNS. */
      headed: boolean
      /** What of the file is not read, in sentences. */
      notes: string[]
    }
  | { readable: false; message: string; header?: string[]; columns?: Columns<TopicColumn> }

const SPELLINGS: Record<TopicColumn, readonly string[]> = {
  title: ['title', 'topic', 'name', 'subject', 'group'],
  brief: ['brief', 'description', 'details', 'about', 'notes'],
  seats: ['seats', 'limit', 'size', 'max', 'capacity', 'places'],
  floor: ['floor', 'min', 'minimum', 'smallest size'],
  date: ['date', 'day'],
  start: ['start', 'time', 'from', 'starts', 'start time'],
  end: ['end', 'to', 'until', 'ends', 'end time'],
  place: ['place', 'where', 'room', 'location'],
  link: ['link', 'url', 'meeting link'],
  'end date': ['end date', 'end day', 'ends on', 'last day'],
  section: ['section', 'sections', 'lab', 'lab section', 'class'],
  offered: ['offered', 'is offered'],
  'one group for': ['one group for', 'groups for'],
  'kept free': ['kept free', 'keep free', 'held', 'held for', 'kept for', 'reserved', 'reserved for'],
}

/** How topics are read, where somebody says so; and what is known of the sheet they are for. */
export interface TopicsHow {
  /** Columns pointed out by hand, before those told by their headings; −1 for one that is not in the list. */
  columns?: Columns<TopicColumn> | undefined
  /** Whether the first line has the headings, or a topic; left out, it is looked for. */
  headings?: 'first' | 'none' | undefined
  /** Whether days or months come first, where the column does not tell. */
  days?: DayOrder | undefined
  /** The zone whose clocks the times are of: one that they skip or show twice is then named by its line. */
  zone?: string | undefined
  /** The course’s sections; none where it has none. */
  sections?: readonly { code: string; name: string }[]
  /** Whether topics of the sheet have one group for all sections, where their lines do not say. */
  mixed?: boolean
  /** The sheet’s common limit (0: none), for topics without their own. */
  seats?: number
  /** Whom seats can be kept for; null where that is not known yet. */
  people?: readonly TopicPerson[] | null
}

/**
 * Reads topics from CSV text or rows copied from a spreadsheet. The first line may name the columns; where it does
 * not, they are read in the order of TOPIC_COLUMNS. Days and times are read in common spellings, the order of day and
 * month told for the whole column; an end before its start is on the day after. A line with a section is of the topic’s
 * group there: what it says holds for that group alone.
 * @param taken titles that the sheet has already
 * @param room topics that the sheet can still hold
 */
export function readTopicsCsv(
  text: string,
  taken: readonly string[],
  room: number = LIMITS.topics,
  how: TopicsHow = {},
): TopicsReading {
  if (text.length > LIMITS.rosterText)
    return { readable: false, message: 'This is longer than a list of topics can be.' }
  const all = readRows(text)
  const [first] = all
  if (!first)
    return { readable: false, message: 'There is nothing in it. Give one topic per line, its title first.' }
  const found = headingsIn(all, how.headings)
  const rows = found ? all.slice(found.at + 1) : all
  const header = (found ? all[found.at] : first)?.cells ?? []
  const positions: Columns<TopicColumn> = Object.fromEntries(
    TOPIC_COLUMNS.slice(0, header.length).map((column, i) => [column, i]),
  )
  const columns = without({ ...(found?.columns ?? positions), ...how.columns })
  if (columns.title === undefined) {
    return {
      readable: false,
      message: 'No column has the titles. Say which it is.',
      header,
      columns,
    }
  }
  if (rows.length === 0)
    return { readable: false, message: 'It names the columns, but no topic follows.', header }
  const titles = new Set(rows.map((row) => cellOf(row, columns, 'title').toLowerCase()))
  if (titles.size > room) {
    const message = `It has ${titles.size} topics; the sheet has room for ${room}. Take some out, or start a second sheet.`
    return { readable: false, message, header }
  }
  const told = dayOrderIn(
    rows.flatMap((row) => [cellOf(row, columns, 'date'), cellOf(row, columns, 'end date')]),
  )
  const order = how.days ?? told.order
  const read = rows.map((row) =>
    readTopicLine(row, columns, {
      order,
      zone: how.zone,
      people: how.people === undefined ? [] : how.people,
    }),
  )
  return {
    readable: true,
    ...topicsOf(read, taken, how),
    days: told,
    header,
    columns,
    headed: found !== null,
    notes: [
      ...(found ? titlesPassed(all, found.at) : []),
      ...(found ? unread(header, columns) : []),
      // Without headings, lines of a pasted list have as many cells as they like, in the order of the columns.
      ...surplus(rows, found || how.columns ? header.length : TOPIC_COLUMNS.length),
    ],
  }
}

/** The line of headings: the first where somebody says so; else one of a few that names the titles and something more. */
function headingsIn(rows: readonly Row[], headings: 'first' | 'none' | undefined) {
  if (headings === 'none') return null
  const first = { at: 0, columns: recogniseColumns(rows[0]?.cells ?? [], SPELLINGS) }
  if (headings === 'first') return first
  const found = findHeadings(
    rows,
    SPELLINGS,
    (columns) => columns.title !== undefined && Object.values(columns).length > 1,
  )
  return found ?? (first.columns.title === undefined ? null : first)
}

/** Says which columns with headings are not read. */
function unread(header: readonly string[], columns: Columns<TopicColumn>): string[] {
  const names = unreadColumns(header, Object.values(columns))
  if (names.length === 0) return []
  return [
    names.length === 1
      ? `The column ${names[0]} is not read. Point out below what it has.`
      : `The columns ${names.join(', ')} are not read. Point out below what they have.`,
  ]
}

/** A topic as it is written: what is of one group alone stands with that. */
export interface WrittenTopic extends Omit<TopicLine, 'line' | 'groups'> {
  /** By the section’s name. */
  groups: readonly WrittenGroup[]
  /** Of its one group, where it has one for everybody. */
  offered: boolean
  kept: readonly WrittenKept[]
}
export type WrittenKept = { name: string; email: string } | { note: string }
export interface WrittenGroup extends Omit<TopicGroup, 'line' | 'section' | 'kept'> {
  section: string
  kept: readonly WrittenKept[]
}

/** Writes topics as CSV that `readTopicsCsv` reads back unchanged: a line for each, and for each group that differs. */
export function writeTopicsCsv(topics: readonly WrittenTopic[]): string {
  return writeTable(
    TOPIC_COLUMNS,
    topics.flatMap((topic) => [
      cellsOf({ ...topic, section: '' }),
      ...topic.groups.map((group) => cellsOf({ ...group, title: topic.title, brief: '', mixed: null })),
    ]),
  )
}

interface Cells extends Omit<WrittenGroup, 'place' | 'link'> {
  title: string
  brief: string
  place: string | null
  link: string | null
  mixed: boolean | null
}

function cellsOf(line: Cells): string[] {
  const { startsAt, endsAt } = line
  const texts: Record<TopicColumn, string> = {
    title: line.title,
    brief: line.brief,
    seats: line.seats === null ? '' : String(line.seats),
    floor: line.floor === null ? '' : String(line.floor),
    date: startsAt?.slice(0, 10) ?? '',
    start: startsAt?.slice(11) ?? '',
    end: endsAt?.slice(11) ?? '',
    place: line.place ?? '',
    link: line.link ?? '',
    'end date': endsAt !== null && endsAt.slice(0, 10) !== startsAt?.slice(0, 10) ? endsAt.slice(0, 10) : '',
    section: line.section,
    offered: line.offered ? '' : 'no',
    'one group for': line.mixed === null ? '' : line.mixed ? 'everybody' : 'each section',
    'kept free': writeKept(line.kept),
  }
  return TOPIC_COLUMNS.map((column) => texts[column])
}
