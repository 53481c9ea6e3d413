import fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { type GroupLine, readSeatsCsv, type SeatLine, writeGroupsCsv, writeStudentsCsv } from './groupsCsv.ts'

const people = [
  { key: 'p1', name: 'Ada Lindqvist', email: 'ada@school.example', section: 'tue' },
  { key: 'p2', name: 'Bao Trinh', email: 'bao@school.example', section: 'wed' },
  { key: 'p3', name: 'Ada Lindqvist', email: 'ada.l@school.example', section: 'wed' },
]
const groups = [
  { key: 'g1', topic: 'Tempeh', section: 'tue', sectionName: 'Tue lab' },
  { key: 'g2', topic: 'Tempeh', section: 'wed', sectionName: 'Wed lab' },
  { key: 'g3', topic: 'Kéfir', section: 'tue', sectionName: 'Tue lab' },
]
const line = (more: Partial<SeatLine>): SeatLine => ({
  name: 'Ada Lindqvist',
  given: 'Ada',
  family: 'Lindqvist',
  number: '',
  groupCode: '',
  email: 'ada@school.example',
  section: 'Tue lab',
  status: 'active',
  topic: 'Tempeh',
  groupSection: 'Tue lab',
  place: '',
  starts: '',
  ends: '',
  link: '',
  convener: false,
  extra: false,
  since: '2026-05-06 10:00',
  ...more,
})

describe('who sits where as CSV', () => {
  it('comes back as it went out, a formula in a cell included', () => {
    const csv = writeStudentsCsv([
      line({ place: '=1+1' }),
      line({ name: 'Bao Trinh', email: 'bao@school.example', topic: '', groupSection: '' }),
      line({ email: 'ada.l@school.example', groupSection: 'Wed lab' }),
    ])
    expect(csv).toContain("'=1+1")
    expect(readSeatsCsv(csv, { people, groups })).toEqual({
      notes: [expect.stringMatching(/^Not read: “section”, .*, and 3 more\.$/)],
      seats: [
        { line: 2, person: 'p1', group: 'g1' },
        { line: 3, person: 'p2', group: null },
        { line: 4, person: 'p3', group: 'g2' },
      ],
      faults: [],
    })
  })

  it('means the person’s own section unless told otherwise, and folds accents and case', () => {
    const csv = 'Email,Group\nbao@school.example,TEMPEH\nada@school.example,kefir'
    expect(readSeatsCsv(csv, { people, groups }).seats.map(({ group }) => group)).toEqual(['g2', 'g3'])
  })

  it.each([
    ['topic\nTempeh', 1, 'line'],
    ['email,topic\nnobody@school.example,Tempeh', 2, 'email'],
    ['name,topic\nAda Lindqvist,Tempeh', 2, 'name'],
    ['email,topic\nada@school.example,Vinegar', 2, 'topic'],
    ['email,topic\nada@school.example,Tempeh\nada@school.example,Kefir', 3, 'line'],
    ['email,topic,group section\nada@school.example,Tempeh,Fri lab', 2, 'group section'],
    ['email,topic\nada@school.example,"Tempeh', 2, 'line'],
    ['', 1, 'line'],
  ])('names what is wrong in %j', (csv, at, field) => {
    const { faults } = readSeatsCsv(csv, { people, groups })
    expect(faults.map((fault) => `${fault.line} ${fault.field}`)).toEqual([`${at} ${field}`])
    expect(faults[0]?.message).toMatch(/\w+ \w+/)
  })

  it('never starts a cell with a formula', () => {
    const text = fc.string({ maxLength: 8 })
    fc.assert(
      fc.property(text, text, text, (name, topic, place) => {
        const group: GroupLine = {
          topic,
          code: 'k3x',
          section: name,
          seats: null,
          floor: 1,
          taken: 0,
          place,
          starts: '',
          ends: '',
          link: '',
          convener: name,
          tutors: [name],
          members: [{ name, email: topic }],
        }
        for (const csv of [writeStudentsCsv([line({ name, topic, place })]), writeGroupsCsv([group])]) {
          for (const cell of Papa.parse<string[]>(csv).data.flat()) expect(cell).not.toMatch(/^[=+\-@\t\r]/)
        }
      }),
    )
  })
})

it('what goes out comes in again: with two seats each, and with groups of one title', () => {
  const twins = [...groups, { key: 'g4', topic: 'Tempeh', section: 'tue', sectionName: 'Tue lab' }]
  const csv = writeStudentsCsv([
    line({ groupCode: 'g1' }),
    line({ groupCode: 'g4' }),
    line({ name: 'Bao Trinh', email: 'bao@school.example', groupCode: 'g2', groupSection: 'Wed lab' }),
  ])
  expect(readSeatsCsv(csv, { people, groups: twins, seatsEach: 2 })).toMatchObject({
    seats: [
      { line: 2, person: 'p1', group: 'g1' },
      { line: 3, person: 'p1', group: 'g4' },
      { line: 4, person: 'p2', group: 'g2' },
    ],
    faults: [],
  })
  const one = readSeatsCsv(csv, { people, groups: twins })
  expect(one.faults).toMatchObject([
    { line: 3, message: expect.stringMatching(/stands on line 2 too\. Keep one/) },
  ])
  const uncoded = readSeatsCsv('email,topic\nada@school.example,Tempeh', { people, groups: twins })
  expect(uncoded.faults).toMatchObject([
    { line: 2, message: expect.stringMatching(/2 groups are called that/) },
  ])
})

it('titles above the headings are stepped over and said, and so is what is not read', () => {
  const csv = 'Benches of the spring;;\nemail;topic;shelf\nada@school.example;Tempeh;3;more\n'
  const { seats, faults, notes } = readSeatsCsv(csv, { people, groups })
  expect(faults).toEqual([])
  expect(seats).toHaveLength(1)
  expect(notes).toEqual([
    expect.stringMatching(/^Line 1 above the headings was passed over: “Benches of the spring”/),
    'Not read: “shelf”.',
    expect.stringMatching(/“more” in line 3/),
  ])
})
