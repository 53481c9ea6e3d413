import { LIMITS } from '../limits.ts'
import { cleanText } from '../text.ts'
import { readLocalTime } from '../zone.ts'
import {
  type Columns,
  cellOf,
  findHeadings,
  type LineFault,
  type Row,
  readRows,
  recogniseColumns,
  short,
  writeTable,
} from './table.ts'
import { type DayOrder, type DaysRead, dayAfter, dayOrderIn, readDay, readTime } from './when.ts'

/** The columns of a list of topics, in the order in which they are written, and read where no line names them. */
export const TOPIC_COLUMNS = [
  'title',
  'brief',
  'seats',
  'floor',
  'date',
  'start',
  'end',
  'place',
  'link',
  'end date',
] as const
export type TopicColumn = (typeof TOPIC_COLUMNS)[number]

/** A topic as one line names it. Times are wall-clock times, `YYYY-MM-DDTHH:mm`. */
export interface TopicLine {
  line: number
  title: string
  brief: string
  /** The topic's own limit, `none` for no limit, or null for the common one. */
  seats: number | 'none' | null
  floor: number | null
  startsAt: string | null
  endsAt: string | null
  place: string
  link: string
}

export type TopicsReading =
  | {
      readable: true
      lines: TopicLine[]
      faults: LineFault[]
      /** How the days are written; doubtful where that has to be asked. */
      days: DaysRead
    }
  | { readable: false; message: string }

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
}

/** How topics are read, where somebody says so. */
export interface TopicsHow {
  /** Whether days or months come first, where the column does not tell. */
  days?: DayOrder | undefined
  /** The zone whose clocks the times are of: one that they skip or show twice is then named by its line. */
  zone?: string
}

/** The longest that a slot over midnight may be which does not say that it ends the day after (hours). */
const OVERNIGHT = 12

/**
 * Reads topics from CSV text or rows copied from a spreadsheet. The first line may name the columns; where it does
 * not, they are read in the order of TOPIC_COLUMNS. Days and times are read in common spellings, the order of day and
 * month told for the whole column; an end before its start is on the day after.
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
  const rows = readRows(text)
  const first = rows[0]
  if (!first)
    return { readable: false, message: 'There is nothing in it. Give one topic per line, its title first.' }
  const found = findHeadings(
    rows,
    SPELLINGS,
    (columns) => columns.title !== undefined && Object.values(columns).length > 1,
  )
  const alone = recogniseColumns(first.cells, SPELLINGS)
  const named = found?.columns ?? alone
  const positions: Columns<TopicColumn> = Object.fromEntries(TOPIC_COLUMNS.map((column, i) => [column, i]))
  const columns = named.title === undefined ? positions : named
  if (columns === named) rows.splice(0, (found?.at ?? 0) + 1)
  if (rows.length === 0) return { readable: false, message: 'It names the columns, but no topic follows.' }
  if (rows.length > room) {
    const message = `It has ${rows.length} topics; the sheet has room for ${room}. Take some out, or start a second sheet.`
    return { readable: false, message }
  }
  const told = dayOrderIn(
    rows.flatMap((row) => [cellOf(row, columns, 'date'), cellOf(row, columns, 'end date')]),
  )
  const order = how.days ?? told.order
  return { ...readLines(rows, columns, taken, { order, zone: how.zone }), days: told }
}

/** What a line is read by, beside its own words. */
interface By {
  order: DayOrder | null
  zone: string | undefined
}

function readLines(
  rows: readonly Row[],
  columns: Columns<TopicColumn>,
  taken: readonly string[],
  by: By,
): { readable: true; lines: TopicLine[]; faults: LineFault[] } {
  const lines: TopicLine[] = []
  const faults: LineFault[] = []
  const onSheet = new Set(taken.map((title) => title.toLowerCase()))
  const firstLineOf = new Map<string, number>()
  for (const row of rows) {
    const found = readLine(row, columns, by)
    const key = found.line.title.toLowerCase()
    const earlier = firstLineOf.get(key)
    if (key !== '' && earlier !== undefined)
      found.fault(
        'title',
        found.line.title,
        `The same title stands in line ${earlier}. Give one of them another.`,
      )
    if (onSheet.has(key))
      found.fault('title', found.line.title, 'The sheet has a topic of this title already.')
    if (key !== '' && earlier === undefined) firstLineOf.set(key, row.line)
    if (found.faults.length > 0) faults.push(...found.faults)
    else lines.push(found.line)
  }
  return { readable: true, lines, faults }
}

