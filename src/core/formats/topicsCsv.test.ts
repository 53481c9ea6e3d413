import { describe, expect, it } from 'vitest'
import { readTopicsCsv } from './topicsCsv.ts'

const read = (text: string, taken: string[] = []) => {
  const reading = readTopicsCsv(text, taken)
  if (!reading.readable) throw new Error(reading.message)
  return reading
}

describe('a list of topics', () => {
  it('are read from a short table with tabs or semicolons, titles above the headings or none at all', () => {
    const read = (text: string) => {
      const reading = readTopicsCsv(text, [])
      return reading.readable
        ? reading.lines.map(({ line, title, seats }) => [line, title, seats])
        : reading.message
    }
    expect(read('Sourdough\t\t4\nMiso\t\t3\n')).toEqual([
      [1, 'Sourdough', 4],
      [2, 'Miso', 3],
    ])
    expect(read('Topics of the spring;\nTitle;Seats\nMa\u0301laga\u200B wine;4\n')).toEqual([
      [3, 'Málaga wine', 4],
    ])
  })

  it('is read from rows that a spreadsheet copied, in the order of the table', () => {
    const { lines, faults } = read(
      'Tempeh\tIncubation\t3\t2\t2026-05-13\t10:00\t11:30\tWarm cabinet\thttps://meet.example/t\nKefir',
    )
    expect(faults).toEqual([])
    expect(lines).toEqual([
      {
        line: 1,
        title: 'Tempeh',
        brief: 'Incubation',
        seats: 3,
        floor: 2,
        startsAt: '2026-05-13T10:00',
        endsAt: '2026-05-13T11:30',
        place: 'Warm cabinet',
        link: 'https://meet.example/t',
        mixed: null,
        groups: [],
      },
      {
        line: 2,
        title: 'Kefir',
        brief: '',
        seats: null,
        floor: null,
        startsAt: null,
        endsAt: null,
        place: '',
        link: '',
        mixed: null,
        groups: [],
      },
    ])
  })

  it('is read by the names of its columns, in any order and spelling', () => {
    const { lines } = read('Room;Topic;Max;Day;From\nCold room;Miso;none;13.5.2026;9.15')
    expect(lines).toMatchObject([
      { title: 'Miso', place: 'Cold room', seats: 'none', startsAt: '2026-05-13T09:15', endsAt: null },
    ])
  })

  it.each([
    ['title,seats\n,3', 'title', /missing/],
    ['title,seats\nTempeh,-1', 'seats', /whole number from 1/],
    ['title,seats\nTempeh,2.5', 'seats', /whole number from 1/],
    ['title,seats\nTempeh,"2,5"', 'seats', /whole number from 1/],
    ['title,seats,floor\nTempeh,3,4', 'floor', /above the 3 seats/],
    ['title,date,start\nTempeh,2026-02-30,10:00', 'date', /2026-05-13/],
    ['title,date,start\nTempeh,05/06/2026,10:00', 'date', /day first or month first/],
    ['title,date,start,end,end date\nTempeh,2026-05-13,10:00,,2026-05-14', 'end', /time at which it ends/],
    ['title,date,start,end,end date\nTempeh,2026-05-13,10:00,9:00,2026-05-12', 'end', /after the start/],
    ['title,date,start\nTempeh,,10:00', 'date', /2026-05-13/],
    ['title,date,start\nTempeh,2026-05-13,25:00', 'start', /14:30/],
    ['title,date,start,end\nTempeh,2026-05-13,10:00,09:00', 'end', /after the start/],
    ['title,link\nTempeh,javascript:alert(1)', 'link', /https/],
    [`title,brief\nTempeh,${'x'.repeat(10_000)}`, 'brief', /4,000/],
    ['title\n"Tempeh', 'line', /quotation mark/],
  ])('tells what is wrong with %j', (text, field, message) => {
    const { lines, faults } = read(text)
    expect(lines).toEqual([])
    expect(faults).toContainEqual(
      expect.objectContaining({ line: 2, field, message: expect.stringMatching(message) }),
    )
  })

  it('tells repeated titles, in the list and on the sheet, and keeps the others', () => {
    const { lines, faults } = read('title\nTempeh\ntempeh\nKefir\nMiso', ['Kefir'])
    expect(lines.map(({ title }) => title)).toEqual(['Tempeh', 'Miso'])
    expect(faults).toMatchObject([
      { line: 3, message: expect.stringMatching(/line 2/) },
      { line: 4, message: expect.stringMatching(/already/) },
    ])
  })

  it('says when there is nothing, or too much', () => {
    expect(readTopicsCsv('', [])).toMatchObject({ readable: false })
    expect(readTopicsCsv('title,seats', [])).toMatchObject({
      readable: false,
      message: expect.stringMatching(/no topic follows/),
    })
    const many = Array.from({ length: 5_000 }, (_, i) => `Topic ${i}`).join('\n')
    expect(readTopicsCsv(many, [])).toMatchObject({
      readable: false,
      message: expect.stringMatching(/5000 topics.*room for 200/),
    })
  })

  it('has days in the order that one line of it settles, or is asked about once', () => {
    const settled = read('title,date,start\nTempeh,05/06/2026,1:30 pm\nMiso,05/13/2026,13:30:00')
    expect(settled.days).toEqual({ order: 'month-first', doubtful: false })
    expect(settled.lines.map(({ startsAt }) => startsAt)).toEqual(['2026-05-06T13:30', '2026-05-13T13:30'])
    const doubtful = 'title,date,start\nTempeh,05/06/2026,10:00\nMiso,2026-06-07,10:00'
    expect(read(doubtful)).toMatchObject({
      days: { order: null, doubtful: true },
      faults: [{ line: 2, field: 'date' }],
      lines: [{ title: 'Miso' }],
    })
    const said = readTopicsCsv(doubtful, [], 200, { days: 'day-first' })
    expect(said).toMatchObject({ faults: [], lines: [{ startsAt: '2026-06-05T10:00' }, {}] })
  })

  it('has slots over midnight, and days and times in one cell', () => {
    expect(read('title,date,start,end\nTempeh,2026-05-13,22:00,1 am').lines).toMatchObject([
      { startsAt: '2026-05-13T22:00', endsAt: '2026-05-14T01:00' },
    ])
    expect(read('title,start,end\nTempeh,2026-05-13 22:00,2026-05-15 01:00').lines).toMatchObject([
      { startsAt: '2026-05-13T22:00', endsAt: '2026-05-15T01:00' },
    ])
    // So long a night is a mistake.
    expect(read('title,date,start,end\nTempeh,2026-05-13,10:00,9:00').faults).toMatchObject([
      { field: 'end' },
    ])
  })

  it('names times that clocks skip or show twice by their lines', () => {
    const text = 'title,date,start\nTempeh,2026-03-29,02:30\nMiso,2026-10-25,02:30\nKefir,2026-10-25,03:30'
    const reading = readTopicsCsv(text, [], 200, { zone: 'Europe/Copenhagen' })
    expect(reading).toMatchObject({
      faults: [
        { line: 2, found: '2026-03-29 02:30', message: expect.stringMatching(/never occurs/) },
        { line: 3, message: expect.stringMatching(/occurs twice/) },
      ],
      lines: [{ title: 'Kefir' }],
    })
  })
})
