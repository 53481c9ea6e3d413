import { DAY, HOUR, type Instant, MINUTE, msOf } from './instant.ts'

/** Where a sheet stands: open and closed follow from the window and the clock, nothing flips them. */
export type SheetState = 'draft' | 'scheduled' | 'open' | 'closed' | 'archived'

/** The four instants a sheet's state follows from. */
export interface SheetWindow {
  publishedAt: Instant | null
  opensAt: Instant | null
  closesAt: Instant | null
  archivedAt: Instant | null
}

/**
 * The state of a sheet at an instant.
 * The window is half open: a claim at the opening instant counts, one at the closing instant is late.
 * Published without an opening time means open from publishing on; without a closing time, open until archived.
 */
export function sheetState(window: SheetWindow, now: Instant): SheetState {
  if (window.archivedAt !== null && window.archivedAt <= now) return 'archived'
  if (window.publishedAt === null) return 'draft'
  if (window.opensAt !== null && now < window.opensAt) return 'scheduled'
  if (window.closesAt !== null && now >= window.closesAt) return 'closed'
  return 'open'
}

const WHOLE = [
  { ms: DAY, one: 'day', many: 'days' },
  { ms: HOUR, one: 'h', many: 'h' },
  { ms: MINUTE, one: 'min', many: 'min' },
]

/** A length of time in words with its two largest parts: `2 days 4 h`, `35 min`, `less than a minute`. */
export function sayLength(ms: number): string {
  if (ms < MINUTE) return 'less than a minute'
  const first = WHOLE.findIndex((part) => ms >= part.ms)
  let rest = ms
  const words: string[] = []
  for (const part of WHOLE.slice(first, first + 2)) {
    const count = Math.floor(rest / part.ms)
    rest -= count * part.ms
    if (count > 0) words.push(`${count} ${count === 1 ? part.one : part.many}`)
  }
  return words.join(' ')
}

/** What is wrong with a window's two ends, or null when they can be kept. */
export function windowFault(
  opensAt: Instant | null,
  closesAt: Instant | null,
): 'closes-before-opening' | null {
  if (opensAt === null || closesAt === null) return null
  return msOf(closesAt) <= msOf(opensAt) ? 'closes-before-opening' : null
}

/** The share of a window, and the longest time, for which a sheet counts as just opened. */
const FRESH_SHARE = 0.1
const FRESH_MOST = DAY

/**
 * Whether a sheet opened so lately that nobody can be blamed for an empty seat yet: within the first tenth of its
 * window, a day at the most.
 */
export function justOpened(
  { opensAt, closesAt }: Pick<SheetWindow, 'opensAt' | 'closesAt'>,
  now: Instant,
): boolean {
  if (opensAt === null || now < opensAt) return false
  const share = closesAt === null ? FRESH_MOST : (msOf(closesAt) - msOf(opensAt)) * FRESH_SHARE
  return msOf(now) - msOf(opensAt) < Math.min(FRESH_MOST, share)
}
