import fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { findHeadings, readRows, separatorOf, tableFault, writeTable } from './table.ts'

const cells = (text: string) => readRows(text).map((row) => row.cells)

describe('the separator of a table', () => {
  it.each([
    ['two columns with tabs and a last line break', 'Sourdough\t4 jars\nMiso\t3 jars\n', '\t'],
    ['two columns with semicolons and blank lines', 'Sourdough;4\n\n\nMiso;3\n\n', ';'],
    ['commas in some cells of tabs', 'Sourdough, wild\t4\nMiso, red, old\t3\nKefir\t2', '\t'],
    ['decimal commas among semicolons', 'title;points\nA;1,5\nB;2,5\nC;3,5', ';'],
    ['a line break within a cell', 'title,brief\nA,"two\nlines; with; these"\nB,one', ','],
    ['a quotation mark that is an inch', 'jar;size\n5" jar;big\n7" jar;bigger', ';'],
    ['one line', 'Ada;ada@s.example', ';'],
    ['lines that leave their last cells out', 'title,seats\nBread\nSoy\nMiso,4', ','],
  ])('is seen from all of it: %s', (_, text, separator) => {
    expect(separatorOf(text)).toBe(separator)
  })

  it('is none where only some lines of a list have commas', () => {
    expect(cells('Sourdough\nMiso, red\nKefir\nTempeh')).toEqual([
      ['Sourdough'],
      ['Miso, red'],
      ['Kefir'],
      ['Tempeh'],
    ])
  })

  it('is what the first line says, and lines keep their numbers', () => {
    expect(readRows('sep=;\r\nname;email\r\nAda, the first;a@s.example\r\n')).toMatchObject([
      { line: 2, cells: ['name', 'email'] },
      { line: 3, cells: ['Ada, the first', 'a@s.example'] },
    ])
  })

  it('is found whatever is in the cells (property)', () => {
    const cell = fc.oneof(
      fc.string({ maxLength: 12 }),
      fc.constantFrom('a, b', 'c; d', 'e\tf', 'two\nlines', '5" jar', '1,5', ''),
    )
    fc.assert(
      fc.property(
        fc.constantFrom(',', ';', '\t'),
        fc
          .integer({ min: 2, max: 5 })
          .chain((width) =>
            fc.array(fc.array(cell, { minLength: width, maxLength: width }), { minLength: 3, maxLength: 12 }),
          ),
        fc.constantFrom('', '\n', '\r\n\r\n'),
        (delimiter, rows, end) => {
          const heads = rows[0]?.map((_, i) => `head ${i}`) ?? []
          // Written with quotation marks around every cell, so that nothing in them counts.
          const text = Papa.unparse([heads, ...rows], { delimiter, quotes: true }) + end
          const read = readRows(text)
          expect(read[0]?.cells).toEqual(heads)
          for (const { cells } of read) expect(cells).toHaveLength(heads.length)
        },
      ),
    )
  })

  it('takes no long time over quotation marks that never close', () => {
    const hostile = `${'"a\n'.repeat(20_000)}${'x'.repeat(100_000)}`
    expect(separatorOf(hostile)).toBe('\u001F')
  })
})

describe('a text that is no table', () => {
  it.each([
    ['lines', 'x\n', 12_000],
    ['lines', 'x\r', 12_000],
    ['lines', 'x\r\n', 12_000],
    ['quotation marks', '"x', 60_000],
    ['commas', 'x,', 240_000],
    ['commas', 'x;', 240_000],
    ['commas', 'x\t', 240_000],
  ])('is told by its number of %s: %j', (what, part, most) => {
    const last = what === 'lines' ? most - 1 : most
    expect(tableFault(`${part.repeat(last)}x`)).toBeNull()
    expect(tableFault(`${part.repeat(last + 1)}x`)).toContain(
      `more than ${most.toLocaleString('en')} ${what},`,
    )
  })

  it('is none for what spreadsheets leave behind the last line', () => {
    expect(tableFault(`name,email\nAda,ada@s.example\n${',;\t \r\n'.repeat(300_000)}`)).toBeNull()
  })
})

it('what is written reads back (property)', () => {
  const cell = fc.string({ maxLength: 20 }).map((text) => text.trim().replace(/^['\s]+/, ''))
  fc.assert(
    fc.property(fc.array(fc.tuple(cell, cell, cell), { minLength: 1, maxLength: 10 }), (rows) => {
      const kept = rows.filter((row) => row.some((one) => one !== ''))
      const read = cells(writeTable(['a', 'b', 'c'], kept))
      // Line breaks of a lone carriage return are read as any other.
      const even = (all: readonly (readonly string[])[]) =>
        all.map((row) => row.map((one) => one.replace(/\r\n?/g, '\n')))
      expect(even(read.slice(1))).toEqual(even(kept))
    }),
  )
})

describe('headings', () => {
  const spellings = { name: ['name', 'full name'], email: ['email', 'e-mail'] }
  const find = (text: string) =>
    findHeadings(readRows(text), spellings, ({ name, email }) => name !== undefined && email !== undefined)

  it('are found below lines of titles, as forms spell them', () => {
    expect(find('Class list,,\nSpring term,,\n\nNo,Full_Name *,E-mail:\n1,Ada,a@s.example')).toMatchObject({
      at: 2,
      columns: { name: 1, email: 2 },
    })
  })

  it('are none where no line names enough', () => {
    expect(find('Ada,a@s.example\nBo,b@s.example')).toBeNull()
  })
})
