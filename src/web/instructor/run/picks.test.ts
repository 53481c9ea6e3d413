import { expect, it } from 'vitest'
import { isPicked, standing, toggled, withRange } from './picks.ts'

const pick = (person: string, from: string | null = null) => ({ person, from })
const list = ['a', 'b', 'c', 'd'].map((person) => pick(person))

it('toggles one and picks a range, in either direction, without doubling', () => {
  expect(toggled([], pick('a'))).toEqual([pick('a')])
  expect(toggled([pick('a'), pick('b')], pick('a'))).toEqual([pick('b')])
  expect(withRange([pick('b')], list, pick('d'), pick('b')).map(({ person }) => person)).toEqual([
    'b',
    'c',
    'd',
  ])
  expect(withRange([], list, pick('x'), pick('c'))).toEqual([pick('c')])
  expect(isPicked([pick('a', 'one')], pick('a'))).toBe(false)
})

it('drops those who moved meanwhile', () => {
  const person = (code: string) => ({ code, name: code, section: null })
  const view = {
    seats: [
      { person: 'a', group: 'one', at: '' },
      { person: 'b', group: 'two', at: '' },
    ],
    people: ['a', 'b', 'c'].map(person),
    away: [],
  }
  const picks = [pick('a', 'one'), pick('b'), pick('b', 'one'), pick('c'), pick('gone')]
  expect(standing(picks, view)).toEqual([pick('a', 'one'), pick('c')])
})
