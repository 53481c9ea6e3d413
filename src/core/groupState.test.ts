import { expect, it } from 'vitest'
import { GROUP_STATES, isOnSheet, takesPeople } from './groupState.ts'

it('seats are had in groups that are offered alone; what is removed is on no sheet', () => {
  expect(GROUP_STATES.filter((state) => takesPeople({ state }))).toEqual(['offered'])
  expect(GROUP_STATES.filter((state) => isOnSheet({ state }))).toEqual(['offered', 'not-offered'])
})
