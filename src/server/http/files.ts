import type { Response } from 'express'
import type { Instant } from '../../core/instant.ts'
import { cleanText } from '../../core/text.ts'

/** A file to be handed out: its content with the media type. */
export interface ExportedFile {
  type: string
  content: string | Buffer
}

/** What tells spreadsheets that a text is UTF-8. */
const MARK = '\uFEFF'

/** Answers with a file to be saved, named from some words. A table of text begins with the mark that spreadsheets need. */
export function sendFile(res: Response, words: readonly string[], { type, content }: ExportedFile): void {
  res.setHeader('Content-Disposition', attachment(fileName(words)))
  const marked = type.startsWith('text/csv') && typeof content === 'string' ? MARK + content : content
  res.type(type).send(marked)
}

/** A name for a file from some words: letters and digits of every alphabet stay, what systems forbid does not. */
export function fileName(words: readonly string[]): string {
  return words
    .map((word) => cleanText(word).replace(/[\\/:*?"<>|]+/g, ' '))
    .join(' ')
    .replace(/[\s,;]+/g, '-')
    .replace(/^[.-]+/, '')
}

/**
 * The header for a file that is saved under a name: RFC 6266 with RFC 8187, the plain name for old readers, the real one
 * beside it.
 */
export function attachment(called: string): string {
  // Half a letter is none, and cannot be sent.
  const name = called.replace(/\p{Cs}/gu, '_')
  const plain = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/[^\w .-]/g, '_')
  const whole = encodeURIComponent(name).replace(
    /['()*]/g,
    (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`,
  )
  return `attachment; filename="${plain}"; filename*=UTF-8''${whole}`
}

/** What a cell of a workbook holds; of a moment the wall clock counts, as in `2026-05-13 17:00`. */
export type Cell = string | number | WallClock

/** A day and a time of day, whatever the zone. */
export interface WallClock {
  local: string
}

/** A cell for a wall clock as tables have it, `2026-05-13 17:00`; an empty one for none. */
export const moment = (local: string): Cell => (local === '' ? '' : { local })

const MOMENTS = 'yyyy-mm-dd hh:mm'
/** The same with its signs as texts, as the package for OpenDocument wants it. */
const QUOTED_MOMENTS = 'yyyy"-"mm"-"dd" "hh:mm'

/** A wall clock as programs for tables keep it: as if it were in UTC. */
const asDate = ({ local }: WallClock) => new Date(`${local.replace(' ', 'T')}Z`)

/** Kinds of workbooks: Office Open XML (ECMA-376) and OpenDocument (ISO/IEC 26300). */
export const WORKBOOKS = ['xlsx', 'ods'] as const
export type WorkbookKind = (typeof WORKBOOKS)[number]
const isWorkbook = (kind: string | undefined): kind is WorkbookKind => WORKBOOKS.some((one) => one === kind)

/** A workbook with one sheet. Cells hold text, numbers and moments only, so that none is ever a formula. */
async function workbook(
  kind: WorkbookKind,
  name: string,
  head: readonly string[],
  rows: readonly (readonly Cell[])[],
  now: Instant,
): Promise<ExportedFile> {
  const widths = head.map((title, i) =>
    Math.min(48, 2 + Math.max(title.length, ...rows.map((row) => lengthOf(row[i] ?? '')))),
  )
  const parts = { name, head, rows, widths }
  return kind === 'ods' ? openDocument(parts) : officeOpen(parts, now)
}

/** A table that goes out: as text, or as a sheet of a workbook. */
export interface TableOut {
  /** What the sheet of a workbook is called. */
  sheet: string
  head: readonly string[]
  rows: readonly (readonly Cell[])[]
  /** The same as text (RFC 4180). */
  csv: () => string
}

/** A table as a file of a kind, `csv` or one of workbooks; undefined for a kind that there is not. */
export async function tableFile(
  kind: string | undefined,
  { sheet, head, rows, csv }: TableOut,
  now: Instant,
): Promise<ExportedFile | undefined> {
  if (kind === 'csv') return { type: 'text/csv; charset=utf-8', content: csv() }
  return isWorkbook(kind) ? workbook(kind, sheet, head, rows, now) : undefined
}

const lengthOf = (cell: Cell) => (typeof cell === 'object' ? MOMENTS.length : String(cell).length)

interface Parts {
  name: string
  head: readonly string[]
  rows: readonly (readonly Cell[])[]
  widths: readonly number[]
}

async function officeOpen({ name, head, rows, widths }: Parts, now: Instant): Promise<ExportedFile> {
  // Large, and wanted seldom: loaded when the first workbook is.
  const { default: ExcelJS } = await import('exceljs')
  const book = new ExcelJS.Workbook()
  book.created = new Date(now)
  const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] })
  sheet.addRow([...head]).font = { bold: true }
  for (const row of rows) {
    // A cell with nothing in it is empty, so that counting and sorting pass over it.
    const added = sheet.addRow(
      row.map((cell) => (typeof cell === 'object' ? asDate(cell) : cell === '' ? null : cell)),
    )
    for (const [i, cell] of row.entries()) if (typeof cell === 'object') added.getCell(i + 1).numFmt = MOMENTS
  }
  sheet.autoFilter = { from: { row: 1, column: 1 }, to: { row: 1, column: Math.max(1, head.length) } }
  sheet.columns.forEach((column, i) => {
    column.width = widths[i] ?? 10
  })
  const type = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'
  return { type, content: Buffer.from(await book.xlsx.writeBuffer()) }
}

async function openDocument({ name, head, rows, widths }: Parts): Promise<ExportedFile> {
  const XLSX = await import('@e965/xlsx')
  const cells = rows.map((row) =>
    row.map((cell) =>
      cell === '' ? null : typeof cell === 'object' ? { t: 'd', v: asDate(cell), z: QUOTED_MOMENTS } : cell,
    ),
  )
  const sheet = XLSX.utils.aoa_to_sheet([[...head], ...cells], { UTC: true })
  sheet['!cols'] = widths.map((wch) => ({ wch }))
  const book = XLSX.utils.book_new(sheet, name)
  const content = XLSX.write(book, { bookType: 'ods', type: 'buffer' }) as Buffer
  return { type: 'application/vnd.oasis.opendocument.spreadsheet', content }
}
