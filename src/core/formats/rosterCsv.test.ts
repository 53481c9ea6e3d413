import fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { readRosterCsv } from './rosterCsv.ts'

const SECTIONS = ['Tue lab', 'Wed lab']
const read = (text: string, sections = SECTIONS) => {
  const reading = readRosterCsv(text, sections)
  if (!reading.readable) throw new Error(reading.message)
  return reading
}
const refusal = (text: string, sections = SECTIONS) => {
  const reading = readRosterCsv(text, sections)
  return reading.readable ? null : reading.message
}
const HEAD = 'name,email,section\n'

describe('a roster file', () => {
  it('names its further columns, and keeps the values of those that are wanted', () => {
    const text =
      'name,email,section,Level, Programme \nAda,ada@s.example,Tue lab,second year,Brewing\nBø,b@s.example,Wed lab,,'
    const plain = readRosterCsv(text, SECTIONS)
    expect(plain).toMatchObject({ readable: true, spare: ['Level', 'Programme'] })
    expect(plain.readable && plain.lines[0]).not.toHaveProperty('attributes')
    const kept = readRosterCsv(text, SECTIONS, undefined, ['Level', 'nowhere'])
    expect(kept.readable && kept.lines.map(({ attributes }) => attributes)).toEqual([
      { Level: 'second year' },
      { Level: '' },
    ])
  })

  it('is refused before it is read where it can be no table of people, and what a spreadsheet leaves below is passed over', () => {
    expect(refusal('"'.repeat(700_000))).toMatch(/more than 60,000 quotation marks/)
    expect(refusal(HEAD + 'a,b\n'.repeat(150_000))).toMatch(/more than 12,000 lines/)
    expect(refusal(HEAD + ';a'.repeat(300_000))).toMatch(/more than 240,000 commas/)
    const { lines, faults } = read(`${HEAD}Ada,ada@s.example,Tue lab\n${',,\r\n'.repeat(100_000)}`)
    expect(faults).toEqual([])
    expect(lines.map(({ name }) => name)).toEqual(['Ada'])
  })

  it('is read line by line', () => {
    const { lines, faults } = read(`${HEAD}Ada Lindqvist,Ada@School.example,tue lab\n`)
    expect(faults).toEqual([])
    expect(lines).toEqual([
      { line: 2, name: 'Ada Lindqvist', email: 'ada@school.example', section: 'Tue lab', role: null },
    ])
  })

  it('may have its columns in another order, case, spelling and language of separators, and a byte order mark', () => {
    const { lines } = read('\uFEFFE-Mail;SECTION;Full_Name;Role\r\nb@s.example;Wed lab;"Bø; Åse";Tutor\r\n')
    expect(lines).toEqual([
      { line: 2, name: 'Bø; Åse', email: 'b@s.example', section: 'Wed lab', role: 'tutor' },
    ])
    expect(
      read('email\tfirst name\tlast name\tsection\nc@s.example\tCem\tDale\tTue lab').lines[0]?.name,
    ).toBe('Cem Dale')
  })

  it('keeps line numbers right behind blank lines and cells of several lines', () => {
    const { faults } = read(`${HEAD}"Two\nlines",a@s.example,Tue lab\n\n,b@s.example,Tue lab\n`)
    expect(faults).toMatchObject([{ line: 5, field: 'name' }])
  })

  it.each([
    ['no-at-sign', 'Ada,nowhere,Tue lab', 'email', /not an email address/],
    ['no-address', 'Ada,,Tue lab', 'email', /missing/],
    ['no-name', ',a@s.example,Tue lab', 'name', /missing/],
    ['long-name', `${'x'.repeat(121)},a@s.example,Tue lab`, 'name', /120/],
    ['unknown-section', 'Ada,a@s.example,Fri lab', 'section', /no such section; it has Tue lab and Wed lab/],
    ['no-section', 'Ada,a@s.example,', 'section', /missing/],
    ['open-quote', '"Ada,a@s.example,Tue lab', 'line', /quotation mark/],
  ])('tells what is wrong with a line: %s', (_, line, field, message) => {
    const { lines, faults } = read(HEAD + line)
    expect(lines).toEqual([])
    expect(faults.find((fault) => fault.field === field)).toMatchObject({
      line: 2,
      message: expect.stringMatching(message),
    })
  })

  it('tells where the same address stood before, and keeps the first', () => {
    const { lines, faults } = read(`${HEAD}Ada,a@s.example,Tue lab\nAda again,A@S.example,Wed lab`)
    expect(lines).toHaveLength(1)
    expect(faults).toMatchObject([{ line: 3, field: 'email', message: expect.stringMatching(/line 2/) }])
  })

  it('takes good lines beside bad ones', () => {
    const { lines, faults } = read(`${HEAD}Ada,a@s.example,Tue lab\nBao,b,Tue lab\nCem,c@s.example,Wed lab`)
    expect(lines.map(({ line }) => line)).toEqual([2, 4])
    expect(faults).toHaveLength(1)
  })

  it('needs no section where the course has none, nor for tutors and instructors', () => {
    expect(read('name,email\nAda,a@s.example', []).faults).toEqual([])
    expect(read('name,email,section,role\nAda,a@s.example,,instructor').faults).toEqual([])
    expect(read('name,email,role\nAda,a@s.example,dean', []).faults).toMatchObject([
      { field: 'role', found: 'dean' },
    ])
  })

  it('says in one sentence why it cannot be read at all', () => {
    expect(refusal('')).toMatch(/nothing in it/)
    expect(refusal('name,section\nAda,Tue lab')).toMatch(/“email”/)
    expect(refusal('Ada,a@s.example,Tue lab')).toMatch(/first line must name the columns/)
    expect(refusal('name,email\nAda,a@s.example')).toMatch(/“section”/)
    expect(refusal(HEAD)).toMatch(/no person follows/)
    expect(refusal('x'.repeat(1_000_001))).toMatch(/longer than/)
  })

  it('takes 5,000 lines and not one more', () => {
    const lines = Array.from({ length: 5_001 }, (_, i) => `Person ${i},p${i}@s.example,Tue lab`)
    expect(read(HEAD + lines.slice(0, 5_000).join('\n')).lines).toHaveLength(5_000)
    expect(refusal(HEAD + lines.join('\n'))).toMatch(/5,001 lines; 5,000/)
  })

  it('reads back whatever a spreadsheet writes', () => {
    // A mark that guards against formulas comes off, so that a name that begins with one is another name.
    const guarded = /^\s*'+[=+\-@\t\r]/
    const name = fc
      .string({ minLength: 1, maxLength: 40 })
      .filter((text) => text.trim() !== '' && !guarded.test(text))
    fc.assert(
      fc.property(
        fc.uniqueArray(name, { minLength: 1, maxLength: 12 }),
        fc.constantFrom(',', ';', '\t'),
        (names, delimiter) => {
          const rows = names.map((text, i) => [text, `p${i}@s.example`, 'Tue lab'])
          const csv = Papa.unparse(
            { fields: ['name', 'email', 'section'], data: rows },
            { delimiter, quotes: true },
          )
          const { lines, faults } = read(csv)
          expect(faults).toEqual([])
          expect(lines.map(({ name }) => name)).toEqual(names.map((text) => text.replace(/\s+/g, ' ').trim()))
        },
      ),
    )
  })
})
