import { DAY, type Instant, shift } from '../core/instant.ts'
import { IDLE_DAYS, SESSION_DAYS } from './access/sessions.ts'
import type { Stores } from './stores.ts'

/** Days for which is kept what is of use for a while only. What is not named here is kept for as long as its course. */
export const KEPT_DAYS = {
  /** Codes and links to sign in, from their end. */
  codes: 1,
  /** The answers that claims got, for a page that sends its claim again. */
  claimAnswers: 7,
  /** Mail that was sent, kept or given up: to whom, about what, how it went. The text goes once it is sent. */
  mail: 90,
  /** How a roster was before its last change. */
  rosterUndo: 60,
  /** What went out to calendars, from its last change. */
  calendarEntries: 730,
} as const

/** Forgets what is kept for a while only. Each statement finds its rows by an index. */
export function sweepRows(
  { access, calendar, mail, nudges, seats, roster, notices }: Stores,
  now: Instant,
): void {
  const ago = (days: number) => shift(now, -days * DAY)
  access.dropCodesExpiredBefore(ago(KEPT_DAYS.codes))
  access.dropSessions(ago(IDLE_DAYS), ago(SESSION_DAYS))
  seats.dropAnswers(ago(KEPT_DAYS.claimAnswers))
  mail.dropTexts(now)
  mail.drop(ago(KEPT_DAYS.mail), nudges.mailIds())
  roster.dropUndosBefore(ago(KEPT_DAYS.rosterUndo))
  calendar.dropEntriesBefore(ago(KEPT_DAYS.calendarEntries))
  notices.forget(ago(1))
}
