import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { changesFor, feedbackFor, pointsFor, type StandingMarks } from './marksIn.ts'

const group = (whole: number | null, apart: [string, number | null][] = []): StandingMarks<string> => ({
  owner: 'g',
  members: ['a', 'b', 'c'],
  whole,
  apart: new Map(apart),
})
const wants = (...points: [string, number][]) => new Map(points)

describe('points from a file', () => {
  it('that stand already change nothing', () => {
    expect(changesFor(group(7, [['b', 5]]), wants(['a', 7], ['b', 5], ['c', 7]))).toEqual([])
    expect(changesFor(group(7), wants())).toEqual([])
  })

  it('that are the same for all are the mark of the whole, and end what was set apart', () => {
    expect(changesFor(group(7, [['b', 5]]), wants(['a', 8], ['b', 8], ['c', 8]))).toEqual([
      { owner: 'g', member: null, from: 7, to: 8 },
      { owner: 'g', member: 'b', from: 5, to: null },
    ])
  })

  it('that differ set those apart who differ', () => {
    expect(changesFor(group(7), wants(['a', 7], ['b', 4], ['c', 7]))).toEqual([
      { owner: 'g', member: 'b', from: 7, to: 4 },
    ])
    expect(changesFor(group(null), wants(['a', 6], ['b', 9], ['c', 9]))).toEqual([
      { owner: 'g', member: null, from: null, to: 9 },
      { owner: 'g', member: 'a', from: null, to: 6 },
    ])
  })

  it('of a group without a mark give none to those of whom nothing is said', () => {
    expect(changesFor(group(null), wants(['a', 8]))).toEqual([{ owner: 'g', member: 'a', from: null, to: 8 }])
    expect(changesFor(group(null), wants(['a', 8], ['b', 8]))).toEqual([
      { owner: 'g', member: 'a', from: null, to: 8 },
      { owner: 'g', member: 'b', from: null, to: 8 },
    ])
  })

  it('give everybody named what is wanted, leave the others as they were, and twice is once', () => {
    const points = fc.integer({ min: 0, max: 4 })
    const standing = fc.record({
      whole: fc.option(points),
      apart: fc.dictionary(fc.constantFrom('a', 'b', 'c'), points),
    })
    const wish = fc.dictionary(fc.constantFrom('a', 'b', 'c'), points)
    fc.assert(
      fc.property(standing, wish, ({ whole, apart }, wish) => {
        const before = group(whole, Object.entries(apart))
        const wanted = new Map(Object.entries(wish))
        const next = new Map(before.apart)
        let mark = before.whole
        for (const { member, to } of changesFor(before, wanted)) {
          if (member === null) mark = to
          else if (to === null) next.delete(member)
          else next.set(member, to)
        }
        const after = { ...before, whole: mark, apart: next }
        for (const member of before.members) {
          const to = wanted.get(member)
          if (to !== undefined) expect(pointsFor(after, member)).toBe(to)
          else expect(pointsFor(after, member)).toBe(pointsFor(before, member))
        }
        expect(changesFor(after, wanted)).toEqual([])
      }),
    )
  })
})

describe('feedback', () => {
  const standing = (apart: [string, string][] = []) => ({
    members: ['a', 'b', 'c'],
    whole: 'Old',
    apart: new Map(apart),
  })
  const wanted = (texts: Record<string, string>) => new Map(Object.entries(texts))

  it('of all who share a mark is the one of the whole', () => {
    expect(feedbackFor(standing(), wanted({ a: 'New', b: 'New' }))).toEqual({
      changes: [{ member: null, to: 'New' }],
      unclear: [],
    })
    expect(feedbackFor(standing(), wanted({ a: 'Old', b: 'Old', c: 'Old' }))).toEqual({
      changes: [],
      unclear: [],
    })
    expect(feedbackFor(standing(), wanted({ z: 'New' }))).toEqual({ changes: [], unclear: [] })
  })

  it('of those who are set apart is their own', () => {
    expect(feedbackFor(standing([['c', 'Own']]), wanted({ a: 'Old', c: 'Better' })).changes).toEqual([
      { member: 'c', to: 'Better' },
    ])
    expect(feedbackFor(standing([['c', 'Own']]), wanted({ c: 'Own' })).changes).toEqual([])
  })

  it('that differs among those who share a mark is unclear, and changes nothing of theirs', () => {
    expect(feedbackFor(standing(), wanted({ a: 'Old', b: 'New' }))).toEqual({ changes: [], unclear: ['b'] })
    expect(feedbackFor(standing(), wanted({ a: 'One', b: 'Two' }))).toEqual({
      changes: [],
      unclear: ['a', 'b'],
    })
  })
})
