import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  type Criterion,
  fitPlacements,
  fitPoints,
  mostPoints,
  pastMost,
  phrasesLike,
  STEP,
  totalOf,
} from './marks.ts'

const row = (id: string, points: number): Criterion => ({ id, title: id, points, levels: ['thin', 'strong'] })
const task = { points: 10, criteria: [row('seen', 5), row('measured', 5)] }
const plain = { points: 10, criteria: [] }

it('adds up once every criterion is marked', () => {
  expect(mostPoints(task)).toBe(10)
  expect(totalOf(task, { placements: { seen: 4 }, points: null })).toBeNull()
  expect(totalOf(task, { placements: { seen: 4, measured: 2.5 }, points: null })).toBe(6.5)
  expect(totalOf(plain, { placements: {}, points: 7 })).toBe(7)
  expect(totalOf(plain, { placements: {}, points: null })).toBeNull()
})

it('keeps points within what can be had, in steps', () => {
  fc.assert(
    fc.property(
      fc.double({ min: -50, max: 50, noNaN: true }),
      fc.integer({ min: 1, max: 20 }),
      (points, most) => {
        const fitted = fitPoints(points, most)
        expect(fitted).toBeGreaterThanOrEqual(0)
        expect(fitted).toBeLessThanOrEqual(most)
        expect(fitted % STEP).toBe(0)
        if (points >= 0 && points <= most) expect(Math.abs(fitted - points)).toBeLessThanOrEqual(STEP / 2)
      },
    ),
  )
})

it('forgets criteria that are gone and cuts what is past them now', () => {
  expect(fitPlacements([row('seen', 3)], { seen: 4, measured: 2 })).toEqual({ seen: 3 })
})

it('names what is past what can be had', () => {
  expect(pastMost(task, { placements: { seen: 6, measured: 5 }, points: null })).toEqual(['seen'])
  expect(pastMost(plain, { placements: {}, points: 11 })).toEqual(['points'])
  expect(pastMost(plain, { placements: {}, points: 10 })).toEqual([])
})

it('offers phrases used before that begin like what is typed', () => {
  const used = [
    'Good eye for the door. Say how you measured the slope.',
    'Good eye for the door.',
    'Goodness.',
  ]
  expect(phrasesLike('Well done. good', used)).toEqual(['Good eye for the door.', 'Goodness.'])
  expect(phrasesLike('g', used)).toEqual([])
  expect(phrasesLike('Goodness.', used)).toEqual([])
})

describe('points, to the half', () => {
  it.each([
    [7.2, 10, 7],
    [7.3, 10, 7.5],
    [-1, 10, 0],
    [11, 10, 10],
    [10, 10, 10],
    [0, 0, 0],
  ])('%s of %s are %s', (given, most, points) => {
    expect(fitPoints(given, most)).toBe(points)
  })

  it('of a task are its own, or the sum over its criteria', () => {
    const rows = [2, 3.5].map((points, i) => ({ id: `c${i}`, title: '', points, levels: [] }))
    expect(mostPoints({ points: 10, criteria: [] })).toBe(10)
    expect(mostPoints({ points: 10, criteria: rows })).toBe(5.5)
    expect(totalOf({ criteria: [] }, { placements: {}, points: 4 })).toBe(4)
    expect(totalOf({ criteria: rows }, { placements: { c0: 2 }, points: 9 })).toBeNull()
    expect(totalOf({ criteria: rows }, { placements: { c0: 5, c1: 1 }, points: null })).toBe(3)
    expect(fitPlacements(rows, { c0: 9, gone: 1 })).toEqual({ c0: 2 })
  })

  it('are past the most above it or below none, and not at either', () => {
    const rows = [{ id: 'c', title: '', points: 2, levels: [] }]
    const past = (given: number) =>
      pastMost({ points: 9, criteria: rows }, { placements: { c: given }, points: null })
    expect([past(2), past(0), past(2.5), past(-0.5)]).toEqual([[], [], ['c'], ['c']])
    const plain = (points: number | null) => pastMost({ points: 9, criteria: [] }, { placements: {}, points })
    expect([plain(9), plain(0), plain(null), plain(9.5), plain(-0.5)]).toEqual([
      [],
      [],
      [],
      ['points'],
      ['points'],
    ])
    expect(pastMost({ points: 9, criteria: rows }, { placements: {}, points: 99 })).toEqual([])
  })
})

describe('phrases', () => {
  const said = ['Good brine. Weigh it twice.', 'good start.\nGood brine.', 'Good brine.', 'Go on! Good plan?']
  it('are those that begin like the last sentence, used most often first, in the order of letters after that', () => {
    expect(phrasesLike('Well done. good', said)).toEqual(['Good brine.', 'Good plan?', 'good start.'])
    expect(phrasesLike('Go', said, 2)).toEqual(['Good brine.', 'Go on!'])
    expect(phrasesLike('weigh', said)).toEqual(['Weigh it twice.'])
  })
  it('need two letters, and are not what is typed already', () => {
    expect(phrasesLike('g', said)).toEqual([])
    expect(phrasesLike('', said)).toEqual([])
    expect(phrasesLike('Good plan?', said)).toEqual([])
  })
})
