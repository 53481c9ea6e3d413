import ical, { ICalCalendarMethod, ICalEventStatus } from 'ical-generator'
import { HOUR, type Instant, msOf } from '../../core/instant.ts'
import { cleanText } from '../../core/text.ts'

/** Something dated, as it stands in a calendar: a seat, a meeting, a task that is due. */
export interface CalendarEntry {
  /** Stays the same for as long as what it stands for, so that a calendar changes its entry instead of adding one. */
  id: string
  title: string
  words: string
  place: string
  link: string
  startsAt: Instant
  /** Null for what has a start alone; equal to the start for a moment. */
  endsAt: Instant | null
}

/** An entry as it goes out to somebody: how often it was changed since it first did, and when last. */
export interface NumberedEntry extends CalendarEntry {
  sequence: number
  changedAt: Instant
}

/** How long a calendar program may keep what it read before it reads again. */
const AGAIN_SECONDS = 3_600

/**
 * Writes an iCalendar file (RFC 5545), times in UTC, each week of a weekly meeting as an entry of its own, so that its
 * hour stays the same over a clock change. Names of group mates are not in it: calendars are kept and shown by others.
 * @param now when the file is made
 * @param how `cancel` takes entries out of calendars that have them; `feed` says how often to read again
 */
export function calendarFile(
  name: string,
  entries: readonly NumberedEntry[],
  now: Instant,
  how: 'save' | 'feed' | 'cancel' = 'save',
): string {
  const calendar = ical({
    // The package writes the name as it is, so that it is escaped here.
    name: escaped(cleanText(name)),
    prodId: { company: 'Haplon', product: 'Haplon', language: 'EN' },
    method: how === 'cancel' ? ICalCalendarMethod.CANCEL : ICalCalendarMethod.PUBLISH,
    ...(how === 'feed' && { ttl: AGAIN_SECONDS }),
  })
  const links = new Map<string, string>()
  for (const { id, title, words, place, link, startsAt, endsAt, sequence, changedAt } of entries) {
    const start = msOf(startsAt)
    const url = safeLink(link)
    const uid = `${id}@haplon`
    if (url !== '') links.set(uid, url)
    calendar.createEvent({
      id: uid,
      sequence,
      stamp: new Date(msOf(now)),
      lastModified: new Date(msOf(changedAt)),
      start: new Date(start),
      // What has a start alone is taken to last an hour.
      end: new Date(endsAt === null ? start + HOUR : msOf(endsAt)),
      summary: cleanText(title),
      description: [words, url].filter(Boolean).map(cleanText).join('\n'),
      ...(how === 'cancel' && { status: ICalEventStatus.CANCELLED }),
      ...(place !== '' && { location: cleanText(place) }),
    })
  }
  return mended(calendar.toString(), links)
}

/** A text as a property of text holds it (RFC 5545, 3.3.11). */
const escaped = (text: string) => text.replace(/[\\;,]/g, (sign) => `\\${sign}`)

/** A link as an address has it: signs that stand in none are written as their codes. */
const safeLink = (link: string) =>
  link.replace(/[\s"<>\\^`{|}\p{Cc}\p{Cf}]/gu, (sign) => encodeURIComponent(sign))

/** What says that times are in UTC; a calendar without an entry needs some part (RFC 5545, 3.6). */
const UTC = [
  'BEGIN:VTIMEZONE',
  'TZID:UTC',
  'BEGIN:STANDARD',
  'DTSTART:19700101T000000',
  'TZOFFSETFROM:+0000',
  'TZOFFSETTO:+0000',
  'END:STANDARD',
  'END:VTIMEZONE',
]

/**
 * Puts right what the package does otherwise than the standard: links are no text and have nothing escaped in them
 * (3.3.13), a calendar has at least one part (3.6), and the last line ends as every other (3.1).
 */
function mended(written: string, links: ReadonlyMap<string, string>): string {
  const lines = written
    .replace(/\r\n[ \t]/g, '')
    .split('\r\n')
    .filter(Boolean)
  const whole = lines.flatMap((line) => {
    const link = line.startsWith('UID:') ? links.get(line.slice(4)) : undefined
    return link === undefined ? [line] : [line, `URL:${link}`]
  })
  if (!whole.includes('BEGIN:VEVENT')) whole.splice(-1, 0, ...UTC)
  return whole.map((line) => `${folded(line)}\r\n`).join('')
}

/** Octets of one line. */
const LINE = 75

/** A line broken where it is too long, never within a character (RFC 5545, 3.1). */
function folded(line: string): string {
  const parts: string[] = []
  let part = ''
  let octets = 0
  for (const letter of line) {
    const more = Buffer.byteLength(letter)
    if (octets + more > LINE) {
      parts.push(part)
      // The space that a further line begins with counts.
      part = ''
      octets = 1
    }
    part += letter
    octets += more
  }
  return [...parts, part].join('\r\n ')
}
