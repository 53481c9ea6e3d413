import { describe, expect, it } from 'vitest'
import type { PlanInput } from '../../src/core/plan/types.ts'
import { helpFor } from '../../src/core/wishes/help.ts'
import { askedFor, group, person } from './asPlan.ts'

/** Four who want kimchi first, with two seats there. */
const FOUR = ['a', 'b', 'c', 'd']
const INPUT: PlanInput = askedFor(FOUR, [group('kimchi', 2), group('miso', 2, 2), group('garum', 4)], FOUR, [
  'kimchi',
  'miso',
])

describe('what would help', () => {
  it('says how many would be better off, the best remedy first', () => {
    const helps = helpFor(INPUT, 'kimchi')
    expect(helps.map(({ kind }) => kind)).toEqual(['group', 'seat'])
    // A group more has room for both others; a seat more leaves one, who alone is too few for miso.
    expect(helps[0]).toEqual({ kind: 'group', better: 2, worse: 0, under: 0 })
    expect(helps[1]).toMatchObject({ kind: 'seat', better: 1 })
  })

  it('tries a lower floor, and the whole course, only where there is one', () => {
    const sectioned: PlanInput = {
      ...INPUT,
      people: [person('a', 'tue'), person('b', 'wed'), person('c', 'wed')],
      groups: [group('kimchi', 3, 2, 'tue'), group('miso', 3, 1, 'tue'), group('other', 3, 1, 'wed')],
      wished: {
        ...INPUT.wished!,
        topics: { kimchi: 'kimchi', miso: 'miso', other: 'miso' },
        lists: ['a', 'b', 'c'].map((who) => ({ person: who, ranks: [['kimchi'], ['miso']], cannot: [] })),
      },
    }
    const helps = helpFor(sectioned, 'kimchi')
    expect(helps.map(({ kind }) => kind).sort()).toEqual(['course', 'floor', 'group', 'seat'])
    expect(helps[0]).toEqual({ kind: 'course', better: 3, worse: 0, under: 0 })
    expect(helps.find(({ kind }) => kind === 'floor')).toMatchObject({ better: 1, worse: 0 })
    expect(helpFor(INPUT, 'nowhere')).toEqual([])
  })
})
