import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { convenerOf } from './convener.ts'

const members = [
  { key: 3, takenAt: '2026-05-06T10:00:00.000Z' },
  { key: 1, takenAt: '2026-05-06T09:00:00.000Z' },
  { key: 2, takenAt: '2026-05-06T11:00:00.000Z' },
]
const options = { named: null, lotNumber: 48_213, group: 7, order: (key: number) => key }

describe('the convener', () => {
  it('is the first to sit down, the one named, or nobody', () => {
    expect(convenerOf('first', members, options)).toBe(1)
    expect(convenerOf('named', members, { ...options, named: 2 })).toBe(2)
    expect(convenerOf('named', members, { ...options, named: 9 })).toBeNull()
    expect(convenerOf('none', members, options)).toBeNull()
    expect(convenerOf('first', [], options)).toBeNull()
  })

  it('by lot is a member, the same for the same lot number, whatever the order of the members', () => {
    const keys = fc.uniqueArray(fc.nat(5_000), { minLength: 1, maxLength: 9 })
    fc.assert(
      fc.property(keys, fc.nat(99_999), fc.nat(500), (list, lotNumber, group) => {
        const sitting = list.map((key) => ({ key, takenAt: '' }))
        const drawn = convenerOf('lot', sitting, { ...options, lotNumber, group })
        expect(list).toContain(drawn)
        expect(convenerOf('lot', [...sitting].reverse(), { ...options, lotNumber, group })).toBe(drawn)
      }),
    )
  })

  it('by lot is fair enough: nobody of four is drawn twice as often as expected', () => {
    const four = [11, 12, 13, 14].map((key) => ({ key, takenAt: '' }))
    const drawn = new Map<number, number>()
    for (let lotNumber = 0; lotNumber < 2_000; lotNumber++) {
      const key = convenerOf('lot', four, { ...options, lotNumber })!
      drawn.set(key, (drawn.get(key) ?? 0) + 1)
    }
    for (const times of drawn.values()) expect(times).toBeLessThan(1_000)
    expect(drawn.size).toBe(4)
  })
})
