import Papa from 'papaparse'
import { cleanText } from '../text.ts'

/** Something wrong in a file: where, and what would be right. */
export interface LineFault {
  line: number
  /** The column concerned, or `line` for the whole line. */
  field: string
  /** What stands there, cut to a readable length. */
  found: string
  message: string
}

/** One line of a file, by its number in the file (from 1). */
export interface Row {
  line: number
  cells: string[]
  /** True when quotation marks in it do not fit. */
  broken: boolean
}

/** Where each known column stands in a line, counted from 0. */
export type Columns<Column extends string> = { [C in Column]?: number | undefined }

/** Lines, quotation marks and separators that a table of people may have: more is none, and reading it would take long. */
const MOST = { lines: 12_000, quotes: 60_000, separators: 240_000 }
const COUNTED = { lines: 'lines', quotes: 'quotation marks', separators: 'commas' }

/** Why a text is no table of people, seen before it is read; null where it may be one. */
export function tableFault(text: string): string | null {
  const end = endOf(text)
  const counts = { lines: 1, quotes: 0, separators: 0 }
  for (let at = 0; at < end; at++) {
    const what = countedAt(text, at)
    if (!what) continue
    counts[what] += 1
    if (counts[what] > MOST[what])
      return `It has more than ${MOST[what].toLocaleString('en')} ${COUNTED[what]}, so it is no table of people. Choose another file.`
  }
  return null
}

/** What a character adds to, if anything. */
function countedAt(text: string, at: number): keyof typeof MOST | null {
  const letter = text[at]
  if (letter === '\n' || (letter === '\r' && text[at + 1] !== '\n')) return 'lines'
  if (letter === '"') return 'quotes'
  return letter === ',' || letter === ';' || letter === '\t' ? 'separators' : null
}

/** Where a table ends: what spreadsheets leave behind the last line with something in it is no part of it. */
function endOf(text: string): number {
  let end = text.length
  while (end > 0 && ' \t\r\n,;'.includes(text[end - 1] ?? '')) end -= 1
  // The rest of that line is its own.
  while (end < text.length && text[end] !== '\n' && text[end] !== '\r') end += 1
  return end
}

const SEPARATORS = [',', ';', '\t'] as const

/** Characters of a text that are looked at: thousands of lines say enough. */
const LOOKED_AT = 300_000

/** Lines that a quoted cell may go over: past that the quotation mark was one in the text. */
const LONGEST_CELL = 200
/** Such marks after which none is looked at any more. */
const MOST_STRAY = 20

/**
 * Which separator a table has, seen from its lines that have something in them (of a very long one the first
 * thousands): the one by which most lines have equally many cells. None, where the first line has none of them and most
 * lines have none either.
 */
export function separatorOf(whole: string): string {
  const text =
    whole.length > LOOKED_AT ? whole.slice(0, whole.lastIndexOf('\n', LOOKED_AT) + 1) || whole : whole
  const found = SEPARATORS.map((separator) => ({ separator, ...evennessOf(text, separator) }))
  const [best] = found.toSorted((a, b) => b.share - a.share || b.cells - a.cells)
  return best && best.share > 0 ? best.separator : NO_SEPARATOR
}

/** Stands in no text of ours: a table with it has one column. */
const NO_SEPARATOR = '\u001F'

