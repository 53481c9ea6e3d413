import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { drawLots } from './lot.ts'

describe('lots', () => {
  it('repeat for the same lot number and differ for another', () => {
    const draw = (lotNumber: number) => {
      const lot = drawLots(lotNumber)
      return Array.from({ length: 20 }, () => lot.below(1000))
    }
    expect(draw(48_213)).toEqual(draw(48_213))
    expect(draw(48_213)).not.toEqual(draw(48_214))
  })

  it('shuffle keeps every item and leaves the given list alone', () => {
    fc.assert(
      fc.property(fc.array(fc.integer()), fc.integer(), (items, lotNumber) => {
        const before = [...items]
        const drawn = drawLots(lotNumber).shuffle(items)
        expect(items).toEqual(before)
        expect([...drawn].sort()).toEqual([...items].sort())
      }),
    )
  })
})
