import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readSeatsCsv } from '../../src/core/formats/groupsCsv.ts'
import { readMarksCsv } from '../../src/core/formats/marksCsv.ts'
import { readOneRoster } from '../../src/core/formats/oneRoster.ts'
import { type RosterHow, readRosterCsv } from '../../src/core/formats/rosterCsv.ts'
import { readTopicsCsv } from '../../src/core/formats/topicsCsv.ts'
import { peopleIn } from '../../src/core/peopleIn.ts'
import { readText } from '../../src/web/data/readText.ts'
import { firstSheet, isSpreadsheet } from '../../src/web/tables/sheetKinds.ts'
import { sheetsIn } from '../../src/web/tables/sheetsIn.ts'

// Files as systems and people really have them (`make.mjs` writes them), each with what it must give.

const SECTIONS = ['Tue lab', 'Wed lab']
const bytesOf = (name: string) => new Uint8Array(readFileSync(join(import.meta.dirname, name)))

/** A file as a page reads it: a spreadsheet’s first sheet in sight, anything else as text. */
async function textOf(bytes: Uint8Array): Promise<string> {
  if (!isSpreadsheet(bytes)) return readText(new Blob([bytes as Uint8Array<ArrayBuffer>]))
  const sheets = sheetsIn(bytes)
  return sheets[firstSheet(sheets)]?.text ?? ''
}

const roster = async (name: string, how: RosterHow = {}) => {
  const reading = readRosterCsv(await textOf(bytesOf(name)), SECTIONS, how)
  if (!reading.readable) return reading.message
  return {
    people: reading.lines.map(({ name, email, section, number = '' }) =>
      [name, email, section, number].filter((one) => one !== '').join(', '),
    ),
    faults: reading.faults.map(({ line, field, message }) => `${line} ${field}: ${message}`),
    notes: reading.notes,
  }
}

describe('rosters', () => {
  it.each([
    [
      'roster-titles-quotes.csv',
      {
        people: [
          'Nnamdi Oduya, n.oduya@school.example, Tue lab, 0042',
          'Ana de Brito, a.brito@school.example, Wed lab, 0107',
          'Ada Lindqvist, a.lindqvist@school.example, Tue lab, 0108',
        ],
        faults: [],
        notes: ['Lines 1 to 2 above the headings were passed over: “Class list FERM 210”.'],
      },
    ],
    [
      'roster-none-headed.tsv',
      {
        people: ['Bao Trinh, b.trinh@school.example, Tue lab', 'Cem Dale, c.dale@school.example, Wed lab'],
        faults: [],
        notes: [],
      },
    ],
    [
      'roster-invisible.csv',
      {
        people: ['Áda Lind, a@school.example, Tue lab'],
        faults: ['3 email: A sign that nobody sees stands after “b”. Type the address anew.'],
        notes: [],
      },
    ],
    ['roster-sep-line.csv', { people: ['Kim Lee, k@school.example, Tue lab'], faults: [], notes: [] }],
    [
      'roster-formulas.csv',
      {
        people: ['=HYPERLINK Ada, a@school.example, Tue lab', '+Bo, b@school.example, Wed lab'],
        faults: [],
        notes: [],
      },
    ],
    ['roster-utf16.txt', { people: ['Þóra Ýr, t@school.example, Tue lab'], faults: [], notes: [] }],
    ['roster-windows1252.csv', { people: ['José Nuñez, j@school.example, Tue lab'], faults: [], notes: [] }],
    [
      'roster.xlsx',
      {
        people: [
          'Xi Ng, x.ng@school.example, Tue lab, 42',
          'Ana María Ruiz Mora, a.ruiz@school.example, Wed lab, 107',
          'Bo Reed, b.reed@school.example, Wed lab, 108',
        ],
        faults: [],
        notes: [expect.stringMatching(/^Line 1 above the headings was passed over/)],
      },
    ],
  ])('%s', async (name, gives) => {
    expect(await roster(name)).toEqual(gives)
  })

  it('roster-semicolons-bom.csv: headings in another language are refused with what they read, and pointed out', async () => {
    expect(await roster('roster-semicolons-bom.csv')).toMatch(
      /no column is “name”.*It reads “Nachname”, “Vorname”/,
    )
    expect(await roster('roster-semicolons-bom.csv', { columns: { surname: 0, given: 1 } })).toEqual({
      people: [
        'Mirela Strand, m.strand@school.example, Tue lab',
        'Åse Ødegård, a.odegard@school.example, Wed lab',
      ],
      faults: [],
      notes: [],
    })
  })

  it('roster-addresses.txt, once it is said which section they are in', async () => {
    expect(await roster('roster-addresses.txt')).toMatch(/does not say who is in which section/)
    expect(await roster('roster-addresses.txt', { section: 'Tue lab' })).toMatchObject({
      people: [
        'Ada Lind, ada@school.example, Tue lab',
        'Bo Reed, bo@school.example, Tue lab',
        'Cem Dale, cem.dale@school.example, Tue lab',
      ],
      faults: [],
    })
  })
})

