import { expect, it } from 'vitest'
import { differencesOf } from './compare.ts'

const move = (person: string, to: string) => ({ person, from: null, to, reason: { code: 'even' as const } })
const left = (person: string) => ({ person, from: null, reason: { code: 'no-room' as const } })

it('names those whom two plans put in different places', () => {
  const here = { moves: [move('a', 'one'), move('b', 'two'), move('d', 'one')], left: [left('c')] }
  const there = { moves: [move('a', 'one'), move('b', 'one'), move('c', 'two')], left: [] }
  expect(differencesOf(here, there, [{ person: 'd', group: 'two' }])).toEqual([
    { person: 'b', here: 'two', there: 'one' },
    { person: 'd', here: 'one', there: 'two' },
    { person: 'c', here: null, there: 'two' },
  ])
  expect(differencesOf(here, here, [])).toEqual([])
})
