import { LIMITS } from '../limits.ts'
import {
  type Columns,
  cellOf,
  type LineFault,
  type Row,
  readRows,
  recogniseColumns,
  short,
  writeTable,
} from './table.ts'

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
  | { readable: true; lines: TopicLine[]; faults: LineFault[] }
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
}

/**
 * Reads topics from CSV text or rows copied from a spreadsheet. The first line may name the columns; where it does
 * not, they are read in the order of TOPIC_COLUMNS.
 * @param taken titles that the sheet has already
 * @param room topics that the sheet can still hold
 */
export function readTopicsCsv(
  text: string,
  taken: readonly string[],
  room: number = LIMITS.topics,
): TopicsReading {
  if (text.length > LIMITS.rosterText)
    return { readable: false, message: 'This is longer than a list of topics can be.' }
  const rows = readRows(text)
  const first = rows[0]
  if (!first)
    return { readable: false, message: 'There is nothing in it. Give one topic per line, its title first.' }
  const named = recogniseColumns(first.cells, SPELLINGS)
  const positions: Columns<TopicColumn> = Object.fromEntries(TOPIC_COLUMNS.map((column, i) => [column, i]))
  const columns = named.title === undefined ? positions : named
  if (columns === named) rows.shift()
  if (rows.length === 0) return { readable: false, message: 'It names the columns, but no topic follows.' }
  if (rows.length > room) {
    const message = `It has ${rows.length} topics; the sheet has room for ${room}. Take some out, or start a second sheet.`
    return { readable: false, message }
  }
  return readLines(rows, columns, taken)
}

function readLines(
  rows: readonly Row[],
  columns: Columns<TopicColumn>,
  taken: readonly string[],
): TopicsReading {
  const lines: TopicLine[] = []
  const faults: LineFault[] = []
  const onSheet = new Set(taken.map((title) => title.toLowerCase()))
  const firstLineOf = new Map<string, number>()
  for (const row of rows) {
    const found = readLine(row, columns)
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

function readLine(row: Row, columns: Columns<TopicColumn>) {
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
    const text = cell(column)
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
    const [date, start, end] = [cell('date'), cell('start'), cell('end')]
    if (date === '' && start === '' && end === '') return { startsAt: null, endsAt: null }
    const day = readDay(date)
    const from = readTime(start)
    const to = end === '' ? null : readTime(end)
    if (day === null) fault('date', date, 'Give the day as 2026-05-13.')
    if (from === null) fault('start', start, 'Give the start as 14:30.')
    if (end !== '' && to === null) fault('end', end, 'Give the end as 16:00.')
    if (from !== null && to !== null && to <= from) fault('end', end, 'The end has to come after the start.')
    if (day === null || from === null) return { startsAt: null, endsAt: null }
    return { startsAt: `${day}T${from}`, endsAt: to === null ? null : `${day}T${to}` }
  }
}

/** A day as `2026-05-13` or `13.5.2026`; orders that mean another day elsewhere are not guessed at. */
function readDay(text: string): string | null {
  const dotted = /^(\d{1,2})\.(\d{1,2})\.(\d{4})$/.exec(text)
  const iso = dotted ? `${dotted[3]}-${dotted[2]?.padStart(2, '0')}-${dotted[1]?.padStart(2, '0')}` : text
  if (!/^\d{4}-\d{2}-\d{2}$/.test(iso)) return null
  const ms = Date.parse(`${iso}T00:00:00Z`)
  return !Number.isNaN(ms) && new Date(ms).toISOString().startsWith(iso) ? iso : null
}

function readTime(text: string): string | null {
  const match = /^(\d{1,2})[:.](\d{2})$/.exec(text)
  if (!match || Number(match[1]) > 23 || Number(match[2]) > 59) return null
  return `${match[1]?.padStart(2, '0')}:${match[2]}`
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
    ]),
  )
}