/** How many lines of a text have the same number of cells by a separator, as a part of all, and how many cells that is. */
function evennessOf(text: string, separator: string): { share: number; cells: number } {
  const times = new Map<number, number>()
  let lines = 0
  let cells = 1
  let first = 0
  let empty = true
  // Where a cell in quotation marks began; -1 outside of one.
  let quoted = -1
  let within = 0
  let stray = 0
  const endLine = () => {
    if (!empty) {
      if (lines === 0) first = cells
      lines += 1
      if (cells > 1) times.set(cells, (times.get(cells) ?? 0) + 1)
    }
    cells = 1
    empty = true
  }
  let begins = true
  for (let at = 0; at < text.length; at++) {
    const letter = text[at]
    if (quoted >= 0) {
      if (letter === '"') {
        if (text[at + 1] === '"') at += 1
        else quoted = -1
      } else if (letter === '\n' && ++within > LONGEST_CELL) {
        at = quoted
        quoted = -1
        stray += 1
        begins = false
      }
      continue
    }
    if (letter === '"' && begins && stray < MOST_STRAY) {
      quoted = at
      within = 0
      empty = false
    } else if (letter === separator) cells += 1
    else if (letter === '\n' || letter === '\r') endLine()
    else if (letter !== ' ' && !SEPARATORS.some((one) => one === letter)) empty = false
    begins = letter === separator || letter === '\n' || letter === '\r' || (begins && letter === ' ')
  }
  endLine()
  const most = Math.max(0, ...times.values())
  const [usual = 1] = [...times].filter(([, n]) => n === most).map(([cells]) => cells)
  const share = lines === 0 ? 0 : most / lines
  // Commas in some lines of a list are commas.
  return { share: share >= 0.5 || first > 1 ? share : 0, cells: usual }
}

/** A line that says which separator follows, as some spreadsheets write it. */
const SAYS_SEPARATOR = /^\s*sep=(.)[,;\t ]*(?:\r\n|\n|\r)/i

/**
 * Reads text as a table (RFC 4180; comma, semicolon or tab; with or without a byte order mark). Blank lines are
 * passed over, cells trimmed, and a mark that kept a spreadsheet from reading a cell as a formula is taken off.
 */
export function readRows(text: string): Row[] {
  const rows: Row[] = []
  const whole = text.slice(text.startsWith('\uFEFF') ? 1 : 0, Math.max(1, endOf(text)))
  const told = SAYS_SEPARATOR.exec(whole)
  const content = told ? whole.slice(told[0].length) : whole
  const delimiter = told?.[1] ?? separatorOf(content)
  let line = told ? 2 : 1
  let at = 0
  Papa.parse<string[]>(content, {
    delimiter,
    step: ({ data, errors, meta }) => {
      if (data.some((cell) => cell.trim() !== '')) {
        rows.push({ line, cells: data.map(plain), broken: errors.some(({ type }) => type === 'Quotes') })
      }
      // A break of two signs may lie across two steps; it counts once.
      const from = content[at] === '\n' && content[at - 1] === '\r' ? at + 1 : at
      line += content.slice(from, meta.cursor).match(/\r\n|\n|\r/g)?.length ?? 0
      at = meta.cursor
    },
  })
  return rows
}

/** Lines among which headings are looked for: above them stand titles, at most. */
const HEADINGS_AMONG = 10

/**
 * Finds the line of headings: the first of a few that names enough.
 * @returns where it is among the rows, with the columns it names; null where no line does
 */
export function findHeadings<Column extends string>(
  rows: readonly Row[],
  spellings: Readonly<Record<Column, readonly string[]>>,
  enough: (columns: Columns<Column>) => boolean,
): { at: number; columns: Columns<Column> } | null {
  for (const [at, { cells }] of rows.slice(0, HEADINGS_AMONG).entries()) {
    const columns = recogniseColumns(cells, spellings)
    if (enough(columns)) return { at, columns }
  }
  return null
}

/** Finds the known columns in a header, by common spellings, whatever their order and case. */
export function recogniseColumns<Column extends string>(
  header: readonly string[],
  spellings: Readonly<Record<Column, readonly string[]>>,
): Columns<Column> {
  const columns: Columns<Column> = {}
  header.forEach((cell, index) => {
    // “E-mail *” and “Name:” are what forms make of them.
    const word = cleanText(cell.replaceAll('_', ' '))
      .toLowerCase()
      .replace(/[\s*:]+$/, '')
    const column = (Object.keys(spellings) as Column[]).find((key) => spellings[key].includes(word))
    if (column && columns[column] === undefined) columns[column] = index
  })
  return columns
}

