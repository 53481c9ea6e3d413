import { expect, it } from 'vitest'
import { keepSame } from './useSame.ts'

const map = (entries: Record<string, string[]>) => new Map(Object.entries(entries))

it('a map keeps its values where they say the same, and itself where all do', () => {
  const before = map({ a: ['Ada'], b: ['Bo', 'Cy'] })
  expect(keepSame(before, map({ a: ['Ada'], b: ['Bo', 'Cy'] }))).toBe(before)
  const after = keepSame(before, map({ a: ['Ada'], b: ['Bo'] }))
  expect(after).not.toBe(before)
  expect(after.get('a')).toBe(before.get('a'))
  expect(after.get('b')).toEqual(['Bo'])
})

it('a map that lost or won an entry is another one', () => {
  const before = map({ a: ['Ada'] })
  expect([...keepSame(before, map({})).keys()]).toEqual([])
  expect([...keepSame(before, map({ a: ['Ada'], b: [] })).keys()]).toEqual(['a', 'b'])
})
