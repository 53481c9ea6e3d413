import { plainRoute } from './route.ts'

/** The address of one's calendar, as a path, or null while there is none. */
export interface CalendarFeed {
  path: string | null
  madeAt: string | null
}

/** The reader's dated seat in a group, as an iCalendar file (RFC 5545). */
export const seatCalendar = plainRoute<never>()('GET', '/api/sheets/:sheet/groups/:group/calendar', 'student')
/** All dated seats of whoever made the address, as iCalendar; whoever knows the address may read it. */
export const calendar = plainRoute<never>()('GET', '/api/calendars/:token', 'anyone')
export const calendarFeed = plainRoute<CalendarFeed>()('GET', '/api/calendar', 'signed-in')
/** Makes a new private address for one's calendar; the one before stops working. */
export const makeCalendarFeed = plainRoute<CalendarFeed>()('POST', '/api/calendar', 'signed-in')
/** Ends one's calendar address. */
export const endCalendarFeed = plainRoute<CalendarFeed>()('DELETE', '/api/calendar', 'signed-in')
