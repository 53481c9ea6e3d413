/**
 * A point in time as UTC text, always `YYYY-MM-DDTHH:mm:ss.sssZ` (ISO 8601), so that comparing the texts
 * compares the times.
 */
export type Instant = string

/** The instant a number of milliseconds after the Unix epoch. */
export function instantFromMs(ms: number): Instant {
  return new Date(ms).toISOString()
}

/** Milliseconds from the Unix epoch to the instant. */
export function msOf(instant: Instant): number {
  return Date.parse(instant)
}

/** The instant that lies `ms` milliseconds after another (before it, when negative). */
export function shift(instant: Instant, ms: number): Instant {
  return instantFromMs(msOf(instant) + ms)
}

export const SECOND = 1_000
export const MINUTE = 60 * SECOND
export const HOUR = 60 * MINUTE
export const DAY = 24 * HOUR
