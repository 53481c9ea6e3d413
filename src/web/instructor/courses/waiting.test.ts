import { expect, it } from 'vitest'
import { smallWords } from './waiting.ts'

it('says who left a group that is too small, by name where they are few', () => {
  const small = { size: 1, floor: 3 }
  expect(smallWords({ ...small, leavers: ['Ada'] })).toBe('has 1 of at least 3, since Ada left')
  expect(smallWords({ ...small, leavers: ['Ada', 'Bo'] })).toBe('has 1 of at least 3, since Ada and Bo left')
  expect(smallWords({ ...small, leavers: ['Ada', 'Bo', 'Cy'] })).toBe(
    'has 1 of at least 3, since Ada and 2 others left',
  )
})
