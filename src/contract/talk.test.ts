import { expect, it } from 'vitest'
import { postBody } from './talk.ts'

it('a post made to break whoever reads it is refused with a word on why, one with a quoted list is taken', () => {
  for (const text of ['>'.repeat(8_000), '- '.repeat(2_000).concat('x')])
    expect(() => postBody.validateSync({ text })).toThrow(/quotes or lists more than 12 deep/)
  const text = '> - as you said\n>   - and so on'
  expect(postBody.validateSync({ text })).toEqual({ text })
})
