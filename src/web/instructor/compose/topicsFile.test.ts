import { describe, expect, it } from 'vitest'
import type { ComposeView } from '../../../contract/sheets.ts'
import type { GroupView, TopicView } from '../../../contract/topicViews.ts'
import { readTopicsCsv } from '../../../core/formats/topicsCsv.ts'
import { anybodyKept, groupWords, sentTopic, topicsFile } from './topicsFile.ts'

const NOTHING = { seats: null, floor: null, place: null, link: null, startsAt: null, endsAt: null }
const group = (section: string | null, given: Partial<GroupView> = {}): GroupView => ({
  code: `g-${section}`,
  section,
  taken: 0,
  state: 'offered',
  own: NOTHING,
  held: [],
  ...given,
})
const topic = (title: string, given: Partial<TopicView> = {}): TopicView => ({
  code: title,
  title,
  brief: '',
  place: '',
  link: '',
  startsAt: null,
  endsAt: null,
  seats: null,
  floor: null,
  mixed: null,
  groups: [group('tue'), group('wed')],
  ...given,
})
const sections = [
  { code: 'tue', name: 'Tue lab' },
  { code: 'wed', name: 'Wed lab' },
] as ComposeView['sections']
const course = { zone: 'Europe/Copenhagen' } as ComposeView['course']
const PEOPLE = [{ code: 'ada', name: 'Ada Lindqvist', email: 'ada@school.example' }]

/** What a sheet’s file says once it is read for a sheet like it. */
function again(topics: TopicView[]) {
  const csv = topicsFile({ topics, sections, course }, PEOPLE)
  const reading = readTopicsCsv(csv, [], 200, { sections, people: PEOPLE, zone: course.zone, seats: 4 })
  if (!reading.readable) throw new Error(reading.message)
  expect(reading.faults).toEqual([])
  return reading.lines.map(sentTopic)
}

describe('the topics of a sheet as a file', () => {
  it('have a line for each group that differs, on the clocks of the course', () => {
    const own = {
      ...NOTHING,
      seats: 0,
      startsAt: '2026-05-20T20:00:00.000Z',
      endsAt: '2026-05-20T23:00:00.000Z',
    }
    const held = [
      { code: 'h1', person: 'ada', name: 'Ada Lindqvist', note: '' },
      { code: 'h2', person: null, name: null, note: 'a guest; or two' },
    ]
    expect(
      again([
        topic('Miso', { groups: [group('tue', { own, held }), group('wed', { state: 'not-offered' })] }),
      ]),
    ).toMatchObject([
      {
        title: 'Miso',
        groups: [
          {
            section: 'tue',
            seats: 'none',
            startsAt: '2026-05-20T22:00',
            endsAt: '2026-05-21T01:00',
            held: [{ person: 'ada' }, { note: 'a guest; or two' }],
          },
          { section: 'wed', offered: false },
        ],
      },
    ])
    expect(again([topic('Miso')])).toEqual([expect.not.objectContaining({ groups: expect.anything() })])
  })

  it('have what is of the only group of a topic in the topic’s own line', () => {
    const own = { ...NOTHING, seats: 2, place: 'Bench 3', startsAt: '2026-05-20T08:00:00.000Z' }
    const held = [{ code: 'h', person: null, name: null, note: 'a guest' }]
    const only = topic('Miso', {
      mixed: true,
      place: 'Bench 1',
      startsAt: '2026-05-21T08:00:00.000Z',
      endsAt: '2026-05-21T09:00:00.000Z',
      groups: [group(null, { own, held })],
    })
    expect(again([only])).toMatchObject([
      {
        seats: 2,
        place: 'Bench 3',
        startsAt: '2026-05-20T10:00',
        endsAt: null,
        mixed: true,
        groups: [{ section: null, held: [{ note: 'a guest' }] }],
      },
    ])
  })

  it('need addresses only where a seat is kept for a person', () => {
    const kept = (person: string | null) =>
      anybodyKept({
        topics: [
          topic('Miso', { groups: [group('tue', { held: [{ code: 'h', person, name: null, note: 'x' }] })] }),
        ],
      })
    expect([kept('ada'), kept(null)]).toEqual([true, false])
  })

  it('tell in words what a group has of its own', () => {
    const plain = { ...NOTHING, offered: true, kept: [] }
    expect(groupWords(plain, () => '')).toBe('offered')
    expect(groupWords({ ...plain, offered: false, seats: 3 }, () => '')).toBe('not offered')
    const full = { ...plain, seats: 1, floor: 1, startsAt: '2026-05-20T22:00', endsAt: '2026-05-21T01:00' }
    expect(groupWords({ ...full, kept: [{ person: 'ada' }, { note: 'a guest' }] }, () => 'Ada')).toBe(
      '1 seat, floor 1, 2026-05-20 22:00 to 2026-05-21 01:00, kept free for Ada, a guest',
    )
  })
})
