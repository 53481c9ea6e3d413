import { format, isValid, parse } from 'date-fns'
import type { LocalTime } from './zone.ts'

/** What somebody typed for a day, or for a day and a time. */
export type TypedReading =
  /** Nothing: the field is meant to be empty. */
  | { kind: 'empty' }
  /** A day `YYYY-MM-DD`, or a wall-clock time `YYYY-MM-DDTHH:mm`. */
  | { kind: 'whole'; local: LocalTime }
  /** On the way to one, or none at all: never to be taken for empty. */
  | { kind: 'unfinished'; why: string }

const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec']

interface Day {
  year: number | null
  month: number
  day: number
}

/** Days written in the ways that people write them; the day stands before the month where both are numbers. */
const DAYS: readonly [RegExp, (parts: string[]) => Day | null][] = [
  [/^(\d{4})-(\d{1,2})-(\d{1,2})/, ([, y, m, d]) => ({ year: Number(y), month: Number(m), day: Number(d) })],
  [
    /^(\d{1,2})[./](\d{1,2})[./](\d{4})/,
    ([, d, m, y]) => ({ year: Number(y), month: Number(m), day: Number(d) }),
  ],
  [/^(?:[a-z]+[.,]?\s+)?(\d{1,2})\.?\s+([a-z]{3,9})\.?(?:,?\s+(\d{4})\b)?/i, ([, d, m, y]) => named(d, m, y)],
  [
    /^(?:[a-z]+[.,]?\s+)?([a-z]{3,9})\.?\s+(\d{1,2})(?:st|nd|rd|th)?(?:,?\s+(\d{4})\b)?/i,
    ([, m, d, y]) => named(d, m, y),
  ],
]

function named(day = '', month = '', year: string | undefined): Day | null {
  const at = MONTHS.indexOf(month.slice(0, 3).toLowerCase())
  return at < 0 ? null : { year: year === undefined ? null : Number(year), month: at + 1, day: Number(day) }
}

/** Milliseconds that a day without a year may lie back: further back, next year’s is meant. */
const BACK = 31 * 24 * 3_600_000

/**
 * Reads a day, or a day and a time, as people type it: `13 May 2026, 17:00`, `2026-05-13 17:00`, `13.5.2026 17.00`,
 * `May 13, 5:00 pm`. A weekday in front is passed over. Without a year the next such day is meant.
 * @param near a day close to which a day without a year is meant, `YYYY-MM-DD`
 * @param time whether a time belongs to it
 */
export function readTyped(text: string, near: string, time: boolean): TypedReading {
  const typed = text.trim()
  if (typed === '') return { kind: 'empty' }
  for (const [pattern, read] of DAYS) {
    const match = pattern.exec(typed)
    const day = match && read([...match])
    if (!match || !day) continue
    const year = day.year ?? nextYear(day, near)
    const local = `${String(year).padStart(4, '0')}-${two(day.month)}-${two(day.day)}`
    if (!isValid(parse(local, 'yyyy-MM-dd', new Date(0))))
      return { kind: 'unfinished', why: `The calendar has no ${match[0].trim()}.` }
    const rest = typed.slice(match[0].length)
    if (!time) {
      return rest.trim() === ''
        ? { kind: 'whole', local }
        : { kind: 'unfinished', why: `“${rest.trim()}” after the day is not understood.` }
    }
    return withTime(local, rest)
  }
  return { kind: 'unfinished', why: `Write it as ${time ? '13 May 2026, 17:00' : '13 May 2026'}.` }
}

function withTime(day: string, rest: string): TypedReading {
  const typed = rest.replace(/^[\s,T]+(?:at\s+)?/i, '')
  if (typed === '') return { kind: 'unfinished', why: 'Add the time, for example 17:00.' }
  const match = /^(\d{1,2})[:.](\d{2})(?::00)?\s*(am|pm)?$/i.exec(typed)
  const half = match?.[3]?.toLowerCase()
  const hour = Number(match?.[1])
  const of = half === undefined ? hour : (hour % 12) + (half === 'pm' ? 12 : 0)
  const valid = match && of < 24 && Number(match[2]) < 60 && (half === undefined || (hour >= 1 && hour <= 12))
  if (!valid) return { kind: 'unfinished', why: 'The time is not whole. Write it as 17:00.' }
  return { kind: 'whole', local: `${day}T${two(of)}:${match[2]}` }
}

function nextYear({ month, day }: Day, near: string): number {
  const from = Date.parse(`${near}T00:00:00Z`)
  const year = Number(near.slice(0, 4))
  const found = [year - 1, year, year + 1].find((one) => Date.UTC(one, month - 1, day) >= from - BACK)
  return found ?? year
}

const two = (n: number) => String(n).padStart(2, '0')

/** A wall-clock time, or a day, as fields show it: `Wed 13 May 2026, 17:00`. What is neither stays as it is. */
export function sayTyped(local: LocalTime): string {
  const time = local.includes('T')
  const at = parse(local, time ? "yyyy-MM-dd'T'HH:mm" : 'yyyy-MM-dd', new Date(0))
  return isValid(at) ? format(at, time ? 'EEE d MMM yyyy, HH:mm' : 'EEE d MMM yyyy') : local
}
