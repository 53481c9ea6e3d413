import { addDays, format, parseISO } from 'date-fns'

/** Names for many topics at once. `#` in the pattern stands for what counts. */
export type NamePattern =
  | { kind: 'numbers' | 'letters'; pattern: string; count: number; first: number }
  | { kind: 'weekdays'; pattern: string; days: readonly number[] }
  | {
      kind: 'slots'
      pattern: string
      /** The first day, `YYYY-MM-DD`, and for how many weeks it comes back. */
      firstDay: string
      weeks: number
      /** From and to, `HH:mm`, cut into slots of so many minutes. */
      from: string
      to: string
      minutes: number
    }

/** What stands for the section in the name of a group that is made in each section. */
export const SECTION_MARK = '§'

/** Whether a name is another in each section. */
export const namesSection = (title: string): boolean => title.includes(SECTION_MARK)

/** A name as it is in a section; where there is none, the mark falls away. */
export const inSection = (title: string, section: string | null): string =>
  title
    .replaceAll(SECTION_MARK, section ?? '')
    .replace(/\s+/g, ' ')
    .trim()

/** A topic that a pattern makes. Times are wall-clock times, `YYYY-MM-DDTHH:mm`. */
export interface PatternTopic {
  title: string
  startsAt: string | null
  endsAt: string | null
}

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']

/** The topics that a pattern makes, in order, up to `most`. A pattern without `#` gets what counts at its end. */
export function topicsOfPattern(pattern: NamePattern, most: number): PatternTopic[] {
  const fill = (count: string) => {
    const text = pattern.pattern.trim()
    return (text.includes('#') ? text.replaceAll('#', count) : `${text} ${count}`).trim()
  }
  const undated = (count: string): PatternTopic => ({ title: fill(count), startsAt: null, endsAt: null })
  switch (pattern.kind) {
    case 'numbers':
      return range(pattern.count, most).map((i) => undated(String(pattern.first + i)))
    case 'letters':
      return range(pattern.count, most).map((i) => undated(letters(pattern.first + i)))
    case 'weekdays':
      return pattern.days.slice(0, most).map((day) => undated(WEEKDAYS[day] ?? ''))
    case 'slots':
      return slots(pattern, most).map(({ day, from, to }) => ({
        title: fill(`${format(parseISO(day), 'EEE d MMM')}, ${from}`),
        startsAt: `${day}T${from}`,
        endsAt: `${day}T${to}`,
      }))
  }
}

function range(count: number, most: number): number[] {
  return Array.from({ length: Math.max(0, Math.min(count, most)) }, (_, i) => i)
}

/** 1 is A, 26 is Z, 27 is AA, as spreadsheets count. */
function letters(n: number): string {
  let left = n
  let text = ''
  while (left > 0) {
    const digit = (left - 1) % 26
    text = String.fromCharCode(65 + digit) + text
    left = (left - 1 - digit) / 26
  }
  return text
}

function slots(
  { firstDay, weeks, from, to, minutes }: Extract<NamePattern, { kind: 'slots' }>,
  most: number,
): { day: string; from: string; to: string }[] {
  const [start, end] = [minutesOf(from), minutesOf(to)]
  if (Number.isNaN(Date.parse(firstDay)) || start === null || end === null || minutes < 5) return []
  const made: { day: string; from: string; to: string }[] = []
  for (let week = 0; week < weeks; week++) {
    const day = format(addDays(parseISO(firstDay), 7 * week), 'yyyy-MM-dd')
    for (let at = start; at + minutes <= end && made.length < most; at += minutes) {
      made.push({ day, from: timeOf(at), to: timeOf(at + minutes) })
    }
  }
  return made
}

function minutesOf(time: string): number | null {
  const match = /^(\d{2}):(\d{2})$/.exec(time)
  return match ? Number(match[1]) * 60 + Number(match[2]) : null
}

function timeOf(minutes: number): string {
  return `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`
}
