import { expect, it } from 'vitest'
import { type Instant, shift } from '../core/instant.ts'
import { createRecent } from './recent.ts'

const NOON = '2026-05-04T12:00:00.000Z'
const at = (ms: number): Instant => shift(NOON, ms)

it('counts what happened within the span, by name, and forgets it when the span is over', () => {
  const recent = createRecent(1_000)
  expect([recent.count('a', NOON), recent.last('a', NOON), recent.firstEnds('a', NOON)]).toEqual([
    0,
    null,
    null,
  ])
  recent.note('a', NOON)
  recent.note('a', at(400))
  recent.note('b', at(500))
  expect(recent.count('a', at(999))).toBe(2)
  expect(recent.last('a', at(999))).toBe(at(400))
  expect(recent.firstEnds('a', at(999))).toBe(at(1_000))
  expect(recent.count('a', at(1_000))).toBe(1)
  expect(recent.firstEnds('a', at(1_000))).toBe(at(1_400))
  expect([recent.count('a', at(1_400)), recent.count('b', at(1_400))]).toEqual([0, 1])
})

it('remembers so many names, and forgets the one not heard of for longest first', () => {
  const recent = createRecent(1_000, 2)
  for (const name of ['a', 'b', 'a', 'c']) recent.note(name, NOON)
  expect(['a', 'b', 'c'].map((name) => recent.count(name, NOON))).toEqual([2, 0, 1])
})
