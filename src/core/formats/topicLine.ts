import { isEmail, normalEmail } from '../email.ts'
import { LIMITS } from '../limits.ts'
import { cleanText, composed, labelKey } from '../text.ts'
import { readLocalTime } from '../zone.ts'
import { type Columns, cellOf, type LineFault, type Row, short } from './table.ts'
import { type DayOrder, dayAfter, readDay, readTime } from './when.ts'

// One line of a list of topics: a topic, or the group of one in a section.

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
  'section',
  'offered',
  'one group for',
  'kept free',
] as const
export type TopicColumn = (typeof TOPIC_COLUMNS)[number]

/** Somebody for whom a seat can be kept. */
export interface TopicPerson {
  code: string
  name: string
  email: string
}

/** A seat that is kept free: for a person of the course, by the code, or for a use in words. */
export type KeptSeat = { person: string } | { note: string }

/** What a line is read by, beside its own words. */
export interface LineBy {
  /** Whether days or months come first; null where that is not known. */
  order: DayOrder | null
  zone: string | undefined
  /** Null where nobody is known (yet). */
  people: readonly TopicPerson[] | null
}

/** What a line says of a topic. Times are wall-clock times, `YYYY-MM-DDTHH:mm`. */
export interface SaidOfTopic {
  line: number
  title: string
  brief: string
  /** Its own limit, `none` for no limit, or null for the common one. */
  seats: number | 'none' | null
  floor: number | null
  startsAt: string | null
  endsAt: string | null
  place: string
  link: string
}

/** A line as it reads, before it is known what it is a line of. */
export interface ReadLine extends SaidOfTopic {
  /** As it is typed; empty for a line of the whole topic. */
  section: string
  /** Null where the line does not say. */
  offered: boolean | null
  /** Whether the topic has one group for all sections; null where the line does not say. */
  mixed: boolean | null
  kept: KeptSeat[]
  faults: LineFault[]
}

/** The longest that a slot over midnight may be which does not say that it ends the day after (hours). */
const OVERNIGHT = 12

const YES = new Set(['yes', 'y', 'true', '1', 'x', 'offered'])
const NO = new Set(['no', 'n', 'false', '0', 'not offered'])
const MIXED = new Set(['everybody', 'everyone', 'all', 'all sections', 'mixed'])
const EACH = new Set(['each section', 'each', 'every section', 'a section', 'section'])

/** Reads one line of a list of topics, with what is wrong in it. */
export function readTopicLine(row: Row, columns: Columns<TopicColumn>, by: LineBy): ReadLine {
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
    const text = column === 'title' || column === 'place' ? cleanText(cell(column)) : composed(cell(column))
    if (text.length > most) fault(column, text, `This holds ${most.toLocaleString('en')} characters at most.`)
    return text
  }
  const title = within('title', LIMITS.title)
  if (title === '') fault('title', '', 'The title is missing.')
  const seats = /^(none|no limit|unlimited)$/i.test(cell('seats')) ? ('none' as const) : count('seats')
  const floor = count('floor')
  if (typeof seats === 'number' && floor !== null && floor > seats)
    fault('floor', String(floor), `The floor is above the ${seats} seats; no group could reach it.`)
  const { startsAt, endsAt } = slot()
  const link = within('link', LIMITS.link)
  if (link !== '' && !/^https?:\/\/\S+$/i.test(link))
    fault('link', link, 'A link begins with https:// or http://.')
  return {
    line: row.line,
    title,
    brief: within('brief', LIMITS.brief),
    seats,
    floor,
    startsAt,
    endsAt,
    place: within('place', LIMITS.place),
    link,
    section: cleanText(cell('section')),
    offered: either('offered', YES, NO, 'This is yes or no; empty is yes.'),
    mixed: either(
      'one group for',
      MIXED,
      EACH,
      'This is “everybody” or “each section”; empty is as the sheet says.',
    ),
    kept: keptSeats(),
    faults,
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

  function either(
    column: 'offered' | 'one group for',
    yes: ReadonlySet<string>,
    no: ReadonlySet<string>,
    message: string,
  ): boolean | null {
    const word = cleanText(cell(column)).toLowerCase()
    if (word === '') return null
    if (yes.has(word) || no.has(word)) return yes.has(word)
    fault(column, word, message)
    return null
  }

  function keptSeats(): KeptSeat[] {
    return keptItems(cell('kept free')).flatMap((item): KeptSeat[] => {
      if (item.note.length > LIMITS.place) {
        fault('kept free', item.note, `What a seat is kept for holds ${LIMITS.place} characters at most.`)
        return []
      }
      if (item.quoted) return [{ note: item.note }]
      const address =
        /<([^<>]+)>$/.exec(item.note)?.[1] ?? (isEmail(normalEmail(item.note)) ? item.note : null)
      const found =
        address === null
          ? by.people?.filter(({ name }) => labelKey(name) === labelKey(item.note))
          : by.people?.filter(({ email }) => email === normalEmail(address))
      const [one] = found ?? []
      if (one && found?.length === 1) return [{ person: one.code }]
      if (one) fault('kept free', item.note, 'More than one student is called that. Give the address.')
      else if (address === null) return [{ note: item.note }]
      else if (by.people === null)
        fault('kept free', item.note, 'It is not known yet who is on the roster. Wait a moment.')
      else fault('kept free', item.note, 'No student whom this sheet is for has this address.')
      return []
    })
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

/** What seats are kept for, set off by semicolons; what stands in quotation marks is words, whatever it says. */
function keptItems(text: string): { note: string; quoted: boolean }[] {
  return [...text.matchAll(/\s*(?:"((?:[^"]|"")*)"|([^;\n]+))\s*(?:[;\n]|$)/g)].flatMap(
    ([, quoted, plain]) => {
      const note = (quoted?.replaceAll('""', '"') ?? plain ?? '').trim()
      return note === '' ? [] : [{ note, quoted: quoted !== undefined }]
    },
  )
}

/** Writes what seats are kept for, as `readTopicLine` reads it: people with their addresses, uses in words. */
export function writeKept(kept: readonly ({ name: string; email: string } | { note: string })[]): string {
  return kept
    .map((one) => {
      if ('email' in one) return /[;"<>\n]/.test(one.name) ? one.email : `${one.name} <${one.email}>`
      return /[;"<>@\n]/.test(one.note) ? `"${one.note.replaceAll('"', '""')}"` : one.note
    })
    .join('; ')
}
