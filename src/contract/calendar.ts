import { plainRoute } from './route.ts'

/** The address of one's calendar, as a path, or null while there is none. */
export interface CalendarFeed {
  path: string | null
  madeAt: string | null
  /** Seats that the reader saved as calendar files and that are others now, or not theirs any more. */
  saved: SavedDate[]
}

/** A date that somebody saved as a file. Reading its file anew changes it in their calendar, or takes it out. */
export interface SavedDate {
  title: string
  startsAt: string
  /** The course’s zone. */
  zone: string
  /** The address of the file. */
  path: string
  /** Whether the seat is theirs no more: the file then takes the date out. */
  gone: boolean
}

/**
 * The reader's dated seat in a group, as an iCalendar file (RFC 5545); of one that they saved and do not hold any more, or
 * that has no date any more, what takes it out of a calendar.
 */
export const seatCalendar = plainRoute<never>()('GET', '/api/sheets/:sheet/groups/:group/calendar', 'student')
/**
 * Everything dated of whoever made the address, as iCalendar: a student's seats, meetings of their groups and tasks; of
 * staff what they look after. Whoever knows the address may read it.
 */
export const calendar = plainRoute<never>()('GET', '/api/calendars/:token', 'anyone')
export const calendarFeed = plainRoute<CalendarFeed>()('GET', '/api/calendar', 'signed-in')
/** Makes a new private address for one's calendar; the one before stops working. */
export const makeCalendarFeed = plainRoute<CalendarFeed>()('POST', '/api/calendar', 'signed-in')
/** Ends one's calendar address. */
export const endCalendarFeed = plainRoute<CalendarFeed>()('DELETE', '/api/calendar', 'signed-in')
