import { expect, it } from 'vitest'
import { typedPoints } from './useRemarks.ts'

it('points are read as people type them', () => {
  const read = ['', '  ', '2', '-1', '−0,5', '–1.5', 'x'].map(typedPoints)
  expect(read).toEqual([null, null, 2, -1, -0.5, -1.5, Number.NaN])
})
