import { describe, expect, it } from 'vitest'
import { CHOICES, namesShown, showsMoreNames } from './rules.ts'

const READERS = [
  { state: 'open', seated: false, inGroup: false },
  { state: 'open', seated: true, inGroup: false },
  { state: 'open', seated: true, inGroup: true },
  { state: 'closed', seated: false, inGroup: false },
  { state: 'closed', seated: true, inGroup: true },
] as const

describe('names', () => {
  it.each([
    ['mates', [false, false, true, false, true]],
    ['seated', [false, true, true, false, true]],
    ['after-close', [false, false, false, true, true]],
    ['everyone', [true, true, true, true, true]],
    ['nobody', [false, false, false, false, false]],
  ] as const)('under the rule %s are shown to whom it says and to nobody else', (rule, expected) => {
    expect(READERS.map((reader) => namesShown(rule, reader))).toEqual(expected)
  })

  it('that a change of rule shows to somebody new are noticed', () => {
    for (const before of CHOICES.names) {
      for (const after of CHOICES.names) {
        const opens = READERS.some((reader) => !namesShown(before, reader) && namesShown(after, reader))
        if (opens) expect(showsMoreNames(before, after), `${before} to ${after}`).toBe(true)
      }
    }
    expect(showsMoreNames('everyone', 'mates')).toBe(false)
  })
})
