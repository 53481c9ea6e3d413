import fc from 'fast-check'
import { expect, it } from 'vitest'
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
