// Days and times of day as people write them in tables.

/** Which of two numbers before the year is the day: `13/05` or `05/13`. */
export type DayOrder = 'day-first' | 'month-first'

/** How the days of a column are written, as far as that can be told. */
export interface DaysRead {
  /** Null where nothing in it depends on that, or it cannot be told. */
  order: DayOrder | null
  /** True where days could be read either way, and nobody said which: they have to be asked about. */
  doubtful: boolean
}

const MONTHS = 'jan feb mar apr may jun jul aug sep oct nov dec'.split(' ')

/** `13/05/2026`, `13-5-26`, `5.13.2026`: two numbers and a year. */
const NUMBERS = /^(\d{1,2})([/.-])(\d{1,2})\2(\d{4}|\d{2})$/
/** `2026-05-13`, `2026/5/13`, `2026.05.13`. */
const YEAR_FIRST = /^(\d{4})([-/.])(\d{1,2})\2(\d{1,2})$/
/** `13 May 2026`, `13. May 2026`, `Wed 13 May 2026`. */
const DAY_MONTH = /^(?:\p{L}{2,9}\.?,? )?(\d{1,2})(?:st|nd|rd|th|\.)? ?(\p{L}{3,9})\.?,? (\d{4})$/iu
/** `May 13, 2026`, `Wed, May 13 2026`. */
const MONTH_DAY = /^(?:\p{L}{2,9}\.?,? )?(\p{L}{3,9})\.? (\d{1,2})(?:st|nd|rd|th)?,? (\d{4})$/iu

/**
 * Tells for a whole column whether days or months come first: one day past the 12th settles it. Dots are the order of the
 * day first wherever they are used. Where nothing settles it, it is doubtful, unless day and month are the same in all.
 * @param cells the column as it stands, empty cells and all
 */
export function dayOrderIn(cells: readonly string[]): DaysRead {
  let open = false
  const settled = new Set<DayOrder>()
  for (const cell of cells) {
    const [, one, sign, other] = NUMBERS.exec(dayPart(cell)) ?? []
    if (one === undefined || sign === '.') continue
    const [a, b] = [Number(one), Number(other)]
    if (a > 12 && b <= 12) settled.add('day-first')
    else if (b > 12 && a <= 12) settled.add('month-first')
    else if (a !== b) open = true
  }
  const [order] = settled
  // Lines that settle it both ways speak for themselves; those that could be either are doubtful then.
  if (settled.size === 1) return { order: order ?? null, doubtful: false }
  return { order: null, doubtful: open }
}

/**
 * Reads a day: ISO 8601, two numbers and a year (four digits or two, of this century), or a month by its English name.
 * @returns `2026-05-13`; null where it is none, or could be either of two
 */
export function readDay(text: string, order: DayOrder | null): string | null {
  const day = dayPart(text)
  const [, year, , month, date] = YEAR_FIRST.exec(day) ?? []
  if (year !== undefined) return dayOf(Number(year), Number(month), Number(date))
  const numbers = NUMBERS.exec(day)
  if (numbers) return fromNumbers(numbers, order)
  const [, first, named, named4] = DAY_MONTH.exec(day) ?? []
  if (first !== undefined) return dayOf(Number(named4), monthOf(named), Number(first))
  const [, name, second, year4] = MONTH_DAY.exec(day) ?? []
  return name === undefined ? null : dayOf(Number(year4), monthOf(name), Number(second))
}

function fromNumbers(
  [, one, sign, other, said = '']: RegExpExecArray,
  order: DayOrder | null,
): string | null {
  const [a, b] = [Number(one), Number(other)]
  const year = said.length === 2 ? 2000 + Number(said) : Number(said)
  const settled: DayOrder | null =
    sign === '.' || (a > 12 && b <= 12) || a === b ? 'day-first' : b > 12 && a <= 12 ? 'month-first' : order
  if (settled === null) return null
  return settled === 'day-first' ? dayOf(year, b, a) : dayOf(year, a, b)
}

/** What of a cell is the day, where it has a time behind it: `2026-05-13 14:30`, `2026-05-13T14:30:00`. */
function dayPart(text: string): string {
  const [, day] =
    /^(.*\d{4}|\d{4}[-/.]\d{1,2}[-/.]\d{1,2}|.*)(?:T|,? )\d{1,2}[:.]\d{2}(?::\d{2})?(?: ?[ap]\.?m\.?)?$/i.exec(
      text.trim(),
    ) ?? []
  return day ?? text.trim()
}

const monthOf = (name = '') => MONTHS.indexOf(name.slice(0, 3).toLowerCase()) + 1

function dayOf(year: number, month: number, day: number): string | null {
  const iso = `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`
  const ms = Date.parse(`${iso}T00:00:00Z`)
  return !Number.isNaN(ms) && new Date(ms).toISOString().startsWith(iso) ? iso : null
}

/** `14:30`, `14.30`, `14h30`, `14:30:00`, `1:30 pm`, `1 pm`; behind a day in the same cell, too. */
const TIME = /(?:^|[T ,])(\d{1,2})(?:[:.h](\d{2})(?::\d{2})?)? ?([ap])?\.?(?:m\.?)?$/i

/** Reads a time of day: `14:30`; null where it is none. */
export function readTime(text: string): string | null {
  const trimmed = text.trim()
  const [, hours, minutes, half] = TIME.exec(trimmed) ?? []
  if (hours === undefined || (minutes === undefined && half === undefined)) return null
  // A day alone ends in numbers, too.
  if (minutes === undefined && !/m\.?$/i.test(trimmed)) return null
  const said = Number(hours)
  if (half !== undefined && (said < 1 || said > 12)) return null
  const hour = half === undefined ? said : (said % 12) + (half.toLowerCase() === 'p' ? 12 : 0)
  const minute = Number(minutes ?? '0')
  if (hour > 23 || minute > 59) return null
  return `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`
}

/** The day after, `2026-05-14`. */
export function dayAfter(day: string): string {
  return new Date(Date.parse(`${day}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10)
}
