import { describe, expect, it } from 'vitest'
import { stateAt, stateWords } from './state.ts'

const sheet = {
  state: 'open' as const,
  opensAt: '2026-05-06T07:00:00.000Z',
  closesAt: '2026-05-13T15:00:00.000Z',
}
const ZONE = 'Europe/Copenhagen'

describe('a page left open', () => {
  it('changes state with the clock, not only with what it fetched', () => {
    expect(stateAt(sheet, '2026-05-06T06:00:00.000Z')).toBe('scheduled')
    expect(stateAt({ ...sheet, state: 'scheduled' }, '2026-05-06T07:00:00.000Z')).toBe('open')
    expect(stateAt(sheet, '2026-05-13T15:00:00.000Z')).toBe('closed')
    expect(stateAt({ ...sheet, state: 'archived' }, '2026-05-06T08:00:00.000Z')).toBe('archived')
    expect(stateAt({ ...sheet, state: 'draft' }, '2026-05-06T08:00:00.000Z')).toBe('draft')
  })

  it('says when it changes next, and how long that is', () => {
    expect(stateWords(sheet, ZONE, '2026-05-11T11:00:00.000Z')).toBe(
      'closes Wed 13 May, 17:00, in 2 days 4 h',
    )
    expect(stateWords(sheet, ZONE, '2026-05-06T06:00:00.000Z')).toBe('opens Wed 6 May, 09:00, in 1 h')
    expect(stateWords(sheet, ZONE, '2026-05-14T00:00:00.000Z')).toBe('since Wed 13 May, 17:00')
    expect(stateWords({ ...sheet, closesAt: null }, ZONE, '2026-05-07T00:00:00.000Z')).toBe('no closing time')
  })
})
