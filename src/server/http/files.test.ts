import * as XLSX from '@e965/xlsx'
import ExcelJS from 'exceljs'
import fc from 'fast-check'
import { strFromU8, unzipSync } from 'fflate'
import { expect, it } from 'vitest'
import { attachment, fileName, moment, tableFile, WORKBOOKS } from './files.ts'

it('names of files keep their letters, and nothing that a system forbids', () => {
  expect(fileName(['FERM 210', 'Kultur: Bänke / Woche 1', 'students.csv'])).toBe(
    'FERM-210-Kultur-Bänke-Woche-1-students.csv',
  )
  expect(attachment('Bänke “A”.csv')).toBe(
    `attachment; filename="Banke _A_.csv"; filename*=UTF-8''B%C3%A4nke%20%E2%80%9CA%E2%80%9D.csv`,
  )
  expect(attachment('half \ud800.txt')).toMatch(/filename="half _.txt"/)
  fc.assert(
    fc.property(fc.string({ unit: 'binary' }), (word) => {
      const name = fileName([word, 'a.csv'])
      expect(name).not.toMatch(/[\\/:*?"<>|\s]/)
      expect(attachment(name)).toMatch(/^attachment; filename="[\w .-]*"; filename\*=UTF-8''[\w.~!%-]*$/)
    }),
  )
})

const TABLE = [
  ['name', 'mark', 'starts'],
  ['Ada', '', '2026-05-13 17:00'],
  ['=Bo', 3, ''],
] as const
const bookOf = async (kind: string) => {
  const [head, ...lines] = TABLE
  const rows = lines.map(([name, mark, starts]) => [name, mark, moment(starts)])
  const table = { sheet: 'Marks', head, rows, csv: () => 'name,mark,starts' }
  const file = await tableFile(kind, table, '2026-05-01T00:00:00.000Z')
  return file ?? { type: 'none', content: '' }
}

it('a table is a text, a workbook, or nothing of a kind that there is not', async () => {
  expect(await bookOf('csv')).toEqual({ type: 'text/csv; charset=utf-8', content: 'name,mark,starts' })
  expect((await bookOf('pdf')).type).toBe('none')
})

it('a workbook has empty cells where there is nothing, dates that are dates, and filters over its heads', async () => {
  const { content } = await bookOf('xlsx')
  const book = new ExcelJS.Workbook()
  await book.xlsx.load(content as unknown as ArrayBuffer)
  const sheet = book.getWorksheet('Marks')
  expect(sheet?.getCell('B2').type).toBe(ExcelJS.ValueType.Null)
  expect(sheet?.getCell('B3').value).toBe(3)
  expect(sheet?.getCell('C2').value).toEqual(new Date('2026-05-13T17:00Z'))
  expect(sheet?.autoFilter).toBe('A1:C1')
})

it('a workbook is read by a package of another hand, whichever kind it is', async () => {
  for (const kind of WORKBOOKS) {
    const { content, type } = await bookOf(kind)
    expect(type).toMatch(/spreadsheet/)
    const book = XLSX.read(content, { UTC: true, cellDates: true })
    const rows = XLSX.utils.sheet_to_json(book.Sheets.Marks!, { header: 1, defval: '', raw: true })
    expect(rows).toEqual([
      ['name', 'mark', 'starts'],
      ['Ada', '', new Date('2026-05-13T17:00Z')],
      ['=Bo', 3, ''],
    ])
    for (const cell of Object.values(book.Sheets.Marks!)) expect(cell).not.toHaveProperty('f')
  }
})

it('an OpenDocument table says itself what is a moment and what is text', async () => {
  const { content } = await bookOf('ods')
  const xml = strFromU8(unzipSync(content as Buffer)['content.xml']!)
  expect(xml).toContain('office:value-type="date" office:date-value="2026-05-13T17:00')
  expect(xml).toMatch(/office:value-type="string"[^>]*><text:p>=Bo</)
  expect(xml).not.toContain('table:formula')
})
