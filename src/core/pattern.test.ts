import { describe, expect, it } from 'vitest'
import { placeClashes } from './clashes.ts'
import { inSection, namesSection, topicsOfPattern } from './pattern.ts'

const titles = (pattern: Parameters<typeof topicsOfPattern>[0]) =>
  topicsOfPattern(pattern, 200).map(({ title }) => title)

describe('a naming pattern', () => {
  it('counts in numbers and letters, from where it is told', () => {
    expect(titles({ kind: 'numbers', pattern: 'Bench #', count: 3, first: 4 })).toEqual([
      'Bench 4',
      'Bench 5',
      'Bench 6',
    ])
    expect(titles({ kind: 'letters', pattern: 'Panel #', count: 3, first: 26 })).toEqual([
      'Panel Z',
      'Panel AA',
      'Panel AB',
    ])
    expect(titles({ kind: 'numbers', pattern: 'Bench', count: 2, first: 1 })).toEqual(['Bench 1', 'Bench 2'])
    expect(titles({ kind: 'weekdays', pattern: '# shift', days: [0, 4] })).toEqual([
      'Monday shift',
      'Friday shift',
    ])
  })

  it('cuts a weekly afternoon into dated slots', () => {
    const made = topicsOfPattern(
      {
        kind: 'slots',
        pattern: 'Talk #',
        firstDay: '2026-05-12',
        weeks: 2,
        from: '10:00',
        to: '11:10',
        minutes: 20,
      },
      200,
    )
    expect(made).toHaveLength(6)
    expect(made[0]).toEqual({
      title: 'Talk Tue 12 May, 10:00',
      startsAt: '2026-05-12T10:00',
      endsAt: '2026-05-12T10:20',
    })
    expect(made[5]).toEqual({
      title: 'Talk Tue 19 May, 10:40',
      startsAt: '2026-05-19T10:40',
      endsAt: '2026-05-19T11:00',
    })
  })

  it('makes nothing of nonsense, and never more than there is room for', () => {
    const slots = {
      kind: 'slots' as const,
      pattern: '#',
      firstDay: '2026-05-12',
      weeks: 50,
      from: '08:00',
      to: '20:00',
      minutes: 5,
    }
    expect(topicsOfPattern(slots, 200)).toHaveLength(200)
    expect(topicsOfPattern({ ...slots, minutes: 0 }, 200)).toEqual([])
    expect(topicsOfPattern({ ...slots, from: 'soon' }, 200)).toEqual([])
    expect(topicsOfPattern({ kind: 'numbers', pattern: '#', count: -4, first: 1 }, 200)).toEqual([])
  })
})

describe('clashes of place and time', () => {
  const at = (key: string, place: string, from: string | null, to: string | null = null) => ({
    key,
    place,
    startsAt: from && `2026-05-13T${from}:00.000Z`,
    endsAt: to && `2026-05-13T${to}:00.000Z`,
  })

  it('are the same place at overlapping times', () => {
    expect(
      placeClashes([
        at('a', 'Bench 1', '10:00', '11:00'),
        at('b', ' bench 1', '10:30'),
        at('c', 'Bench 1', '11:30'),
      ]),
    ).toEqual([['a', 'b']])
  })

  it('need both a place and a time', () => {
    expect(
      placeClashes([
        at('a', '', '10:00'),
        at('b', '', '10:00'),
        at('c', 'Bench 1', null),
        at('d', 'Bench 1', null),
      ]),
    ).toEqual([])
  })
})

describe('a name that is another in each section', () => {
  it('has the section where its mark stands, and nothing there where there is none', () => {
    expect(namesSection('§ #')).toBe(true)
    expect(namesSection('Group #')).toBe(false)
    expect(inSection('§ 3', 'Tue lab')).toBe('Tue lab 3')
    expect(inSection('Team § 3', null)).toBe('Team 3')
  })
})
