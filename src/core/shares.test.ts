import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { averageShares, pointsToGive, sharesFault } from './shares.ts'

describe('points that are shared', () => {
  it('go to each of the others, whole, and add up', () => {
    expect(sharesFault({ bao: 12, cy: 8 }, ['bao', 'cy'])).toBeNull()
    expect(sharesFault({ bao: 12, cy: 9 }, ['bao', 'cy'])).toEqual({ kind: 'sum', given: 21, wanted: 20 })
    expect(sharesFault({ bao: 20 }, ['bao', 'cy'])).toEqual({ kind: 'missing', key: 'cy' })
    expect(sharesFault({ bao: 19.5, cy: 0.5 }, ['bao', 'cy'])).toEqual({ kind: 'not-whole', key: 'bao' })
    expect(sharesFault({ bao: 30, cy: -10 }, ['bao', 'cy'])).toEqual({ kind: 'not-whole', key: 'cy' })
    expect(sharesFault({ bao: 10, cy: 10, me: 0 }, ['bao', 'cy'])).toEqual({ kind: 'unknown', key: 'me' })
    expect(sharesFault({ __proto__: 1 } as Record<string, number>, [])).toBeNull()
  })
  it('of everybody who gave add up to an even share each, on average', () => {
    const members = ['a', 'b', 'c', 'd']
    const row = (by: string) => {
      const others = members.filter((one) => one !== by)
      return fc
        .array(fc.integer({ min: 0, max: pointsToGive(others.length) }), { minLength: 2, maxLength: 2 })
        .map((cuts) => {
          const [low, high] = cuts.toSorted((x, y) => x - y) as [number, number]
          const parts = [low, high - low, pointsToGive(others.length) - high]
          return { by, points: new Map(others.map((one, i) => [one, parts[i] ?? 0])) }
        })
    }
    fc.assert(
      fc.property(fc.tuple(...members.map(row)), (given) => {
        const averages = averageShares(given, members)
        const sum = [...averages.values()].reduce((all, { average }) => all + average, 0)
        expect(sum).toBeGreaterThan(39.7)
        expect(sum).toBeLessThan(40.3)
        for (const { by } of averages.values()) expect(by).toBe(3)
      }),
    )
  })
  it('of and to those who are no members are left out', () => {
    const given = [
      {
        by: 'a',
        points: new Map([
          ['b', 15],
          ['gone', 5],
        ]),
      },
      { by: 'gone', points: new Map([['b', 0]]) },
      {
        by: 'b',
        points: new Map([
          ['b', 99],
          ['a', 10],
        ]),
      },
    ]
    expect([...averageShares(given, ['a', 'b', 'c'])]).toEqual([
      ['a', { average: 10, by: 1 }],
      ['b', { average: 15, by: 1 }],
    ])
  })
})
