import { expect, it } from 'vitest'
import { paceOf } from './pace.ts'

const at = (hour: number) => `2026-05-06T${String(hour).padStart(2, '0')}:00:00.000Z`
const input = {
  opensAt: at(8),
  closesAt: at(16),
  now: at(12),
  people: ['a', 'b', 'c', 'd'].map((code) => ({ code, section: code < 'c' ? 'tue' : 'wed' })),
  seats: [
    { person: 'a', at: at(9) },
    { person: 'c', at: at(11) },
    { person: 'gone', at: at(9) },
  ],
  sections: [{ code: 'tue' }, { code: 'wed' }],
}

it('goes from the opening to now, and counts active people alone', () => {
  const points = paceOf(input)
  expect(points[0]).toMatchObject({ at: at(8), seated: 0, needed: 0 })
  expect(points.at(-1)).toEqual({ at: at(12), seated: 2, needed: 2, shares: { tue: 50, wed: 50 } })
})

it('ends at the close once that is past, where everybody is needed', () => {
  expect(paceOf({ ...input, now: at(20) }).at(-1)).toMatchObject({ at: at(16), needed: 4 })
})

it('counts somebody with two seats once, from the first', () => {
  const seats = [...input.seats, { person: 'a', at: at(8) }]
  expect(paceOf({ ...input, seats }).at(-1)?.seated).toBe(2)
})
