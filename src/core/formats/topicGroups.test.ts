import { describe, expect, it } from 'vitest'
import { readTopicsCsv, type TopicsHow } from './topicsCsv.ts'

const SECTIONS = [
  { code: 'tue', name: 'Tue lab' },
  { code: 'wed', name: 'Wed lab' },
]
const PEOPLE = [
  { code: 'ada', name: 'Ada Lindqvist', email: 'ada@school.example' },
  { code: 'bo1', name: 'Bo Reyes', email: 'bo@school.example' },
  { code: 'bo2', name: 'Bo Reyes', email: 'bo.reyes@school.example' },
]
const read = (text: string, how: TopicsHow = {}) => {
  const reading = readTopicsCsv(text, [], 200, { sections: SECTIONS, people: PEOPLE, seats: 4, ...how })
  if (!reading.readable) throw new Error(reading.message)
  return reading
}

describe('lines with a section', () => {
  it('say what differs in the group there, compared without regard to spaces and case', () => {
    const { lines, faults } = read(
      'title;section;seats;date;start;place;offered\nMiso;;4;;;Bench 1;\nMiso;TUE  LAB;2;2026-05-13;10:00;;\nmiso;Wed lab;;;;;no',
    )
    expect(faults).toEqual([])
    expect(lines).toMatchObject([
      {
        title: 'Miso',
        seats: 4,
        place: 'Bench 1',
        groups: [
          { line: 3, section: 'tue', offered: true, seats: 2, startsAt: '2026-05-13T10:00', place: null },
          { line: 4, section: 'wed', offered: false, seats: null, startsAt: null },
        ],
      },
    ])
  })

  it('alone make a topic that is offered there and nowhere else', () => {
    expect(read('topic,section,seats,brief\nMiso,Wed lab,3,Barley').lines).toMatchObject([
      {
        title: 'Miso',
        brief: 'Barley',
        seats: null,
        groups: [
          { section: 'tue', offered: false },
          { section: 'wed', offered: true, seats: 3 },
        ],
      },
    ])
  })

  it('of a topic that is not offered are offered where they say so', () => {
    expect(read('title,section,offered\nMiso,,no\nMiso,Tue lab,yes').lines[0]?.groups).toMatchObject([
      { section: 'tue', offered: true },
      { section: 'wed', offered: false },
    ])
  })

  it.each([
    ['title,section\nMiso,\nMiso,Thu lab', 3, 'section', /no such section; it has Tue lab, Wed lab/, {}],
    ['title,section\nMiso,\nMiso,Tue lab\nMiso,tue lab', 4, 'section', /Line 3 has the same/, {}],
    ['title,section,seats\nMiso,,\nMiso,Tue lab,x', 3, 'seats', /whole number/, {}],
    ['title,section,brief\nMiso,,Barley\nMiso,Tue lab,Rice', 3, 'brief', /whole topic/, {}],
    ['title,section,offered\nMiso,,\nMiso,Tue lab,maybe', 3, 'offered', /yes or no/, {}],
    ['title,section\nMiso,\nMiso,Tue lab', 3, 'section', /for everybody/, { mixed: true }],
    ['title,section\nMiso,\nMiso,Tue lab', 3, 'section', /no sections/, { sections: [] }],
    [
      'title,section,one group for\nMiso,,\nMiso,Tue lab,everybody',
      3,
      'one group for',
      /line of the topic/,
      {},
    ],
  ])('that cannot be are named, and the rest of the topic stands: %j', (text, line, field, message, how) => {
    const { lines, faults } = read(text, how)
    expect(faults).toMatchObject([{ line, field, message: expect.stringMatching(message) }])
    expect(lines).toMatchObject([{ line: 2, title: 'Miso' }])
  })

  it('are left out with the line of their topic', () => {
    const { lines, faults } = read('title,section,seats\nMiso,,x\nMiso,Tue lab,2')
    expect(lines).toEqual([])
    expect(faults).toMatchObject([
      { line: 2, field: 'seats' },
      { line: 3, message: expect.stringMatching(/Line 2/) },
    ])
  })

  it('are no topics of their own, so that a full sheet still takes them', () => {
    const reading = readTopicsCsv('title,section\nMiso,\nMiso,Tue lab\nMiso,Wed lab', [], 1, {
      sections: SECTIONS,
    })
    expect(reading.readable).toBe(true)
  })
})

