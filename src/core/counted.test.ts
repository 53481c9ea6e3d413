import { expect, it } from 'vitest'
import { counted } from './counted.ts'

it('what is counted is named as one or as several', () => {
  expect([0, 1, 2].map((n) => counted(n, 'seat'))).toEqual(['0 seats', '1 seat', '2 seats'])
  expect([1, 3].map((n) => counted(n, 'person', 'people'))).toEqual(['1 person', '3 people'])
})
