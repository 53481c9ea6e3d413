import { describe, expect, it } from 'vitest'
import { sayLimit, sentLimit, typedLimit, typedNumber } from '../record/limits.ts'
import { sayLocal } from './cells.tsx'
import { windowDoubts } from './windowDoubts.ts'

describe('a limit', () => {
  it.each([
    ['', null],
    [' 4 ', 4],
    ['None', 'none'],
    ['2,5', 2.5],
    ['-3', -3],
    ['many', 'many'],
  ])('typed as %j is sent as %j, so that the server can say what is wrong with it', (typed, sent) => {
    expect(typedLimit(typed)).toBe(sent)
  })

  it('shows as what is typed for it, and goes back as it came', () => {
    expect([null, 0, 4].map(sayLimit)).toEqual(['', 'none', '4'])
    expect([null, 0, 4].map(sentLimit)).toEqual([null, 'none', 4])
    expect(typedNumber('')).toBeNull()
    expect(typedNumber('x')).toBe('x')
  })
})

it('an instant shows as the wall-clock time of the course', () => {
  expect(sayLocal('2026-05-13T15:00:00.000Z', 'Europe/Copenhagen')).toBe('2026-05-13T17:00')
  expect(sayLocal(null, 'Europe/Copenhagen')).toBe('')
})

describe('doubts about a window', () => {
  const course = { code: '', courseCode: '', title: '', zone: 'Europe/Copenhagen' }
  const doubts = (opensAt: string | null, closesAt: string | null, now = '2026-05-06T07:00:00.000Z') =>
    windowDoubts({ opensAt, closesAt, course }, now)

  it('are its end in the past, its being short, and the night of a clock change', () => {
    expect(doubts(null, '2026-05-05T07:00:00.000Z')).toEqual(['The window ends in the past.'])
    expect(doubts('2026-05-07T07:00:00.000Z', '2026-05-07T07:40:00.000Z')).toEqual([
      'The window is only 40 min long.',
    ])
    expect(doubts(null, '2026-10-25T02:00:00.000Z')).toEqual(['It closes in a night in which clocks change.'])
  })

  it('are none for an ordinary window, nor for one that is not set', () => {
    expect(doubts('2026-05-07T07:00:00.000Z', '2026-05-14T15:00:00.000Z')).toEqual([])
    expect(doubts(null, null)).toEqual([])
  })
})
