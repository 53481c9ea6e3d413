import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Near, nearestFree } from './nearest.ts'

const group = (code: string, over: Partial<Near> = {}): Near => ({
  code,
  title: code,
  section: null,
  startsAt: null,
  seats: 3,
  taken: 0,
  held: 0,
  waiting: 0,
  ...over,
})
const codes = (groups: readonly Near[]) => groups.map(({ code }) => code).join(' ')

describe('what is free nearest to a choice', () => {
  it('is the same topic in another section before any other', () => {
    const wanted = group('a', { title: 'Tempeh', section: 'Tue', taken: 3 })
    const others = [group('b', { section: 'Tue' }), group('c', { title: 'Tempeh', section: 'Thu' })]
    expect(codes(nearestFree(wanted, [wanted, ...others], 3))).toBe('c b')
  })

  it('is the nearest slot of dated topics', () => {
    const at = (hour: number) => `2026-05-12T${String(hour).padStart(2, '0')}:00:00.000Z`
    const slots = [8, 9, 10, 14].map((hour) => group(`h${hour}`, { startsAt: at(hour) }))
    expect(codes(nearestFree(slots[2]!, slots, 2))).toBe('h9 h8')
  })

  it('is the nearest on the sheet otherwise, and never one that is full, kept or waited for', () => {
    const sheet = [
      group('a'),
      group('b', { held: 3 }),
      group('c', { taken: 3 }),
      group('d', { waiting: 1 }),
      group('e'),
    ]
    expect(codes(nearestFree(sheet[2]!, sheet, 3))).toBe('a e')
    expect(codes(nearestFree(sheet[2]!, sheet, 3, ({ code }) => code !== 'a'))).toBe('e')
  })

  it('never offers what has no seat, nor the choice itself, nor more than asked', () => {
    const any = fc.array(
      fc.record({ taken: fc.nat(4), held: fc.nat(2), waiting: fc.nat(1), seats: fc.constantFrom(0, 3) }),
      { minLength: 1, maxLength: 12 },
    )
    fc.assert(
      fc.property(any, fc.nat(11), fc.nat(4), (facts, pick, most) => {
        const groups = facts.map((over, i) => group(`g${i}`, over))
        const wanted = groups[pick % groups.length]!
        const found = nearestFree(wanted, groups, most)
        expect(found.length).toBeLessThanOrEqual(most)
        for (const { code, seats, taken, held, waiting } of found) {
          expect(code).not.toBe(wanted.code)
          expect(seats === 0 || taken + held < seats).toBe(true)
          expect(waiting).toBe(0)
        }
      }),
    )
  })
})
