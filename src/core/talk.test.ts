import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { mentionsIn, nameBegun } from './talk.ts'

const people = [
  { key: 1, name: 'Ada Holt' },
  { key: 2, name: 'Ada Holtby' },
  { key: 3, name: 'Jörg O’Dell' },
]

describe('whom a text names', () => {
  it.each<[string, number[]]>([
    ['@Ada Holt, can you?', [1]],
    ['@ada holtby and @jörg o’dell', [2, 3]],
    ['write to me@Ada Holt', []],
    ['@Ada', []],
    ['(@Ada Holt) and again @Ada Holt.', [1]],
    ['no one', []],
  ])('%s', (text, named) => {
    expect(mentionsIn(text, people)).toEqual(named)
  })

  it('is everybody whose name stands after an @, whatever stands around', () => {
    fc.assert(
      fc.property(fc.subarray(people), fc.constantFrom(' ', ', ', '\n', '. '), (some, between) => {
        const text = some.map(({ name }) => `@${name}`).join(between)
        expect(mentionsIn(text, people).sort()).toEqual(some.map(({ key }) => key).sort())
      }),
    )
  })
})

it('a name that is begun is what stands after the last @', () => {
  expect(nameBegun('Hello @Ad')).toBe('Ad')
  expect(nameBegun('Hello @')).toBe('')
  expect(nameBegun('me@school')).toBeNull()
  expect(nameBegun('none')).toBeNull()
  expect(nameBegun('@Ada\nnext')).toBeNull()
  expect(nameBegun('Hello Ada')).toBeNull()
  expect(nameBegun(`@${'a'.repeat(40)}`)).toBe('a'.repeat(40))
  expect(nameBegun(`@${'a'.repeat(41)}`)).toBeNull()
})
