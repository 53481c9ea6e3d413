import { describe, expect, it } from 'vitest'
import { countingList, listFault, neededBy, offeredOf, type WishList } from './list.ts'

const OFFERED = new Set(['kimchi', 'miso', 'natto', 'tempeh'])
const RULES = { most: 3, cannotMost: 1 }
const list = (
  ranks: readonly (readonly string[])[],
  cannot: WishList<string>['cannot'] = [],
): WishList<string> => ({ ranks, cannot })
const fault = (...of: Parameters<typeof list>) => listFault(list(...of), OFFERED, RULES)

describe('a list of wishes', () => {
  it('is kept where it names what is offered, each once, as much as the rules let, with reasons', () => {
    expect(fault([['kimchi'], ['miso', 'natto']], [{ topic: 'tempeh', reason: 'soy' }])).toBeNull()
    expect(fault([])).toBeNull()
  })

  it('is refused with what is wrong and where', () => {
    expect(fault([['kimchi'], ['miso', 'rye']])).toEqual({ code: 'not-offered', path: 'ranks[1][1]' })
    expect(fault([['miso']], [{ topic: 'rye', reason: 'no' }])).toEqual({
      code: 'not-offered',
      path: 'cannot[0].topic',
    })
    expect(fault([['kimchi'], ['kimchi']])).toEqual({ code: 'twice', path: 'ranks[1][0]' })
    expect(fault([['kimchi']], [{ topic: 'kimchi', reason: 'no' }])).toEqual({
      code: 'twice',
      path: 'cannot[0].topic',
    })
    expect(
      fault([
        ['kimchi', 'miso'],
        ['natto', 'tempeh'],
      ]),
    ).toEqual({
      code: 'too-many',
      path: 'ranks',
      most: 3,
    })
    const none = (topic: string, reason = 'no') => ({ topic, reason })
    expect(fault([], [none('kimchi'), none('miso')])).toEqual({
      code: 'too-many-cannot',
      path: 'cannot',
      most: 1,
    })
    expect(fault([['miso']], [none('kimchi', ' ')])).toEqual({
      code: 'no-reason',
      path: 'cannot[0].reason',
    })
  })

  it('counts with as many topics as the rules ask for, or all that could be ranked; never with none', () => {
    const needed = (least: number, cannot: WishList<string>['cannot'] = []) =>
      neededBy({ cannot }, OFFERED.size, { least })
    expect([needed(2), needed(9), needed(0)]).toEqual([2, 4, 1])
    expect(needed(9, [{ topic: 'miso', reason: 'no' }])).toBe(3)
    const two = list([['kimchi'], ['miso']])
    expect(countingList(two, OFFERED, { least: 2 })).toEqual(two)
    expect(countingList(two, OFFERED, { least: 3 })).toBeNull()
    expect(countingList(list([]), OFFERED, { least: 0 })).toBeNull()
  })

  it('goes on without what is not offered any more, and ranks close up', () => {
    const before = list(
      [['rye'], ['kimchi', 'oats'], ['miso']],
      [
        { topic: 'oats', reason: 'no' },
        { topic: 'natto', reason: 'no' },
      ],
    )
    const after = list([['kimchi'], ['miso']], [{ topic: 'natto', reason: 'no' }])
    expect(offeredOf(before, OFFERED)).toEqual(after)
    expect(countingList(before, OFFERED, { least: 2 })).toEqual(after)
    expect(countingList(before, OFFERED, { least: 3 })).toBeNull()
  })
})