describe('seats that are kept free', () => {
  const kept = (cell: string, how: TopicsHow = {}) => {
    const { lines, faults } = read(`title\tsection\tkept free\nMiso\t\t\nMiso\tTue lab\t${cell}`, how)
    return faults.length > 0 ? faults.map(({ message }) => message) : lines[0]?.groups[0]?.kept
  }
  it('are for people, by address or by a name that one has, or for a use in words', () => {
    expect(kept('ADA@school.example; a guest;Ada Lindqvist <ada@school.example>')).toEqual([
      { person: 'ada' },
      { note: 'a guest' },
      { person: 'ada' },
    ])
    expect(kept('ada  lindqvist')).toEqual([{ person: 'ada' }])
  })
  it('are for nobody who is not known', () => {
    expect(kept('nobody@school.example')).toEqual([expect.stringMatching(/No student/)])
    expect(kept('Bo Reyes')).toEqual([expect.stringMatching(/More than one/)])
    expect(kept('ada@school.example', { people: null })).toEqual([expect.stringMatching(/not known yet/)])
    expect(kept(`${'long '.repeat(40)}`)).toEqual([expect.stringMatching(/120 characters/)])
  })
  it('are as many as the group has seats, at most', () => {
    expect(kept('a; b; c; d; e')).toEqual([
      expect.stringMatching(/5 seats are kept free, and the group has 4/),
    ])
    expect(kept('a; b; c; d; e', { seats: 0 })).toHaveLength(5)
  })
  it('need a section where the topic has a group in each, and none where it has one for everybody', () => {
    const text = 'title,kept free\nMiso,a guest'
    expect(read(text)).toMatchObject({ lines: [], faults: [{ line: 2, field: 'kept free' }] })
    const own = [{ section: null, offered: true, kept: [{ note: 'a guest' }] }]
    expect(read(text, { mixed: true }).lines).toMatchObject([{ groups: own }])
    expect(read('title,one group for,kept free\nMiso,everybody,a guest').lines).toMatchObject([
      { mixed: true, groups: own },
    ])
  })
})

describe('columns of topics', () => {
  const text = 'Thema,Plätze,Colour\nMiso,3,red\nKefir,4,blue'
  it('are pointed out, where their headings are in other words', () => {
    const { lines, headed } = read(text, { headings: 'first', columns: { title: 0, seats: 1 } })
    expect(headed).toBe(true)
    expect(lines).toMatchObject([
      { line: 2, title: 'Miso', seats: 3 },
      { line: 3, title: 'Kefir', seats: 4 },
    ])
  })
  it('that are not read are named, and what stands behind the last', () => {
    const { notes } = read('title,seats,colour,shade\nMiso,3,red,dark\nKefir, 4,blue,dark,and more')
    expect(notes).toEqual([
      expect.stringMatching(/“colour”, “shade” are not read/),
      expect.stringMatching(/“and more” in line 3/),
    ])
  })
  it('without titles are refused, with what there is to point out', () => {
    expect(readTopicsCsv(text, [], 200, { headings: 'first' })).toMatchObject({
      readable: false,
      message: expect.stringMatching(/titles/),
      header: ['Thema', 'Plätze', 'Colour'],
    })
  })
  it('may be none at all: the first line is a topic then', () => {
    expect(
      read('Title,3', { headings: 'none', columns: { title: 0, seats: 1, brief: -1 } }).lines,
    ).toMatchObject([{ line: 1, title: 'Title', seats: 3 }])
  })
})