function readLine(row: Row, columns: Columns<TopicColumn>, by: By) {
  const faults: LineFault[] = []
  const fault = (field: TopicColumn | 'line', found: string, message: string) => {
    faults.push({ line: row.line, field, found: short(found), message })
  }
  const cell = (column: TopicColumn) => cellOf(row, columns, column)
  if (row.broken)
    fault(
      'line',
      row.cells.join(', '),
      'A quotation mark opens here and is not closed, or stands inside a cell alone.',
    )
  const within = (column: 'title' | 'brief' | 'place' | 'link', most: number) => {
    const text =
      column === 'title' || column === 'place' ? cleanText(cell(column)) : cell(column).normalize('NFC')
    if (text.length > most) fault(column, text, `This holds ${most.toLocaleString('en')} characters at most.`)
    return text
  }
  const title = within('title', LIMITS.title)
  if (title === '') fault('title', '', 'The title is missing.')
  const seats = /^(none|no limit|unlimited)$/i.test(cell('seats')) ? ('none' as const) : count('seats')
  const floor = count('floor')
  if (typeof seats === 'number' && floor !== null && floor > seats) {
    fault('floor', String(floor), `The floor is above the ${seats} seats; no group could reach it.`)
  }
  const { startsAt, endsAt } = slot()
  const link = within('link', LIMITS.link)
  if (link !== '' && !/^https?:\/\/\S+$/i.test(link))
    fault('link', link, 'A link begins with https:// or http://.')
  return {
    line: {
      line: row.line,
      title,
      brief: within('brief', LIMITS.brief),
      seats,
      floor,
      startsAt,
      endsAt,
      place: within('place', LIMITS.place),
      link,
    },
    faults,
    fault,
  }

  function count(column: 'seats' | 'floor'): number | null {
    const text = cell(column)
    if (text === '') return null
    const n = Number(text.replace(',', '.'))
    if (Number.isInteger(n) && n >= 1 && n <= LIMITS.seats) return n
    fault(
      column,
      text,
      `This is a whole number from 1 to ${LIMITS.seats}${column === 'seats' ? ', or “none”' : ''}.`,
    )
    return null
  }

  function slot(): { startsAt: string | null; endsAt: string | null } {
    const nothing = { startsAt: null, endsAt: null }
    const [date, start, end, endDate] = [cell('date'), cell('start'), cell('end'), cell('end date')]
    if ([date, start, end, endDate].every((text) => text === '')) return nothing
    // A day and a time may stand in one cell.
    const day = readDay(date || start, by.order)
    const from = readTime(start || date)
    const to = end === '' ? null : readTime(end)
    const lastDay = endDate === '' ? (end === '' ? null : readDay(end, by.order)) : readDay(endDate, by.order)
    if (day === null) fault('date', date || start, dayFault(date || start))
    if (from === null) fault('start', start, 'Give the start as 14:30, or as 2:30 pm.')
    if (end !== '' && to === null) fault('end', end, 'Give the end as 16:00, or as 4 pm.')
    if (endDate !== '' && lastDay === null) fault('end date', endDate, dayFault(endDate))
    if (endDate !== '' && end === '') fault('end', '', 'Give the time at which it ends, too.')
    if (day === null || from === null) return nothing
    const startsAt = onTheClock('start', `${day}T${from}`)
    if (to === null) return { startsAt, endsAt: null }
    const ends = lastDay ?? (to < from && hoursTo(from, to) <= OVERNIGHT ? dayAfter(day) : day)
    if (`${ends}T${to}` <= `${day}T${from}`) {
      const message = 'The end has to come after the start; for one on another day give the end date.'
      fault('end', end, message)
      return nothing
    }
    return { startsAt, endsAt: onTheClock('end', `${ends}T${to}`) }
  }

  function dayFault(text: string): string {
    if (by.order === null && readDay(text, 'day-first') !== null)
      return 'It can be read day first or month first. Say which above.'
    return 'Give the day as 2026-05-13, 13/05/2026 or 13 May 2026.'
  }

  /** A time that the clocks of the zone show once; where they skip it or show it twice, its line is wrong. */
  function onTheClock(column: 'start' | 'end', local: string): string {
    const kind = by.zone === undefined ? 'one' : readLocalTime(local, by.zone).kind
    const at = local.replace('T', ' ')
    if (kind === 'never')
      fault(column, at, 'Clocks go forward then, so that this time never occurs. Give one an hour later.')
    if (kind === 'twice')
      fault(
        column,
        at,
        'Clocks go back then, so that this time occurs twice. Give one an hour earlier or later.',
      )
    return local
  }
}

/** Hours from one time of day to the next time that clocks show another. */
function hoursTo(from: string, to: string): number {
  const minutes = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3))
  return ((minutes(to) - minutes(from) + 1_440) % 1_440) / 60
}

/** Writes topics as CSV that `readTopicsCsv` reads back unchanged. */
export function writeTopicsCsv(topics: readonly Omit<TopicLine, 'line'>[]): string {
  return writeTable(
    TOPIC_COLUMNS,
    topics.map(({ title, brief, seats, floor, startsAt, endsAt, place, link }) => [
      title,
      brief,
      seats === null ? '' : String(seats),
      floor === null ? '' : String(floor),
      startsAt?.slice(0, 10) ?? '',
      startsAt?.slice(11) ?? '',
      endsAt?.slice(11) ?? '',
      place,
      link,
      endsAt !== null && endsAt.slice(0, 10) !== startsAt?.slice(0, 10) ? endsAt.slice(0, 10) : '',
    ]),
  )
}
