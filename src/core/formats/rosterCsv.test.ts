import fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { type RosterRow, readRosterCsv, writeRosterCsv } from './rosterCsv.ts'

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
    const kept = readRosterCsv(text, SECTIONS, { keep: ['Level', 'nowhere'] })
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
      {
        line: 2,
        name: 'Ada Lindqvist',
        given: '',
        family: '',
        called: '',
        email: 'ada@school.example',
        section: 'Tue lab',
        role: null,
      },
    ])
  })

  it('may have its columns in another order, case, spelling and language of separators, and a byte order mark', () => {
    const { lines } = read('\uFEFFE-Mail;SECTION;Full_Name;Role\r\nb@s.example;Wed lab;"Bø; Åse";Tutor\r\n')
    expect(lines).toMatchObject([
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

  it('without headings loses nobody: columns are told by what is in them', () => {
    const { lines, headed, columns } = read('a@s.example;Ada Lind;Tue lab\nb@s.example;Bo Reed;wed  LAB\n')
    expect(headed).toBe(false)
    expect(columns).toEqual({ email: 0, name: 1, section: 2 })
    expect(lines.map(({ line, name, section }) => [line, name, section])).toEqual([
      [1, 'Ada Lind', 'Tue lab'],
      [2, 'Bo Reed', 'Wed lab'],
    ])
    const parted = read('Ada,Lind,a@s.example,TA\nBo,Reed,b@s.example,learner', [])
    expect(parted.columns).toEqual({ given: 0, surname: 1, email: 2, role: 3 })
    expect(parted.lines.map(({ name, role }) => [name, role])).toEqual([
      ['Ada Lind', 'tutor'],
      ['Bo Reed', 'student'],
    ])
  })

  it('takes a first line in unknown words for headings where addresses stand below it, and says so', () => {
    const { lines, headed, spare, notes } = read(
      'Wer;Wohin;Wann;Stufe\nAda;a@s.example;Tue lab;2\nBo;b@s.example;Wed lab;3',
    )
    expect(headed).toBe(true)
    expect(lines.map(({ name }) => name)).toEqual(['Ada', 'Bo'])
    expect(spare).toEqual(['Stufe'])
    expect(notes).toEqual(['Line 1 is taken for headings: “Wer, Wohin, Wann, Stufe”.'])
  })

  it('takes headings and columns as somebody says, also against what was recognised', () => {
    const text = 'Student,Who,Mail\n1001,Ada,a@s.example\n1002,Bo,b@s.example'
    // A column that is called “Student” and has numbers in it has student numbers.
    expect(readRosterCsv(text, [])).toMatchObject({
      lines: [
        { name: 'Ada', number: '1001' },
        { name: 'Bo', number: '1002' },
      ],
    })
    const pointed = readRosterCsv(text, [], { columns: { name: 0, number: -1 } })
    expect(pointed).toMatchObject({ lines: [{ name: '1001' }, { name: '1002' }], spare: ['Who'] })
    const none = readRosterCsv('name,email\nAda,a@s.example', [], { headings: 'none' })
    expect(none).toMatchObject({ headed: false, faults: [{ line: 1, field: 'email' }] })
    const without = readRosterCsv('name,email,role\nAda,a@s.example,gardener', [], { columns: { role: -1 } })
    expect(without).toMatchObject({ faults: [], lines: [{ role: null }] })
  })

  it('may be a list of addresses, as mail programs write it', () => {
    const { lines, notes } = read('Ada Lind <a@s.example>; bo.reed@s.example', [])
    expect(lines.map(({ name, email }) => [name, email])).toEqual([
      ['Ada Lind', 'a@s.example'],
      ['Bo Reed', 'bo.reed@s.example'],
    ])
    expect(notes).toEqual(['One has no name in the list, and is called by the address.'])
    expect(refusal('a@s.example, b@s.example')).toMatch(/does not say who is in which section/)
  })

  it('steps over titles above the headings, and names what it does not read', () => {
    const { lines, notes } = read(
      'Class list,,\nPrinted 13 May,,\nname,email,section\nAda,a@s.example,Tue lab\nBo,b@s.example,Wed lab,Room 3, left\n',
    )
    expect(lines).toHaveLength(2)
    expect(notes).toEqual([
      'Lines 1 to 2 above the headings were passed over: “Class list”.',
      expect.stringMatching(/not read: “Room 3, left” in line 5\. A comma within a cell/),
    ])
  })

  it('keeps names clean, and refuses an address with a sign that nobody sees', () => {
    const { lines, faults } = read(
      `${HEAD}\u200FA\u0301da\u00A0 Lind,a@s.example,Tue\u200Blab\nBo,b\u200B@s.example,Wed lab`,
    )
    expect(lines).toMatchObject([{ name: 'Áda Lind', section: 'Tue lab' }])
    expect(faults).toMatchObject([
      {
        line: 3,
        field: 'email',
        message: 'A sign that nobody sees stands after “b”. Type the address anew.',
      },
    ])
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
    expect(refusal('Ada,Tue lab\nBo,Wed lab')).toMatch(
      /no column is “email”, by its name or by what is in it\. It reads “Ada”, “Tue lab”/,
    )
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
          // A comma in a name is a part of it here.
          const reading = readRosterCsv(csv, SECTIONS, { commas: 'as-is' })
          if (!reading.readable) throw new Error(reading.message)
          const { lines, faults } = reading
          expect(faults).toEqual([])
          expect(lines.map(({ name }) => name)).toEqual(names.map((text) => text.replace(/\s+/g, ' ').trim()))
        },
      ),
    )
  })
})

