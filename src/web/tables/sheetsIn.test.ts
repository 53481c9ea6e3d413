import ExcelJS from 'exceljs'
import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { isSpreadsheet } from './sheetKinds.ts'
import { MOST, sheetsIn } from './sheetsIn.ts'

/** A workbook written by another hand than reads it. */
async function book(fill: (book: ExcelJS.Workbook) => void): Promise<Uint8Array> {
  const made = new ExcelJS.Workbook()
  fill(made)
  return new Uint8Array(await made.xlsx.writeBuffer())
}

/** An OpenDocument spreadsheet with one table. */
function ods(table: string): Uint8Array {
  const content = `<?xml version="1.0" encoding="UTF-8"?><office:document-content
    xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0"
    xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" office:version="1.2"><office:body><office:spreadsheet>
    <table:table table:name="People">${table}</table:table></office:spreadsheet></office:body></office:document-content>`
  return zipSync({
    mimetype: [strToU8('application/vnd.oasis.opendocument.spreadsheet'), { level: 0 }],
    'content.xml': strToU8(content),
    'styles.xml': strToU8(
      '<?xml version="1.0"?><office:document-styles xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" office:version="1.2"/>',
    ),
    'META-INF/manifest.xml': strToU8(
      '<?xml version="1.0"?><manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0"><manifest:file-entry manifest:full-path="/" manifest:media-type="application/vnd.oasis.opendocument.spreadsheet"/><manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>',
    ),
  })
}
const row = (...cells: string[]) => `<table:table-row>${cells.join('')}</table:table-row>`
const cell = (text: string) =>
  `<table:table-cell office:value-type="string"><text:p>${text}</text:p></table:table-cell>`

describe('a spreadsheet', () => {
  it('is read by sheet, with dates and numbers as they are meant', async () => {
    const bytes = await book((made) => {
      const sheet = made.addWorksheet('Topics')
      sheet.addRow(['title', 'seats', 'date', 'start', 'when', 'share'])
      sheet.addRow([
        'Miso, red',
        4,
        new Date(Date.UTC(2026, 4, 13)),
        13.5 / 24,
        new Date(Date.UTC(2026, 4, 13, 9, 30)),
        0.1 + 0.2,
      ])
      sheet.getCell('C2').numFmt = 'dd/mm/yyyy'
      sheet.getCell('D2').numFmt = 'hh:mm'
      sheet.getCell('E2').numFmt = 'yyyy-mm-dd hh:mm'
      sheet.addRow([])
      sheet.addRow(['Kefir "old"', 1234567])
      made.addWorksheet('Notes', { state: 'hidden' }).addRow(['nothing'])
      made.addWorksheet('Empty')
    })
    expect(isSpreadsheet(bytes)).toBe(true)
    const [topics, notes, empty] = sheetsIn(bytes)
    expect(topics).toMatchObject({ name: 'Topics', hidden: false, lines: 3 })
    expect(topics?.text.split('\n')).toEqual([
      'title,seats,date,start,when,share',
      '"Miso, red",4,2026-05-13,13:30,2026-05-13 09:30,0.3',
      '"Kefir ""old""",1234567,,,,',
    ])
    expect(notes).toMatchObject({ name: 'Notes', hidden: true })
    expect(empty).toMatchObject({ lines: 0, text: '' })
  })

  it('has in merged cells what stands in their first, and of formulas the kept value', async () => {
    const bytes = await book((made) => {
      const sheet = made.addWorksheet('Roster')
      sheet.addRow(['section', 'name'])
      sheet.addRow(['Tue lab', 'Ada'])
      sheet.addRow(['', 'Bo'])
      sheet.mergeCells('A2:A3')
      sheet.addRow([
        { formula: '1+2', result: 3 },
        { formula: '1/0', result: { error: '#DIV/0!' } },
      ])
      sheet.addRow([{ formula: 'NOW()' }, 'Cem'])
    })
    expect(sheetsIn(bytes)[0]?.text.split('\n')).toEqual([
      'section,name',
      'Tue lab,Ada',
      'Tue lab,Bo',
      '3,',
      ',Cem',
    ])
  })

  it('is read as OpenDocument too, rows that repeat to the end of the sheet apart', () => {
    const date =
      '<table:table-cell office:value-type="date" office:date-value="2026-05-13"><text:p>13.05.26</text:p></table:table-cell>'
    const number =
      '<table:table-cell office:value-type="float" office:value="1234.5"><text:p>1.234,50</text:p></table:table-cell>'
    const bytes = ods(
      row(cell('name'), cell('since'), cell('points')) +
        row(cell('Ada'), date, number) +
        '<table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="1024"/></table:table-row>',
    )
    const [people] = sheetsIn(bytes)
    expect(people).toMatchObject({ name: 'People', lines: 2 })
    expect(people?.text).toBe('name,since,points\nAda,2026-05-13,1234.5')
  })
})

describe('a file that cannot be read', () => {
  const fault = (bytes: Uint8Array, most: Partial<typeof MOST> = {}) => {
    try {
      sheetsIn(bytes, { ...MOST, ...most })
      return null
    } catch (error) {
      return (error as Error).message
    }
  }

  it('is told from a spreadsheet by its content', () => {
    expect(isSpreadsheet(strToU8('name,email'))).toBe(false)
    expect(isSpreadsheet(new Uint8Array([0x89, 0x50, 0x4e, 0x47]))).toBe(false)
  })

  it('is refused in plain words: damaged, too large, or unpacking to too much', async () => {
    const good = await book((made) => void made.addWorksheet('A').addRow(['x']))
    expect(fault(good.slice(0, good.length / 2))).toMatch(/damaged/)
    expect(fault(good, { bytes: 100 })).toMatch(/more than 20 MiB/)
    const bomb = zipSync({ 'xl/worksheets/sheet1.xml': new Uint8Array(4 * 1024 * 1024) })
    expect(bomb.length).toBeLessThan(64 * 1024)
    expect(fault(bomb, { unpacked: 2 * 1024 * 1024 })).toMatch(/unpacks to more than 200 MiB/)
  })

  it('is refused where a sheet has too many lines', async () => {
    const many = await book((made) => {
      const sheet = made.addWorksheet('Long')
      for (let i = 0; i < 21; i++) sheet.addRow([`line ${i}`])
    })
    expect(fault(many, { lines: 20 })).toMatch(/“Long” has more lines or cells/)
    expect(fault(many, { cells: 20 })).toMatch(/“Long” has more lines or cells/)
  })

  it('is refused where it is locked', () => {
    // The head of a compound file, as locked workbooks are.
    const locked = new Uint8Array(4_096)
    locked.set([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1])
    expect(isSpreadsheet(locked)).toBe(true)
    expect(fault(locked)).toMatch(/damaged|locked/)
  })
})
