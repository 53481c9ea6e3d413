import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { HOUR, instantFromMs, MINUTE, msOf, shift } from './instant.ts'
import { NO_LIMIT, pastLimit, seatsLeft } from './limit.ts'
import { overlaps } from './times.ts'

const at = (from: string, to: string | null = null) => ({
  startsAt: `2026-05-13T${from}:00.000Z`,
  endsAt: to && `2026-05-13T${to}:00.000Z`,
})
const UNDATED = { startsAt: null, endsAt: null }

describe('two dated things', () => {
  it.each([
    [at('10:00', '11:00'), at('10:30', '11:30'), true],
    [at('10:00', '11:00'), at('11:00', '12:00'), false],
    [at('10:00', '12:00'), at('10:30', '11:00'), true],
    [at('10:00'), at('10:59'), true],
    [at('10:00'), at('11:00'), false],
    [at('10:00', '11:00'), UNDATED, false],
    [UNDATED, UNDATED, false],
  ])('%j and %j overlap: %s', (a, b, expected) => {
    expect(overlaps(a, b)).toBe(expected)
    expect(overlaps(b, a)).toBe(expected)
  })

  it('overlap exactly when some minute belongs to both', () => {
    const slot = fc.record({ from: fc.nat(120), length: fc.integer({ min: 1, max: 120 }) })
    fc.assert(
      fc.property(slot, slot, (a, b) => {
        const minutes = ({ from, length }: typeof a) => new Set(Array.from({ length }, (_, i) => from + i))
        const shared = [...minutes(a)].some((minute) => minutes(b).has(minute))
        const dated = ({ from, length }: typeof a) => ({
          startsAt: instantFromMs(from * MINUTE),
          endsAt: instantFromMs((from + length) * MINUTE),
        })
        expect(overlaps(dated(a), dated(b))).toBe(shared)
      }),
    )
  })
})

describe('instants', () => {
  it('compare as texts as they do as times', () => {
    const ms = fc.integer({ min: 0, max: 4_000_000_000_000 })
    fc.assert(
      fc.property(ms, ms, (a, b) => {
        expect(instantFromMs(a) < instantFromMs(b)).toBe(a < b)
        expect(msOf(instantFromMs(a))).toBe(a)
      }),
    )
    expect(shift('2026-05-13T23:30:00.000Z', HOUR)).toBe('2026-05-14T00:30:00.000Z')
  })
})

describe('room in a group', () => {
  it('is what is neither taken nor kept free, and never less than none', () => {
    expect(seatsLeft(4, 1)).toBe(3)
    expect(seatsLeft(4, 1, 2)).toBe(1)
    expect(seatsLeft(4, 3, 2)).toBe(0)
    expect(seatsLeft(4, 6)).toBe(0)
    expect(pastLimit(4, 6)).toBe(2)
    expect(pastLimit(4, 3)).toBe(0)
  })

  it('has no end without a limit', () => {
    expect(seatsLeft(NO_LIMIT, 900, 5)).toBe(Number.POSITIVE_INFINITY)
    expect(pastLimit(NO_LIMIT, 900)).toBe(0)
  })
})
