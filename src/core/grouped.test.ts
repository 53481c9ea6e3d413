import { expect, it } from 'vitest'
import { grouped } from './grouped.ts'

it('things are put together by what they have in common, in their order', () => {
  const words = ['miso', 'kefir', 'koji', 'kimchi', 'mead']
  expect([...grouped(words, (word) => word[0])]).toEqual([
    ['m', ['miso', 'mead']],
    ['k', ['kefir', 'koji', 'kimchi']],
  ])
  expect(grouped([], () => 1).size).toBe(0)
})
