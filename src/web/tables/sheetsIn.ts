import { type CellObject, read, SSF, type WorkBook, type WorkSheet } from '@e965/xlsx'
import { Unzip, UnzipInflate, zipSync } from 'fflate'
import Papa from 'papaparse'
import type { SheetText } from './sheetKinds.ts'

/** A file that is no spreadsheet that can be read, with a sentence that says why and what to do. */
export class SheetFault extends Error {}

/** Bytes of a file, bytes that it unpacks to, lines of a sheet, and cells of all sheets. */
export const MOST = { bytes: 20 * 1024 * 1024, unpacked: 200 * 1024 * 1024, lines: 20_000, cells: 600_000 }
/** Cells of merged areas that are filled with what stands in their first. */
const MOST_MERGED = 50_000

/**
 * Reads a spreadsheet (Office Open XML, ECMA-376; OpenDocument, ISO/IEC 26300) into tables of text. Cells that are merged
 * each have what stands in their first; of formulas the value that was kept with them is read.
 * @param most what is still read
 * @throws SheetFault
 */
export function sheetsIn(bytes: Uint8Array, most = MOST): SheetText[] {
  if (bytes.length > most.bytes)
    throw new SheetFault(
      'The file has more than 20 MiB. Save the one table that is needed as a file of its own.',
    )
  const whole = bytes[0] === 0x50 && bytes[1] === 0x4b ? unpacked(bytes, most.unpacked) : bytes
  let book: WorkBook
  try {
    book = read(whole, {
      type: 'array',
      dense: true,
      cellNF: true,
      cellHTML: false,
      sheetRows: most.lines + 1,
    })
  } catch (error) {
    const why = error instanceof Error ? error.message : ''
    throw new SheetFault(
      /password|ECMA-376|ODS Encryption/i.test(why)
        ? 'The file is locked with a password. Save it without one, and choose it again.'
        : 'The file is damaged, or is no spreadsheet. Open it, save it anew, and choose it again.',
    )
  }
  const date1904 = book.Workbook?.WBProps?.date1904 === true
  const counted = { cells: 0 }
  return book.SheetNames.map((name, i) => {
    const sheet = book.Sheets[name]
    const rows = sheet ? rowsOf(sheet, name, date1904, counted, most) : []
    return {
      name,
      hidden: (book.Workbook?.Sheets?.[i]?.Hidden ?? 0) !== 0,
      lines: rows.length,
      text: Papa.unparse(rows, { newline: '\n' }),
    }
  })
}

/**
 * Unpacks a zip as it comes, whatever its list of contents says, and packs it anew without compression: what is broken in
 * it is seen here. The package that reads spreadsheets can go round for ever in a stream that is none.
 * @param most bytes that it may unpack to
 */
function unpacked(bytes: Uint8Array, most: number): Uint8Array {
  let size = 0
  const files: Record<string, Uint8Array> = {}
  const reader = new Unzip((file) => {
    const parts: Uint8Array[] = []
    file.ondata = (error, data, final) => {
      // What was thrown below comes back here.
      if (error) throw error
      size += data.length
      if (size > most) {
        file.terminate()
        throw new SheetFault(
          'The file unpacks to more than 200 MiB. Save the one table that is needed as a file of its own.',
        )
      }
      parts.push(data)
      if (final && !file.name.endsWith('/')) files[file.name] = joined(parts)
    }
    file.start()
  })
  reader.register(UnzipInflate)
  const piece = 64 * 1024
  try {
    for (let at = 0; at < bytes.length; at += piece)
      reader.push(bytes.subarray(at, at + piece), at + piece >= bytes.length)
    return zipSync(files, { level: 0 })
  } catch (error) {
    if (error instanceof SheetFault) throw error
    throw new SheetFault('The file is damaged. Open it, save it anew, and choose it again.')
  }
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const part of parts) {
    whole.set(part, at)
    at += part.length
  }
  return whole
}

/** The lines of a sheet that have something in them, each as wide as it goes. */
function rowsOf(
  sheet: WorkSheet,
  name: string,
  date1904: boolean,
  counted: { cells: number },
  most: typeof MOST,
): string[][] {
  const data = (sheet as { '!data'?: (CellObject | undefined)[][] })['!data'] ?? []
  fillMerged(sheet, data)
  const rows: string[][] = []
  for (const line of data) {
    if (!line) continue
    const cells = Array.from(line, (cell) => textOf(cell, date1904))
    while (cells.length > 0 && cells.at(-1) === '') cells.pop()
    // A line without anything is kept out, and its number with it: lines are named as they are read.
    if (cells.length === 0) continue
    counted.cells += cells.length
    if (rows.length >= most.lines || counted.cells > most.cells)
      throw new SheetFault(
        `“${name}” has more lines or cells than a table of people can have (${most.lines.toLocaleString('en')} lines). Take out what is not needed.`,
      )
    rows.push(cells)
  }
  const width = Math.max(0, ...rows.map((row) => row.length))
  return rows.map((row) => [...row, ...Array.from({ length: width - row.length }, () => '')])
}

function fillMerged(sheet: WorkSheet, data: (CellObject | undefined)[][]): void {
  let filled = 0
  for (const { s, e } of sheet['!merges'] ?? []) {
    const first = data[s.r]?.[s.c]
    if (!first) continue
    for (let r = s.r; r <= Math.min(e.r, data.length - 1); r++) {
      for (let c = s.c; c <= e.c; c++) {
        filled += 1
        if (filled > MOST_MERGED) return
        const row = data[r] ?? []
        data[r] = row
        // Along a line it is one title; down the lines it holds for each of them.
        if (c === s.c && !row[c]) row[c] = first
      }
    }
  }
}

/** A cell as text: a date or time by its format, a number as it is, whatever else as it is written. */
function textOf(cell: CellObject | undefined, date1904: boolean): string {
  if (!cell || cell.v === undefined || cell.v === null || cell.t === 'z' || cell.t === 'e') return ''
  if (cell.t === 'b') return cell.v ? 'TRUE' : 'FALSE'
  if (cell.v instanceof Date) return cell.v.toISOString().slice(0, 16).replace('T', ' ')
  if (typeof cell.v !== 'number') return String(cell.v)
  const format = cell.z === undefined ? '' : String(cell.z)
  if (format !== '' && SSF.is_date(format)) return dateText(cell.v, format, date1904)
  // What a spreadsheet shows has fifteen digits; past them stands what binary numbers make of it.
  return String(Number(cell.v.toPrecision(15)))
}

function dateText(value: number, format: string, date1904: boolean): string {
  const parts = SSF.parse_date_code(value, { date1904 })
  if (!parts) return String(value)
  const two = (n: number) => String(n).padStart(2, '0')
  const minutes = Math.round((parts.H * 3600 + parts.M * 60 + parts.S) / 60)
  const time = `${two(Math.floor(minutes / 60) % 24)}:${two(minutes % 60)}`
  const day = `${String(parts.y).padStart(4, '0')}-${two(parts.m)}-${two(parts.d)}`
  const hasDay = /[yd]/i.test(format.replace(/\[[^\]]*\]|"[^"]*"/g, ''))
  if (value < 1 && !hasDay) return time
  return minutes === 0 && !/[hs]/i.test(format) ? day : `${day} ${time}`
}