/** The cell of a column in a line; empty when the file has no such column. */
export function cellOf<Column extends string>(row: Row, columns: Columns<Column>, column: Column): string {
  const index = columns[column]
  return index === undefined ? '' : (row.cells[index] ?? '')
}

/** Columns without those that somebody said are not there. */
export function without<Column extends string>(columns: Columns<Column>): Columns<Column> {
  const there = Object.entries<number | undefined>(columns).filter(([, at]) => at !== undefined && at >= 0)
  return Object.fromEntries(there) as Columns<Column>
}

/** Columns named of those that are not read. */
const MOST_UNREAD = 8

/** The names of columns that are not read, each in quotation marks, the first of them where there are many. */
export function unreadColumns(head: readonly string[], read: Iterable<number | undefined>): string[] {
  const known = new Set(read)
  const names = head.flatMap((cell, at) => {
    const name = cleanText(cell)
    return name === '' || known.has(at) ? [] : [`“${short(name)}”`]
  })
  return names.length > MOST_UNREAD
    ? [...names.slice(0, MOST_UNREAD), `and ${names.length - MOST_UNREAD} more`]
    : names
}

/** What of a table with headings is passed over, in sentences: lines above them, columns, and what is behind the last. */
export function passedOver(all: readonly Row[], at: number, read: Iterable<number | undefined>): string[] {
  const head = all[at]?.cells ?? []
  const names = unreadColumns(head, read)
  return [
    ...titlesPassed(all, at),
    ...(names.length > 0 ? [`Not read: ${names.join(', ')}.`] : []),
    ...surplus(all.slice(at + 1), head.length),
  ]
}

/** Says which lines above the headings were passed over; `at` is where the headings are among the rows. */
export function titlesPassed(rows: readonly Row[], at: number): string[] {
  const [first, last] = [rows[0], rows[at - 1]]
  if (!first || !last) return []
  const which = first === last ? `Line ${first.line}` : `Lines ${first.line} to ${last.line}`
  return [
    `${which} above the headings ${first === last ? 'was' : 'were'} passed over: “${short(first.cells.join(' ').trim())}”.`,
  ]
}

/** Lines named of those that have more in them than there are columns. */
const NAMED = 5

/** Says what stands behind the last column of a table, and is not read. */
export function surplus(rows: readonly Row[], width: number): string[] {
  const past = rows.flatMap(({ line, cells }) => {
    const more = cells.slice(width).filter((cell) => cell !== '')
    return more.length > 0 ? [`“${short(more.join(', '))}” in line ${line}`] : []
  })
  if (past.length === 0) return []
  const named = past.slice(0, NAMED).join('; ')
  const others = past.length > NAMED ? `, and more in ${past.length - NAMED} other lines` : ''
  return [
    `Behind the last column stands something that is not read: ${named}${others}. A comma within a cell needs quotation marks around the cell.`,
  ]
}

/** Writes a table as CSV that a spreadsheet opens without taking any cell for a formula, and that reads back the same. */
export function writeTable(head: readonly string[], rows: readonly (readonly string[])[]): string {
  return Papa.unparse({ fields: [...head], data: rows.map((row) => row.map(guarded)) }, { newline: '\r\n' })
}

/** What a spreadsheet takes for a formula, or would once marks that guard it were taken off. */
const FORMULA = /^'*[=+\-@\t\r]/

function guarded(cell: string): string {
  return FORMULA.test(cell) ? `'${cell}` : cell
}

function plain(cell: string): string {
  const text = cell.trim()
  return text.startsWith("'") && FORMULA.test(text.slice(1)) ? text.slice(1) : text
}

/** A text cut to what fits beside a message. */
export function short(text: string): string {
  return text.length > 60 ? `${text.slice(0, 59)}…` : text
}
