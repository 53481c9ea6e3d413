import { describe, expect, it } from 'vitest'
import { NO_LIMIT } from './limit.ts'
import { type RemedyGroup, remediesFor, smallestCommonLimit } from './remedies.ts'

const group = (code: string, seats: number, more: Partial<RemedyGroup> = {}): RemedyGroup => ({
  code,
  section: 's',
  seats,
  floor: 1,
  common: true,
  taken: 0,
  ...more,
})
const three = [group('a', 3), group('b', 3), group('c', 3)]
const students = (n: number, key: string | null = 's') => [{ key, students: n }]

describe('what can be done where seats are short', () => {
  it('is exactly what is needed: one seat more for all, one in one group, one topic, or the same for each', () => {
    expect(remediesFor(students(10), three, 3, 99)).toEqual([
      { kind: 'raise-common', seats: 4 },
      { kind: 'raise-groups', changes: [{ code: 'a', seats: 4 }] },
      { kind: 'add-topics', count: 1 },
      { kind: 'share-evenly', changes: [{ code: 'a', seats: 4 }] },
    ])
  })

  it('is nothing where all fit exactly, and only sharing where there is more room than people', () => {
    expect(remediesFor(students(9), three, 3, 99)).toEqual([])
    const changes = ['a', 'b', 'c'].map((code) => ({ code, seats: 2 }))
    expect(remediesFor(students(6), three, 3, 99)).toEqual([{ kind: 'share-evenly', changes }])
  })

  it('adds as many topics as the section that is shortest needs', () => {
    const groups = [group('a', 3), group('b', 3, { section: 't' })]
    const sections = [...students(4), ...students(11, 't')]
    const found = remediesFor(sections, groups, 3, 99)
    expect(found.find(({ kind }) => kind === 'add-topics')).toEqual({ kind: 'add-topics', count: 3 })
    expect(found.find(({ kind }) => kind === 'raise-groups')).toEqual({
      kind: 'raise-groups',
      changes: [
        { code: 'a', seats: 4 },
        { code: 'b', seats: 11 },
      ],
    })
    expect(found.find(({ kind }) => kind === 'raise-common')).toEqual({ kind: 'raise-common', seats: 11 })
  })

  it('leaves sections alone that are not short', () => {
    const groups = [group('a', 3), group('b', 3, { section: 't' })]
    const found = remediesFor([...students(3), ...students(4, 't')], groups, 3, 99)
    expect(found.find(({ kind }) => kind === 'raise-groups')).toEqual({
      kind: 'raise-groups',
      changes: [{ code: 'b', seats: 4 }],
    })
  })

  it('raises no common limit where there is none, or where raising it would not do', () => {
    const own = [group('a', 3, { common: false })]
    const kinds = (...given: Parameters<typeof remediesFor>) => remediesFor(...given).map(({ kind }) => kind)
    expect(kinds(students(4), own, NO_LIMIT, 99)).toEqual(['raise-groups', 'share-evenly'])
    expect(kinds(students(4), own, 3, 99)).toEqual(['raise-groups', 'add-topics', 'share-evenly'])
    // Raised to what the common limit is already, nothing would change.
    const mixed = [group('a', 3), group('b', 1, { section: 't', common: false })]
    expect(kinds([...students(3), ...students(2, 't')], mixed, 3, 99)).not.toContain('raise-common')
  })

  it('raises the smallest groups first, none past the most, and nothing where that is not enough', () => {
    const groups = [1, 3, 5].map((seats, i) => group('abc'[i]!, seats))
    const raised = (n: number, most: number) =>
      remediesFor(students(n), groups, 3, most).find(({ kind }) => kind === 'raise-groups')
    expect(raised(13, 4)).toEqual({
      kind: 'raise-groups',
      changes: [
        { code: 'a', seats: 4 },
        { code: 'b', seats: 4 },
      ],
    })
    expect(raised(14, 4)).toBeUndefined()
    expect(raised(14, 5)).toEqual({
      kind: 'raise-groups',
      changes: [
        { code: 'a', seats: 5 },
        { code: 'b', seats: 4 },
      ],
    })
    expect(raised(10, 99)).toEqual({ kind: 'raise-groups', changes: [{ code: 'a', seats: 2 }] })
  })
})

describe('the same for each', () => {
  const shared = (...given: Parameters<typeof remediesFor>) =>
    remediesFor(...given).find(({ kind }) => kind === 'share-evenly')

  it('gives the larger share to the fuller group, and none less than sit there', () => {
    const fuller = [group('a', 3), group('b', 3, { taken: 4 }), group('c', 3)]
    expect(shared(students(10), fuller, 3, 99)).toEqual({
      kind: 'share-evenly',
      changes: [{ code: 'b', seats: 4 }],
    })
    expect(shared(students(10), [group('a', 3), group('b', 3, { taken: 5 })], 3, 99)).toEqual({
      kind: 'share-evenly',
      changes: [
        { code: 'b', seats: 5 },
        { code: 'a', seats: 5 },
      ],
    })
    expect(shared(students(9), [group('a', 3), group('b', 3, { taken: 6 })], 3, 99)).toBeUndefined()
  })

  it('is not offered where a share would be past the most or none, or a section has people and no group', () => {
    expect(shared(students(10), three, 3, 4)).toBeDefined()
    expect(shared(students(10), three, 3, 3)).toBeUndefined()
    expect(shared(students(3), three, 3, 99)).toBeDefined()
    expect(shared(students(2), three, 3, 99)).toBeUndefined()
    expect(shared([...students(10), ...students(1, 't')], three, 3, 99)).toBeUndefined()
    expect(shared([...students(10), ...students(0, 't')], three, 3, 99)).toBeDefined()
  })
})

describe('the smallest common limit', () => {
  const fixed = (seats: number) => group('f', seats, { common: false })
  it.each([
    ['counts what has a limit of its own', 10, [fixed(4), group('a', 1), group('b', 1)], 99, 3],
    ['is one where nobody needs more', 3, [fixed(4), group('a', 9)], 99, 1],
    ['is one where exactly all sit in groups with limits of their own', 4, [fixed(4)], 99, 1],
    ['is none where no group follows it', 5, [fixed(4)], 99, null],
    ['does not count a section that has a group without a limit', 50, [fixed(NO_LIMIT), group('a', 1)], 9, 1],
    ['is what is allowed at most', 8, [group('a', 1), group('b', 1)], 4, 4],
    ['is none past that', 9, [group('a', 1), group('b', 1)], 4, null],
  ])('%s', (_, n, groups, most, limit) => {
    expect(smallestCommonLimit(students(n), groups, most)).toBe(limit)
  })

  it('is that of the section that needs the largest', () => {
    const groups = [group('a', 1), group('b', 1, { section: 't' })]
    expect(smallestCommonLimit([...students(7), ...students(3, 't')], groups, 99)).toBe(7)
  })
})
