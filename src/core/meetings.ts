import { type Instant, instantFromMs, MINUTE, msOf } from './instant.ts'
import { type LocalTime, localTimeOf, readLocalTime } from './zone.ts'

/** Most weeks that a weekly meeting goes on, and minutes that one lasts. */
export const MOST_WEEKS = 30
export const MOST_MINUTES = 12 * 60

/** A meeting: once, or each week at the same hour on the wall. */
export interface MeetingTimes {
  startsAt: Instant
  minutes: number
  /** How many weeks it takes place; 1 for once. */
  weeks: number
  /** Days on which it does not, `YYYY-MM-DD` in the course's zone. */
  skipped: readonly string[]
}

/** One time at which a meeting takes place. */
export interface Occurrence {
  /** Its day in the course's zone: what names it among the others. */
  day: string
  startsAt: Instant
  endsAt: Instant
}

/**
 * When a meeting takes place, those days left out on which it does not. Each week is at the same hour on the wall: an
 * hour that the clocks skip that day becomes the one after it, one that they show twice the first.
 */
export function occurrences({ startsAt, minutes, weeks, skipped }: MeetingTimes, zone: string): Occurrence[] {
  const local = localTimeOf(startsAt, zone)
  return Array.from({ length: weeks }, (_, week): Occurrence => {
    const at = daysLater(local, 7 * week)
    const start = week === 0 ? startsAt : instantAt(at, zone)
    return {
      day: at.slice(0, 10),
      startsAt: start,
      endsAt: instantFromMs(msOf(start) + minutes * MINUTE),
    }
  }).filter(({ day }) => !skipped.includes(day))
}

function daysLater(local: LocalTime, days: number): LocalTime {
  const [day = '', time = ''] = local.split('T')
  const date = new Date(`${day}T00:00:00Z`)
  date.setUTCDate(date.getUTCDate() + days)
  return `${date.toISOString().slice(0, 10)}T${time}`
}

function instantAt(local: LocalTime, zone: string): Instant {
  const reading = readLocalTime(local, zone)
  if (reading.kind === 'one') return reading.instant
  if (reading.kind === 'twice') return reading.first
  const [day = '', time = ''] = local.split('T')
  const hour = Number(time.slice(0, 2))
  return hour < 23
    ? instantAt(`${day}T${String(hour + 1).padStart(2, '0')}${time.slice(2)}`, zone)
    : instantFromMs(0)
}

/** Hours of a week, Monday from midnight on: `0` for each in which somebody cannot, `1` for each in which they can. */
export const WEEK_HOURS = 7 * 24
export const NEVER = '0'.repeat(WEEK_HOURS)

/** True for a week of hours as it is kept. */
export function isWeek(hours: string): boolean {
  return hours.length === WEEK_HOURS && /^[01]+$/.test(hours)
}

/** A time of the week that would suit. */
export interface SuitingTime<Key> {
  /** The hour of the week at which it begins, 0 for Monday at midnight. */
  hour: number
  /** Those who can for the whole length, and those who cannot, in the order given. */
  can: Key[]
  cannot: Key[]
}

/**
 * The times of the week that suit most, best first: those at which most can for the whole length; among equals the
 * earliest in the week. Times at which fewer than two can are none. A time that runs into another good one as part of
 * the same stretch is named once, at its beginning.
 * @param weeks the hours of each who has said when they can
 * @param length hours that it lasts, within one day
 */
export function suitingTimes<Key>(
  weeks: ReadonlyMap<Key, string>,
  length: number,
  most = 3,
): SuitingTime<Key>[] {
  const people = [...weeks.keys()]
  const canAt = (hour: number) =>
    people.filter((one) =>
      Array.from({ length }, (_, i) => weeks.get(one)?.[hour + i] === '1').every((can) => can),
    )
  const all: SuitingTime<Key>[] = []
  for (let hour = 0; hour < WEEK_HOURS; hour++) {
    if (Math.floor(hour / 24) !== Math.floor((hour + length - 1) / 24)) continue
    const can = canAt(hour)
    if (can.length < 2) continue
    const cannot = people.filter((one) => !can.includes(one))
    all.push({ hour, can, cannot })
  }
  // Of a stretch in which the same people can, its beginning stands for it.
  const begins = all.filter((one, i) => {
    const before = all[i - 1]
    return !(before && before.hour === one.hour - 1 && sameKeys(before.can, one.can))
  })
  return begins.toSorted((a, b) => b.can.length - a.can.length || a.hour - b.hour).slice(0, most)
}

function sameKeys<Key>(a: readonly Key[], b: readonly Key[]): boolean {
  return a.length === b.length && a.every((one, i) => one === b[i])
}

/** The next moment at which an hour of the week begins, as a wall-clock time of a zone, later than `now`. */
export function nextAt(hour: number, now: Instant, zone: string): LocalTime {
  const today = localTimeOf(now, zone)
  const weekday = (new Date(`${today.slice(0, 10)}T00:00:00Z`).getUTCDay() + 6) % 7
  const time = `${String(hour % 24).padStart(2, '0')}:00`
  const ahead = (Math.floor(hour / 24) - weekday + 7) % 7
  const first = daysLater(`${today.slice(0, 10)}T${time}`, ahead)
  return first > today ? first : daysLater(first, 7)
}
