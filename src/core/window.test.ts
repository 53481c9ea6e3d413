import { describe, expect, it } from 'vitest'
import { DAY, HOUR, MINUTE } from './instant.ts'
import { justOpened, sayLength, sheetState, windowFault } from './window.ts'

const opensAt = '2026-05-06T07:00:00.000Z'
const closesAt = '2026-05-13T15:00:00.000Z'
const window = { publishedAt: '2026-05-01T00:00:00.000Z', opensAt, closesAt, archivedAt: null }

describe('the state of a sheet', () => {
  it('follows from the window and the clock, to the millisecond', () => {
    expect(sheetState({ ...window, publishedAt: null }, closesAt)).toBe('draft')
    expect(sheetState(window, '2026-05-06T06:59:59.999Z')).toBe('scheduled')
    expect(sheetState(window, opensAt)).toBe('open')
    expect(sheetState(window, '2026-05-13T14:59:59.999Z')).toBe('open')
    expect(sheetState(window, closesAt)).toBe('closed')
    expect(sheetState({ ...window, archivedAt: closesAt }, closesAt)).toBe('archived')
  })

  it('is open from publishing on without an opening time, and without a closing time never closes', () => {
    expect(sheetState({ ...window, opensAt: null }, '2026-05-02T00:00:00.000Z')).toBe('open')
    expect(sheetState({ ...window, closesAt: null }, '2030-01-01T00:00:00.000Z')).toBe('open')
  })
})

describe('a window', () => {
  it('must close after it opens', () => {
    expect(windowFault(opensAt, closesAt)).toBeNull()
    expect(windowFault(closesAt, opensAt)).toBe('closes-before-opening')
    expect(windowFault(opensAt, opensAt)).toBe('closes-before-opening')
    expect(windowFault(null, opensAt)).toBeNull()
  })
})

describe('a length in words', () => {
  it.each([
    [2 * DAY + 4 * HOUR + 59 * MINUTE, '2 days 4 h'],
    [DAY, '1 day'],
    [DAY + 20 * MINUTE, '1 day'],
    [3 * HOUR + 5 * MINUTE, '3 h 5 min'],
    [MINUTE, '1 min'],
    [59_999, 'less than a minute'],
    [-5, 'less than a minute'],
  ])('%i ms is %s', (ms, words) => {
    expect(sayLength(ms)).toBe(words)
  })
})

describe('a sheet that has just opened', () => {
  const opened = (closesAt: string | null, now: string) =>
    justOpened({ opensAt: '2026-05-06T08:00:00.000Z', closesAt }, now)

  it('is so for a tenth of its window, and for a day at the most', () => {
    expect(opened('2026-05-06T18:00:00.000Z', '2026-05-06T08:59:00.000Z')).toBe(true)
    expect(opened('2026-05-06T18:00:00.000Z', '2026-05-06T09:00:00.000Z')).toBe(false)
    expect(opened('2026-08-06T08:00:00.000Z', '2026-05-07T07:59:00.000Z')).toBe(true)
    expect(opened('2026-08-06T08:00:00.000Z', '2026-05-07T08:00:00.000Z')).toBe(false)
    expect(opened(null, '2026-05-06T20:00:00.000Z')).toBe(true)
  })

  it('is not so before it opens, nor without an opening time', () => {
    expect(opened(null, '2026-05-06T07:59:00.000Z')).toBe(false)
    expect(justOpened({ opensAt: null, closesAt: null }, '2026-05-06T08:00:00.000Z')).toBe(false)
  })
})
