import type { Response } from 'express'
import type { Instant } from '../../core/instant.ts'

/** A file to be handed out: its content with the media type. */
export interface ExportedFile {
  type: string
  content: string | Buffer
}

/** Answers with a file to be saved, named from some words. */
export function sendFile(res: Response, words: readonly string[], { type, content }: ExportedFile): void {
  const name = words
    .join(' ')
    .replace(/[^\w .-]+/g, '')
    .replace(/ /g, '-')
  res.setHeader('Content-Disposition', `attachment; filename="${name}"`)
  res.type(type).send(content)
}

/** A workbook with one sheet. Cells hold text and numbers only, so that none is ever a formula. */
export async function workbook(
  name: string,
  head: readonly string[],
  rows: readonly (readonly (string | number)[])[],
  now: Instant,
): Promise<ExportedFile> {
  // Large, and wanted seldom: loaded when the first workbook is.
  const { default: ExcelJS } = await import('exceljs')
  const book = new ExcelJS.Workbook()
  book.created = new Date(now)
  const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] })
  sheet.addRow([...head]).font = { bold: true }
  for (const row of rows) sheet.addRow([...row])
  sheet.columns.forEach((column, i) => {
    const longest = Math.max(head[i]?.length ?? 0, ...rows.map((row) => String(row[i] ?? '').length))
    column.width = Math.min(48, longest + 2)
  })
  const type = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'
  return { type, content: Buffer.from(await book.xlsx.writeBuffer()) }
}
