import ical from 'ical-generator'
import { HOUR, type Instant, msOf } from '../../core/instant.ts'

/** A dated seat as it stands in a calendar. */
export interface CalendarSeat {
  /** Stays the same for as long as the seat does, so that a calendar changes its entry instead of adding one. */
  id: string
  title: string
  sheet: string
  course: string
  place: string
  link: string
  startsAt: Instant
  endsAt: Instant | null
}

/**
 * Writes seats as an iCalendar file (RFC 5545), times in UTC. Names of group mates are not in it: calendars are kept
 * and shown by others.
 * @param now when the file is made
 */
export function calendarFile(name: string, seats: readonly CalendarSeat[], now: Instant): string {
  const calendar = ical({ name, prodId: { company: 'Haplon', product: 'Haplon', language: 'EN' } })
  for (const { id, title, sheet, course, place, link, startsAt, endsAt } of seats) {
    const start = msOf(startsAt)
    calendar.createEvent({
      id: `${id}@haplon`,
      stamp: new Date(msOf(now)),
      start: new Date(start),
      // A seat with a start alone is taken to last an hour.
      end: new Date(endsAt === null ? start + HOUR : msOf(endsAt)),
      summary: `${title} (${sheet})`,
      description: link === '' ? course : `${course}\n${link}`,
      ...(place !== '' && { location: place }),
      ...(link !== '' && { url: link }),
    })
  }
  return calendar.toString()
}