describe('names in a roster file', () => {
  it('keep their two parts where the file has them', () => {
    const { lines } = read('given name,surname,email\nJosé Ángel,Ruiz Mora,a@s.example', [])
    expect(lines).toMatchObject([{ name: 'José Ángel Ruiz Mora', given: 'José Ángel', family: 'Ruiz Mora' }])
  })

  it('are turned where most read surname first, and left where somebody says so', () => {
    const text = 'name,email\n"Strand, Mirela",a@s.example\n"de Brito, Ana",b@s.example\nOduya,c@s.example'
    const turned = read(text, [])
    expect(turned.commas).toBe('surname-first')
    expect(turned.lines).toMatchObject([
      { name: 'Mirela Strand', given: 'Mirela', family: 'Strand' },
      { name: 'Ana de Brito', given: 'Ana', family: 'de Brito' },
      { name: 'Oduya', given: '', family: '' },
    ])
    const asIs = readRosterCsv(text, [], { commas: 'as-is' })
    expect(asIs).toMatchObject({ commas: 'as-is', lines: [{ name: 'Strand, Mirela' }, {}, {}] })
    // A title after a comma is no given name.
    expect(read('name,email\n"Ada Lind, Jr.",a@s.example', [])).toMatchObject({
      commas: null,
      lines: [{ name: 'Ada Lind, Jr.' }],
    })
  })

  it('may be others than people are called by', () => {
    const { lines } = read(
      'given name,surname,preferred name,email\nAleksandra,Strand,Ola,a@s.example\nBo,Reed,,b@s.example\nXi,Ng,Mia Ng-Roe,c@s.example',
      [],
    )
    expect(lines.map(({ name, called }) => [name, called])).toEqual([
      ['Aleksandra Strand', 'Ola Strand'],
      ['Bo Reed', ''],
      ['Xi Ng', 'Mia Ng-Roe'],
    ])
  })
})

it('keeps student numbers, and lets them stand for an address', () => {
  const { lines, faults } = read(
    'name,student number,email\nAda,0012,a@s.example\nBo,13,\nCem,,\nDag,12,d@s.example',
    [],
  )
  expect(lines.map(({ name, number }) => [name, number])).toEqual([
    ['Ada', '0012'],
    ['Bo', '13'],
  ])
  expect(faults).toMatchObject([
    { line: 4, field: 'email', message: 'The email address is missing.' },
    { line: 5, field: 'number', message: 'The same student number stands in line 2. Keep one of the two.' },
  ])
})

describe('sections in a roster file', () => {
  it('are named where the course does not have them, each once however it is spelled', () => {
    const text =
      'name,email,section\nAda,a@s.example,Mon lab\nBo,b@s.example,mon  LAB\nCem,c@s.example,Tue lab'
    expect(read(text, ['Tue lab']).strange).toEqual(['Mon lab'])
    const none = read(text, [])
    expect(none.strange).toEqual(['Mon lab', 'Tue lab'])
    expect(none.lines).toHaveLength(3)
  })

  it('may be one for all, in a list of addresses too', () => {
    const how = { section: 'wed lab' }
    expect(readRosterCsv('a@s.example, b@s.example', SECTIONS, how)).toMatchObject({
      lines: [{ section: 'Wed lab' }, { section: 'Wed lab' }],
    })
    expect(
      readRosterCsv('name,email,role\nAda,a@s.example,\nBo,b@s.example,tutor', SECTIONS, how),
    ).toMatchObject({
      faults: [],
      lines: [{ section: 'Wed lab' }, { section: null }],
    })
  })
})

it('a roster that goes out comes in again unchanged (property)', () => {
  const word = fc
    .stringMatching(/^[\p{L}\d=+@\-',.;" ]{1,12}$/u)
    .map((text) => text.normalize('NFC').replace(/\s+/g, ' ').trim())
    .filter((text) => text !== '' && !/^'*[=+\-@]/.test(text) && !text.includes(','))
  const somebody = fc.record({
    name: fc.tuple(word, word).map((words) => words.join(' ')),
    family: fc.oneof(fc.constant(''), word),
    called: fc.oneof(
      fc.constant(''),
      fc.tuple(word, word).map((words) => words.join(' ')),
    ),
    number: fc.oneof(fc.constant(''), fc.nat().map(String)),
    section: fc.constantFrom(...SECTIONS),
    role: fc.constantFrom('student' as const, 'tutor' as const, 'instructor' as const),
    level: word,
  })
  fc.assert(
    fc.property(
      fc.uniqueArray(somebody, { selector: ({ number }) => number || {}, minLength: 1, maxLength: 8 }),
      (drawn) => {
        const people: RosterRow[] = drawn.map(({ level, ...one }, i) => ({
          ...one,
          given: one.family === '' ? '' : 'Given',
          called: one.called === one.name ? '' : one.called,
          email: `p${i}@s.example`,
          attributes: { Level: level },
        }))
        const back = readRosterCsv(writeRosterCsv(people), SECTIONS, { keep: ['Level'] })
        if (!back.readable) throw new Error(back.message)
        expect(back.faults).toEqual([])
        expect(back.notes).toEqual([])
        const plain = ({ name, called = '', number = '', email, section, role, attributes }: RosterRow) => [
          name,
          called,
          number,
          email,
          section,
          role,
          attributes,
        ]
        expect(back.lines.map((line) => plain({ ...line, role: line.role ?? 'student' }))).toEqual(
          people.map(plain),
        )
        for (const [i, { family = '' }] of people.entries())
          if (family !== '') expect(back.lines[i]?.family).toBe(family)
      },
    ),
  )
})

it.each(['constructor', '__proto__', 'toString', 'valueOf'])('%s is no role', (word) => {
  const reading = readRosterCsv(`name,email,role\nAda Lind,ada@school.example,${word}`, [])
  expect(reading).toMatchObject({ readable: true, lines: [], faults: [{ line: 2, field: 'role' }] })
})