describe('topics, marks and seats', () => {
  const topics = async (name: string, days?: 'day-first' | 'month-first') => {
    const reading = readTopicsCsv(await textOf(bytesOf(name)), [], 200, { days })
    if (!reading.readable) return reading.message
    return {
      topics: reading.lines.map(({ title, seats, startsAt, endsAt }) => [title, seats, startsAt, endsAt]),
      faults: reading.faults.map(({ line }) => line),
    }
  }

  it('topics-dates.csv: one day settles the order, a slot goes over midnight', async () => {
    expect(await topics('topics-dates.csv')).toEqual({
      topics: [
        ['Tempeh', 3, '2026-06-05T10:00', '2026-06-05T11:30'],
        ['Miso', 'none', '2026-06-13T22:00', '2026-06-14T01:00'],
        ['Kefir', null, '2026-06-15T13:30', null],
      ],
      faults: [],
    })
  })

  it('topics-doubtful.csv: asked about, then read as it was said', async () => {
    expect(await topics('topics-doubtful.csv')).toEqual({ topics: [], faults: [2, 3] })
    expect(await topics('topics-doubtful.csv', 'month-first')).toMatchObject({
      topics: [
        ['Tempeh', null, '2026-05-06T10:00', null],
        ['Miso', null, '2026-07-08T10:00', null],
      ],
    })
  })

  it('topics-two-columns.tsv: two columns, not one', async () => {
    const reading = readTopicsCsv(await textOf(bytesOf('topics-two-columns.tsv')), [])
    expect(reading).toMatchObject({ lines: [{ title: 'Sourdough', brief: '4 jars' }, { title: 'Vinegar' }] })
  })

  it('topics.ods: a date that is a date', async () => {
    expect(await topics('topics.ods')).toEqual({
      topics: [['Tempeh', 3, '2026-06-05T10:00', '2026-06-05T11:30']],
      faults: [],
    })
  })

  it('topics-by-section.csv: what differs in a section, seats kept free, and the column that is not read', async () => {
    const reading = readTopicsCsv(await textOf(bytesOf('topics-by-section.csv')), [], 200, {
      sections: SECTIONS.map((name) => ({ code: name, name })),
      people: [{ code: 'a', name: 'Ada Lind', email: 'ada@school.example' }],
    })
    const kept = [{ person: 'a' }, { note: 'a guest' }]
    expect(reading).toMatchObject({
      faults: [],
      notes: [expect.stringMatching(/“Supervisor” is not read/)],
      lines: [
        {
          title: 'Miso',
          seats: 4,
          place: 'Bench 1',
          groups: [
            { section: 'Tue lab', offered: true, seats: 2, startsAt: '2026-05-13T10:00', kept },
            { section: 'Wed lab', offered: false },
          ],
        },
        {
          title: 'Kefir',
          groups: [
            { section: 'Tue lab', offered: false },
            { section: 'Wed lab', offered: true, seats: 3, startsAt: '2026-05-14T09:15', place: 'Bench 2' },
          ],
        },
      ],
    })
  })

  it('marks-by-criteria.csv: points of each criterion, and one past what it brings', async () => {
    const criteria = [
      { id: 'seen', title: 'What was seen', points: 5 },
      { id: 'said', title: 'Plain writing', points: 5 },
    ]
    const reading = readMarksCsv(await textOf(bytesOf('marks-by-criteria.csv')), {
      students: [
        { key: 'a', name: 'Ada Lind', email: 'ada@school.example', number: '42' },
        { key: 'b', name: 'Bo Reed', email: 'bo@school.example', number: '0107' },
      ],
      groups: [],
      tasks: [{ key: 'r', title: 'Report', most: 10, criteria }],
    })
    expect(reading.points.map(({ who, criterion, points }) => [who, criterion, points])).toEqual([
      ['a', null, 7.5],
      ['a', 'seen', 4.5],
      ['a', 'said', 3],
      ['b', 'said', 2],
    ])
    expect(reading.feedback).toMatchObject([{ who: 'a', text: 'Good eye.' }])
    expect(reading.faults).toMatchObject([{ line: 3, field: 'Report: What was seen', found: '6' }])
  })

  it('marks-of-100.csv: by number, converted, a grouped number and a stranger named', async () => {
    const known = {
      students: [
        { key: 'a', name: 'Ada Lind', email: 'ada@school.example', number: '42' },
        { key: 'b', name: 'Bo Reed', email: 'bo@school.example', number: '0107' },
      ],
      groups: [],
      tasks: [
        { key: 'r', title: 'Report', most: 20 },
        { key: 'p', title: 'Poster', most: 5 },
      ],
    }
    const reading = readMarksCsv(await textOf(bytesOf('marks-of-100.csv')), known, 'convert')
    expect(reading.points.map(({ who, task, points }) => [who, task, points])).toEqual([
      ['a', 'r', 17],
      ['a', 'p', 4.5],
      ['b', 'p', 3],
    ])
    expect(reading.faults.map(({ line, field }) => [line, field])).toEqual([
      [3, 'Report'],
      [4, 'number'],
    ])
  })

  it('seats-coded.csv: two seats of one person, told by the codes of groups', async () => {
    const known = {
      people: [{ key: 'a', name: 'Ada Lind', email: 'ada@school.example', section: 'tue' }],
      groups: ['g1', 'g2', 'g3'].map((key) => ({
        key,
        topic: key === 'g3' ? 'Kefir' : 'Tempeh',
        section: 'tue',
        sectionName: 'Tue lab',
      })),
      seatsEach: 2,
    }
    expect(readSeatsCsv(await textOf(bytesOf('seats-coded.csv')), known)).toMatchObject({
      seats: [{ group: 'g2' }, { group: 'g3' }],
      faults: [],
    })
  })

  it('picture.xlsx: refused', () => {
    expect(isSpreadsheet(bytesOf('picture.xlsx'))).toBe(false)
  })
})

