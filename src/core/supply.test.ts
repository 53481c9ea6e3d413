import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { commonLimitThatSeatsAll, seatsCheck, seatsShort } from './supply.ts'

describe('the seats check', () => {
  it('holds seats against students in each section', () => {
    const sections = [
      { key: 'tue', students: 24 },
      { key: 'thu', students: 10 },
    ]
    const groups = [
      ...Array.from({ length: 6 }, () => ({ section: 'tue', seats: 3 })),
      ...Array.from({ length: 4 }, () => ({ section: 'thu', seats: 3 })),
    ]
    const supply = seatsCheck({ sections, groups })
    expect(supply.map(({ seats, spare }) => [seats, spare])).toEqual([
      [18, -6],
      [12, 2],
    ])
    expect(seatsShort(supply)).toBe(6)
  })

  it('counts a course without sections as one', () => {
    const [all] = seatsCheck({
      sections: [{ key: null, students: 29 }],
      groups: [{ section: null, seats: 30 }],
    })
    expect(all).toMatchObject({ seats: 30, groups: 1, spare: 1 })
  })
})

const section = fc.constantFrom('a', 'b', 'c')
const course = fc.record({
  sections: fc
    .tuple(fc.nat(60), fc.nat(60), fc.nat(60))
    .map((counts) => counts.map((students, i) => ({ key: 'abc'[i] ?? null, students }))),
  groups: fc.array(fc.record({ section, seats: fc.option(fc.integer({ min: 1, max: 9 })) }), {
    maxLength: 24,
  }),
})

describe('the common limit that seats all', () => {
  it('removes every shortage, and one less would not', () => {
    fc.assert(
      fc.property(course, ({ sections, groups }) => {
        const limit = commonLimitThatSeatsAll(sections, groups, 500)
        const shortAt = (common: number) =>
          seatsShort(
            seatsCheck({ sections, groups: groups.map((g) => ({ ...g, seats: g.seats ?? common })) }),
          )
        if (limit === null) {
          expect(shortAt(500)).toBeGreaterThan(0)
          return
        }
        expect(shortAt(limit)).toBe(0)
        if (limit > 1) expect(shortAt(limit - 1)).toBeGreaterThan(0)
      }),
    )
  })
})
