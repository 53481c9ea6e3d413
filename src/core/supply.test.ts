import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NO_LIMIT } from './limit.ts'
import { type Remedy, type RemedyGroup, remediesFor } from './remedies.ts'
import { evenSizes, groupSizes, rowsToSeat, saySizes, seatsCheck, seatsShort, sizesOf } from './supply.ts'

const times = <T>(n: number, make: (i: number) => T) => Array.from({ length: n }, (_, i) => make(i))

describe('groups for all sections', () => {
  const shared = (seats: number) => ({ section: null, seats, floor: 1 })
  const sections = [
    { key: 'tue', students: 10 },
    { key: 'wed', students: 4 },
  ]
  it('are one row for everybody where no section has its own, those in no section with them', () => {
    expect(seatsCheck({ sections, groups: [shared(4), shared(12)], everybody: 15 })).toEqual([
      { key: null, students: 15, seats: 16, groups: 2, spare: 1, cannotWork: 0 },
    ])
  })
  it('hold those whom the groups of their own section do not', () => {
    const groups = [{ section: 'tue', seats: 6, floor: 2 }, { section: 'wed', seats: 6, floor: 2 }, shared(3)]
    const rows = seatsCheck({ sections, groups })
    expect(rows.map(({ key, students, spare }) => [key, students, spare])).toEqual([
      ['tue', 6, 0],
      ['wed', 4, 2],
      [null, 4, -1],
    ])
    expect(seatsShort(rows)).toBe(1)
    const again = rowsToSeat({ sections: rowsToSeat({ sections, groups }), groups })
    expect(again).toEqual(rowsToSeat({ sections, groups }))
  })
  it('are short by exactly those who cannot all sit at once, whatever the groups', () => {
    fc.assert(
      fc.property(
        fc.array(fc.nat(12), { minLength: 1, maxLength: 4 }),
        fc.array(fc.tuple(fc.option(fc.nat(3)), fc.integer({ min: 1, max: 6 })), {
          minLength: 1,
          maxLength: 8,
        }),
        (students, made) => {
          const all = students.map((n, key) => ({ key: String(key), students: n }))
          const groups = made.map(([section, seats]) => ({
            section: section === null ? null : String(section % students.length),
            seats,
            floor: 1,
          }))
          // Seated as greedily as can be: first in one's own section, then wherever all may sit.
          let room = groups.reduce((sum, { section, seats }) => sum + (section === null ? seats : 0), 0)
          let without = 0
          for (const { key, students: n } of all) {
            const own = groups.reduce((sum, { section, seats }) => sum + (section === key ? seats : 0), 0)
            const over = Math.max(0, n - own)
            without += Math.max(0, over - room)
            room = Math.max(0, room - over)
          }
          expect(seatsShort(seatsCheck({ sections: all, groups }))).toBe(without)
        },
      ),
    )
  })
})

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

describe('the sizes of groups that are made', () => {
  it('are 9 of 3 and 1 of 2 for 29 in groups of at most 3', () => {
    expect(saySizes(groupSizes(29, { by: 'most', n: 3 }))).toBe('9 groups of 3, 1 of 2')
    expect(saySizes(groupSizes(29, { by: 'least', n: 3 }))).toBe('2 groups of 4, 7 of 3')
    expect(saySizes(groupSizes(29, { by: 'size', n: 4 }))).toBe('1 group of 5, 6 of 4')
    expect(saySizes(groupSizes(29, { by: 'number', n: 10 }))).toBe('9 groups of 3, 1 of 2')
    expect(groupSizes(3, { by: 'number', n: 10 })).toEqual([1, 1, 1])
    expect(groupSizes(0, { by: 'most', n: 3 })).toEqual([])
    expect(groupSizes(2, { by: 'least', n: 3 })).toEqual([2])
  })
  it('hold everybody, differ by one at most, and keep what was said of them', () => {
    const by = fc.constantFrom('number' as const, 'size' as const, 'most' as const, 'least' as const)
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 700 }), by, fc.integer({ min: 1, max: 60 }), (people, how, n) => {
        const sizes = groupSizes(people, { by: how, n })
        expect(sizes.reduce((sum, size) => sum + size, 0)).toBe(people)
        expect((sizes[0] ?? 0) - (sizes.at(-1) ?? 0)).toBeLessThanOrEqual(1)
        if (how === 'number') expect(sizes.length).toBe(Math.min(n, people))
        if (how === 'most') {
          expect(sizes[0]).toBeLessThanOrEqual(n)
          // No fewer groups would do.
          expect((sizes.length - 1) * n).toBeLessThan(people)
        }
        if (how === 'least' && people >= n) expect(sizes.at(-1)).toBeGreaterThanOrEqual(n)
        if (how === 'least') expect((sizes.length + 1) * n).toBeGreaterThan(people)
      }),
    )
  })
})