const NAMES = readdirSync(import.meta.dirname).filter((name) => !/\.(mjs|ts)$/.test(name))

it('no file of the folder is without what it must give', () => {
  const own = readFileSync(join(import.meta.dirname, 'files.test.ts'), 'utf8')
  for (const name of NAMES) expect(own).toContain(name)
})

describe('however a file is broken', () => {
  const known = { students: [], groups: [], tasks: [{ key: 'r', title: 'Report', most: 20 }] }
  const READERS: Record<string, (text: string) => unknown> = {
    roster: (text) => readRosterCsv(text, SECTIONS),
    topics: (text) => readTopicsCsv(text, []),
    marks: (text) => readMarksCsv(text, known),
    seats: (text) => readSeatsCsv(text, { people: [], groups: [] }),
    people: (text) => peopleIn(text, []),
    oneRoster: (text) => readOneRoster({ users: text, classes: text, enrollments: text }),
  }

  it('each reader answers, and what it answers names lines that are there (property)', async () => {
    const texts = await Promise.all(NAMES.map((name) => textOf(bytesOf(name))))
    const broken = fc
      .tuple(
        fc.constantFrom(...texts),
        fc.array(
          fc.tuple(
            fc.nat(400),
            fc.constantFrom('"', ',', ';', '\t', '\n', '\r', '\0', "'", '=', '\u200B', '9'.repeat(40), ''),
          ),
          { maxLength: 12 },
        ),
        fc.nat(400),
      )
      .map(([text, changes, cut]) => {
        let changed = text
        for (const [at, sign] of changes) changed = changed.slice(0, at) + sign + changed.slice(at + 1)
        return cut < 40 ? changed.slice(0, cut) : changed
      })
    fc.assert(
      fc.property(broken, fc.constantFrom(...Object.keys(READERS)), (text, which) => {
        const answer = READERS[which]!(text) as { faults?: { line: number }[] }
        const lines = text.split(/\r\n|\n|\r/).length
        for (const { line } of answer.faults ?? []) expect(line).toBeLessThanOrEqual(lines)
      }),
      { numRuns: 1_500 },
    )
  })

  it('a spreadsheet is unpacked by one that notices what is broken: one byte sent its reader round for ever', () => {
    for (const name of ['roster.xlsx', 'topics.ods']) {
      const bytes = bytesOf(name).slice()
      bytes[5803 % bytes.length] = 87
      try {
        sheetsIn(bytes)
      } catch (error) {
        expect((error as Error).message).toMatch(/damaged/)
      }
    }
  })

  it('a spreadsheet with changed bytes is read or refused in a sentence (property)', () => {
    const sheets = ['roster.xlsx', 'topics.ods'].map(bytesOf)
    fc.assert(
      fc.property(
        fc.constantFrom(...sheets),
        fc.array(fc.tuple(fc.nat(8_000), fc.nat(255)), { minLength: 1, maxLength: 6 }),
        (whole, changes) => {
          const bytes = whole.slice()
          for (const [at, byte] of changes) bytes[at % bytes.length] = byte
          try {
            for (const { text } of sheetsIn(bytes)) readRosterCsv(text, SECTIONS)
          } catch (error) {
            expect((error as Error).message).toMatch(/^[A-Z].*\.$/s)
          }
        },
      ),
      { numRuns: 120 },
    )
  })
})
