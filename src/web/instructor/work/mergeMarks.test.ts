import { expect, it } from 'vitest'
import { mergeMarks } from './mergeMarks.ts'

const mark = (placements: Record<string, number>, feedback = '') => ({ placements, points: null, feedback })

it('lays what two markers changed over each other, part by part', () => {
  const base = mark({ a: 1 }, 'Good.')
  expect(mergeMarks(base, mark({ a: 1, b: 2 }, 'Good.'), mark({ a: 3 }, 'Good. Clear.'))).toEqual(
    mark({ a: 3, b: 2 }, 'Good. Clear.'),
  )
  expect(mergeMarks(base, mark({ a: 4 }, 'Good.'), mark({ a: 4 }, 'Good.'))).toEqual(mark({ a: 4 }, 'Good.'))
})

it('asks where both wrote the same part', () => {
  const base = mark({ a: 1 }, 'Good.')
  expect(mergeMarks(base, mark({ a: 1 }, 'Good one.'), mark({ a: 1 }, 'Good two.'))).toBeNull()
  expect(mergeMarks(base, mark({ a: 2 }, 'Good.'), mark({ a: 3 }, 'Good.'))).toBeNull()
})
