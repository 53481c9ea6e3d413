import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NO_LIMIT } from './limit.ts'
import { type Remedy, type RemedyGroup, remediesFor } from './remedies.ts'
import { evenSizes, saySizes, seatsCheck, seatsShort, sizesOf } from './supply.ts'

const times = <T>(n: number, make: (i: number) => T) => Array.from({ length: n }, (_, i) => make(i))

describe('the seats check', () => {
  it('holds seats against students in each section', () => {
    const sections = [
      { key: 'tue', students: 24 },
      { key: 'thu', students: 10 },
    ]
    const groups = [
      ...times(6, () => ({ section: 'tue', seats: 3, floor: 2 })),
      ...times(4, () => ({ section: 'thu', seats: 3, floor: 2 })),
    ]
    const supply = seatsCheck({ sections, groups })
    expect(supply.map(({ seats, spare }) => [seats, spare])).toEqual([
      [18, -6],
      [12, 2],
    ])
    expect(seatsShort(supply)).toBe(6)
  })

  it('counts a course without sections as one, and has no end of seats where a group has no limit', () => {
    const check = (seats: number) =>
      seatsCheck({ sections: [{ key: null, students: 29 }], groups: [{ section: null, seats, floor: 1 }] })[0]
    expect(check(30)).toMatchObject({ seats: 30, groups: 1, spare: 1 })
    expect(check(NO_LIMIT)?.spare).toBe(Number.POSITIVE_INFINITY)
  })

  it('counts groups that cannot reach their floor whatever happens', () => {
    const cannot = (students: number, floors: number[], seats = 4) =>
      seatsCheck({
        sections: [{ key: null, students }],
        groups: floors.map((floor) => ({ section: null, seats, floor })),
      })[0]?.cannotWork
    expect(cannot(12, [3, 3, 3, 3])).toBe(0)
    expect(cannot(11, [3, 3, 3, 3])).toBe(1)
    expect(cannot(2, [3])).toBe(1)
    expect(cannot(90, [5, 2])).toBe(1)
  })
})

describe('sizes', () => {
  it('are said as people say them', () => {
    expect(saySizes(sizesOf(29, 3))).toBe('9 groups of 3, 1 of 2')
    expect(saySizes(evenSizes(40, 12))).toBe('4 groups of 4, 8 of 3')
    expect(saySizes(evenSizes(1, 1))).toBe('1 group of 1')
    expect(evenSizes(5, 0)).toEqual([])
  })

  it('hold everybody, and even ones differ by one at most', () => {
    fc.assert(
      fc.property(fc.nat(400), fc.integer({ min: 1, max: 60 }), (people, n) => {
        const even = evenSizes(people, n)
        expect(even).toHaveLength(n)
        expect(even.reduce((a, b) => a + b, 0)).toBe(people)
        expect(Math.max(...even) - Math.min(...even)).toBeLessThanOrEqual(1)
        expect(sizesOf(people, n).reduce((a, b) => a + b, 0)).toBe(people)
      }),
    )
  })
})

const MOST = 60
const course = fc.record({
  students: fc.tuple(fc.nat(60), fc.nat(60), fc.nat(60)),
  common: fc.integer({ min: 1, max: 8 }),
  groups: fc.array(
    fc.record({
      section: fc.constantFrom('a', 'b', 'c'),
      own: fc.option(fc.integer({ min: 1, max: 9 })),
      taken: fc.nat(3),
    }),
    { maxLength: 24 },
  ),
})

describe('remedies', () => {
  const shortAfter = (
    remedy: Remedy,
    sections: { key: string; students: number }[],
    groups: RemedyGroup[],
    common: number,
  ) => {
    const limits = new Map('changes' in remedy ? remedy.changes.map(({ code, seats }) => [code, seats]) : [])
    const changed = groups.map((group) => ({
      ...group,
      seats:
        limits.get(group.code) ??
        (remedy.kind === 'raise-common' && group.common ? remedy.seats : group.seats),
    }))
    const added = remedy.kind === 'add-topics' ? times(remedy.count, () => sections).flat() : []
    const more = added.map(({ key }) => ({ section: key, seats: common, floor: 1 }))
    return seatsCheck({ sections, groups: [...changed, ...more] })
  }

  it('each remove the shortage, and never more than that', () => {
    fc.assert(
      fc.property(course, ({ students, common, groups: drawn }) => {
        const sections = students.map((n, i) => ({ key: 'abc'[i]!, students: n }))
        const groups = drawn.map(({ section, own, taken }, i) => ({
          code: `g${i}`,
          section,
          seats: own ?? common,
          floor: 1,
          common: own === null,
          taken: Math.min(taken, own ?? common),
        }))
        const before = seatsCheck({ sections, groups })
        const short = seatsShort(before)
        for (const remedy of remediesFor(sections, groups, common, MOST)) {
          const after = shortAfter(remedy, sections, groups, common)
          expect(seatsShort(after), remedy.kind).toBe(0)
          if (remedy.kind === 'raise-groups') {
            const added = after.reduce((sum, { seats }, i) => sum + seats - before[i]!.seats, 0)
            expect(added).toBe(short)
          }
          if (remedy.kind === 'raise-common') {
            expect(
              seatsShort(shortAfter({ ...remedy, seats: remedy.seats - 1 }, sections, groups, common)),
            ).toBeGreaterThan(0)
          }
          if (remedy.kind === 'add-topics') {
            expect(
              seatsShort(shortAfter({ ...remedy, count: remedy.count - 1 }, sections, groups, common)),
            ).toBeGreaterThan(0)
          }
          if (remedy.kind === 'share-evenly') {
            for (const { students: n, seats, groups: count } of after) if (count > 0) expect(seats).toBe(n)
            for (const { code, seats } of remedy.changes) {
              expect(seats).toBeGreaterThanOrEqual(groups.find((group) => group.code === code)!.taken)
            }
          }
        }
        if (short > 0)
          expect(remediesFor(sections, groups, common, MOST).map(({ kind }) => kind)).toContain('add-topics')
        else
          expect(
            remediesFor(sections, groups, common, MOST).every(({ kind }) => kind === 'share-evenly'),
          ).toBe(true)
      }),
      { numRuns: 500 },
    )
  })

  it('for the class of 24 on six topics of three: one more seat everywhere, or two more topics', () => {
    const groups = times(6, (i) => ({
      code: `g${i}`,
      section: null,
      seats: 3,
      floor: 2,
      common: true,
      taken: 0,
    }))
    const found = remediesFor([{ key: null, students: 24 }], groups, 3, MOST)
    expect(found).toContainEqual({ kind: 'raise-common', seats: 4 })
    expect(found).toContainEqual({ kind: 'add-topics', count: 2 })
  })
})
