import fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { readTopicsCsv, type TopicLine, writeTopicsCsv } from './topicsCsv.ts'

const read = (text: string, taken: string[] = []) => {
  const reading = readTopicsCsv(text, taken)
  if (!reading.readable) throw new Error(reading.message)
  return reading
}

describe('a list of topics', () => {
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
    ['title,date,start\nTempeh,05/13/2026,10:00', 'date', /2026-05-13/],
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

  it('comes back unchanged from what is written, and no cell of it is a formula', () => {
    const text = (most: number) =>
      fc.string({ maxLength: most }).map((t) => t.replace(/[\s\0']+/g, ' ').trim())
    const time = fc.integer({ min: 0, max: 22 }).map((h) => `${String(h).padStart(2, '0')}:30`)
    const topic = fc.record({
      title: text(40).filter((t) => t !== ''),
      brief: text(80),
      seats: fc.option(fc.oneof(fc.integer({ min: 5, max: 500 }), fc.constant('none' as const))),
      floor: fc.option(fc.integer({ min: 1, max: 5 })),
      slot: fc.option(fc.record({ start: time, ends: fc.boolean() })),
      place: text(20),
      link: fc.constantFrom('', 'https://meet.example/a?b=c,d'),
    })
    const topics = fc.uniqueArray(topic, {
      minLength: 1,
      maxLength: 10,
      selector: ({ title }) => title.toLowerCase(),
    })
    fc.assert(
      fc.property(topics, (drawn) => {
        const given = drawn.map(({ slot, ...rest }) => ({
          ...rest,
          startsAt: slot ? `2026-05-13T${slot.start}` : null,
          endsAt: slot?.ends ? '2026-05-13T23:45' : null,
        }))
        const csv = writeTopicsCsv(given)
        const { lines, faults } = read(csv)
        expect(faults).toEqual([])
        expect(lines.map(({ line: _, ...rest }): Omit<TopicLine, 'line'> => rest)).toEqual(given)
        for (const cell of Papa.parse<string[]>(csv).data.flat()) expect(cell).not.toMatch(/^[=+\-@]/)
      }),
    )
  })
})
