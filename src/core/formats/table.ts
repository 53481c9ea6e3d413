import Papa from 'papaparse'

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

/** Why a text is no table of people, seen before it is read; null where it may be one. */
export function tableFault(text: string): string | null {
  const end = endOf(text)
  const counts = { lines: 1, quotes: 0, separators: 0 }
  for (let at = 0; at < end; at++) {
    const letter = text[at]
    if (letter === '\n' || (letter === '\r' && text[at + 1] !== '\n')) counts.lines += 1
    else if (letter === '"') counts.quotes += 1
    else if (letter === ',' || letter === ';' || letter === '\t') counts.separators += 1
  }
  const too = (['lines', 'quotes', 'separators'] as const).find((one) => counts[one] > MOST[one])
  if (!too) return null
  const what = { lines: 'lines', quotes: 'quotation marks', separators: 'commas' }[too]
  return `It has more than ${MOST[too].toLocaleString('en')} ${what}, so it is no table of people. Choose another file.`
}

/** Where a table ends: what spreadsheets leave behind the last line with something in it is no part of it. */
function endOf(text: string): number {
  let end = text.length
  while (end > 0 && ' \t\r\n,;'.includes(text[end - 1] ?? '')) end -= 1
  // The rest of that line is its own.
  while (end < text.length && text[end] !== '\n' && text[end] !== '\r') end += 1
  return end
}

/** Characters from whose first lines it is seen which separator a table has. */
const SAMPLE = 8_000

/**
 * Reads text as a table (RFC 4180; comma, semicolon or tab; with or without a byte order mark). Blank lines are
 * passed over, cells trimmed, and a mark that kept a spreadsheet from reading a cell as a formula is taken off.
 */
export function readRows(text: string): Row[] {
  const rows: Row[] = []
  const content = text.slice(text.startsWith('\uFEFF') ? 1 : 0, Math.max(1, endOf(text)))
  const { delimiter } = Papa.parse(content.slice(0, SAMPLE), {
    delimitersToGuess: [',', ';', '\t'],
    preview: 10,
  }).meta
  let line = 1
  let at = 0
  Papa.parse<string[]>(content, {
    delimiter,
    step: ({ data, errors, meta }) => {
      if (data.some((cell) => cell.trim() !== '')) {
        rows.push({ line, cells: data.map(plain), broken: errors.some(({ type }) => type === 'Quotes') })
      }
      line += content.slice(at, meta.cursor).match(/\r\n|\n|\r/g)?.length ?? 0
      at = meta.cursor
    },
  })
  return rows
}

/** Finds the known columns in a header, by common spellings, whatever their order and case. */
export function recogniseColumns<Column extends string>(
  header: readonly string[],
  spellings: Readonly<Record<Column, readonly string[]>>,
): Columns<Column> {
  const columns: Columns<Column> = {}
  header.forEach((cell, index) => {
    const word = cell
      .toLowerCase()
      .replace(/[_\s]+/g, ' ')
      .trim()
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
