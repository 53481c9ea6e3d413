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

/**
 * Reads text as a table (RFC 4180; comma, semicolon or tab; with or without a byte order mark). Blank lines are
 * passed over, cells trimmed, and a mark that kept a spreadsheet from reading a cell as a formula is taken off.
 */
export function readRows(text: string): Row[] {
  const rows: Row[] = []
  const content = text.replace(/^\uFEFF/, '')
  let line = 1
  let at = 0
  Papa.parse<string[]>(content, {
    delimitersToGuess: [',', ';', '\t'],
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
