import { TZDate, tzOffset } from '@date-fns/tz'
import { format } from 'date-fns'
import { HOUR, type Instant, instantFromMs, MINUTE, msOf } from './instant.ts'

/** A wall-clock time without a zone, `YYYY-MM-DDTHH:mm`, as a form field gives it. */
export type LocalTime = string

/** What a wall-clock time means in a zone: one instant, two (clocks go back), or none (clocks go forward). */
export type LocalReading =
  | { kind: 'one'; instant: Instant }
  | { kind: 'twice'; first: Instant; second: Instant }
  | { kind: 'never' }
  | { kind: 'malformed' }

const LOCAL = /^(\d{4})-(\d{2})-(\d{2})T(\d{2}):(\d{2})$/

/** What names of zones are written in; offsets such as `+05:30` are none. */
const NAME = /^[A-Za-z][\w+\-/]{0,63}$/

/** True when the name is an IANA time zone that this machine knows. */
export function isZone(zone: string): boolean {
  if (!NAME.test(zone)) return false
  try {
    // The platform itself is asked: the package for zones takes words that every object answers to for some.
    new Intl.DateTimeFormat('en', { timeZone: zone })
    return true
  } catch {
    return false
  }
}

/**
 * Reads a wall-clock time in an IANA zone.
 * Where clocks go back the time occurs twice, where they go forward it does not occur; both are told apart,
 * so that nobody's window opens an hour off without anyone having said so.
 */
export function readLocalTime(local: LocalTime, zone: string): LocalReading {
  const match = LOCAL.exec(local)
  if (!match) return { kind: 'malformed' }
  const [year, month, day, hour, minute] = match.slice(1).map(Number) as [
    number,
    number,
    number,
    number,
    number,
  ]
  const asUtc = Date.UTC(year, month - 1, day, hour, minute)
  const wall = new Date(asUtc)
  const exists = wall.getUTCMonth() === month - 1 && wall.getUTCDate() === day && hour < 24 && minute < 60
  if (!exists) return { kind: 'malformed' }
  const offsets = [tzOffset(zone, new Date(asUtc - 24 * HOUR)), tzOffset(zone, new Date(asUtc + 24 * HOUR))]
  const candidates = [...new Set(offsets)]
    .map((offset) => ({ ms: asUtc - offset * MINUTE, offset }))
    .filter(({ ms, offset }) => tzOffset(zone, new Date(ms)) === offset)
    .map(({ ms }) => ms)
    .sort((a, b) => a - b)
  const [first, second] = candidates
  if (first === undefined) return { kind: 'never' }
  if (second === undefined) return { kind: 'one', instant: instantFromMs(first) }
  return { kind: 'twice', first: instantFromMs(first), second: instantFromMs(second) }
}

/** The wall-clock time of an instant in a zone, as a form field takes it. */
export function localTimeOf(instant: Instant, zone: string): LocalTime {
  return format(new TZDate(msOf(instant), zone), "yyyy-MM-dd'T'HH:mm")
}

/**
 * An instant as long after `to` as it was after `from`, counted by the clocks on the wall: what was on a Tuesday at
 * 17:00 is on a Tuesday at 17:00, whatever clock change lies between and whatever the two zones are. A time that the
 * clocks skip there becomes the one an hour later; one that they show twice, the first.
 */
export function movedAlong(
  instant: Instant,
  from: { at: Instant; zone: string },
  to: { at: Instant; zone: string },
): Instant {
  const wall = (at: Instant, zone: string) => msOf(at) + tzOffset(zone, new Date(msOf(at))) * MINUTE
  const aim = wall(to.at, to.zone) + wall(instant, from.zone) - wall(from.at, from.zone)
  const within = ((aim % MINUTE) + MINUTE) % MINUTE
  const read = (ms: number) => readLocalTime(new Date(ms).toISOString().slice(0, 16), to.zone)
  const there = read(aim).kind === 'never' ? read(aim + HOUR) : read(aim)
  const minute = there.kind === 'one' ? there.instant : there.kind === 'twice' ? there.first : null
  return minute === null ? instantFromMs(aim) : instantFromMs(msOf(minute) + within)
}

/**
 * The instant at which clocks of another zone show what those of the first show at an instant. A time that clocks skip
 * there becomes the one an hour later; one that they show twice, the first.
 */
export function sameClock(instant: Instant, from: string, to: string): Instant {
  const noon = (zone: string) => {
    const reading = readLocalTime('2020-06-15T12:00', zone)
    return { at: reading.kind === 'one' ? reading.instant : instant, zone }
  }
  return movedAlong(instant, noon(from), noon(to))
}

/** An instant with the zone’s offset (ISO 8601, RFC 3339): `2026-05-13T17:00:00+02:00`. */
export function withOffset(instant: Instant, zone: string): string {
  return format(new TZDate(msOf(instant), zone), "yyyy-MM-dd'T'HH:mm:ssxxx")
}

/** An instant in words with weekday, day, month and time in the zone: `Wed 13 May, 17:00`. */
export function sayInstant(instant: Instant, zone: string): string {
  return format(new TZDate(msOf(instant), zone), 'EEE d MMM, HH:mm')
}

/** An instant in words with its year, for what is printed and kept: `Wed 13 May 2026, 17:00`. */
export function sayInstantWithYear(instant: Instant, zone: string): string {
  return format(new TZDate(msOf(instant), zone), 'EEE d MMM yyyy, HH:mm')
}

/** An instant's day in the zone: `13 May`. */
export function sayDay(instant: Instant, zone: string): string {
  return format(new TZDate(msOf(instant), zone), 'd MMM')
}

/** An instant's time of day in the zone: `17:00`. */
export function sayTime(instant: Instant, zone: string): string {
  return format(new TZDate(msOf(instant), zone), 'HH:mm')
}

/** The instants at which days begin in the zone, from the day of `from` up to `to`. */
export function dayStarts(from: Instant, to: Instant, zone: string): Instant[] {
  const start = new TZDate(msOf(from), zone)
  const days: Instant[] = []
  for (let i = 0; i < 400; i++) {
    const day = new TZDate(start.getFullYear(), start.getMonth(), start.getDate() + i, zone)
    if (day.getTime() > msOf(to)) break
    days.push(instantFromMs(day.getTime()))
  }
  return days
}

/** When something takes place, in the zone: `Wed 13 May, 17:00 to 18:30`. */
export function saySlot(startsAt: Instant, endsAt: Instant | null, zone: string): string {
  if (endsAt === null) return sayInstant(startsAt, zone)
  const sameDay = sayDay(startsAt, zone) === sayDay(endsAt, zone)
  return `${sayInstant(startsAt, zone)} to ${sameDay ? sayTime(endsAt, zone) : sayInstant(endsAt, zone)}`
}

/** True when clocks in the zone change within six hours of the instant. */
export function changesClocks(instant: Instant, zone: string): boolean {
  const around = [-6, 6].map((hours) => tzOffset(zone, new Date(msOf(instant) + hours * HOUR)))
  return around[0] !== around[1]
}
