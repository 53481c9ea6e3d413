import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { added, inRow, joined, parted, placed, type Ranks, rankIn, takenOut } from './order.ts'

const ORDER: Ranks = [['kimchi'], ['tempeh', 'cocoa'], ['butter']]

describe('an order of wishes', () => {
  it('takes a topic last, once, and lets it go', () => {
    expect(added(ORDER, 'miso')).toEqual([...ORDER, ['miso']])
    expect(added(ORDER, 'kimchi')).toEqual([['tempeh', 'cocoa'], ['butter'], ['kimchi']])
    expect(takenOut(ORDER, 'kimchi')).toEqual([['tempeh', 'cocoa'], ['butter']])
    expect(rankIn(ORDER, 'cocoa')).toBe(2)
    expect(rankIn(ORDER, 'miso')).toBe(0)
  })

  it('puts a topic at a place: alone, or as good as those between which it comes', () => {
    expect(placed(ORDER, 'butter', 0)).toEqual([['butter'], ['kimchi'], ['tempeh', 'cocoa']])
    expect(placed(ORDER, 'butter', 2)).toEqual([['kimchi'], ['tempeh', 'butter', 'cocoa']])
    expect(placed(ORDER, 'kimchi', 99)).toEqual([['tempeh', 'cocoa'], ['butter'], ['kimchi']])
    expect(placed(ORDER, 'cocoa', 3)).toEqual([['kimchi'], ['tempeh'], ['butter'], ['cocoa']])
  })

  it('makes a topic as good as the one above, and gives it a rank of its own again', () => {
    expect(joined(ORDER, 'butter')).toEqual([['kimchi'], ['tempeh', 'cocoa', 'butter']])
    expect(joined(ORDER, 'tempeh')).toEqual([['kimchi', 'tempeh', 'cocoa'], ['butter']])
    expect(joined(ORDER, 'kimchi')).toEqual(ORDER)
    expect(parted(ORDER, 'tempeh')).toEqual([['kimchi'], ['cocoa'], ['tempeh'], ['butter']])
    expect(parted(ORDER, 'kimchi')).toEqual(ORDER)
  })

  it('never loses a topic or has one twice, whatever is done', () => {
    const topics = ['a', 'b', 'c', 'd', 'e']
    const step = fc.record({
      what: fc.constantFrom('add', 'place', 'join', 'part', 'out'),
      topic: fc.constantFrom(...topics),
      place: fc.nat(6),
    })
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        let ranks: Ranks = []
        const there = new Set<string>()
        for (const { what, topic, place } of steps) {
          if (what === 'add') there.add(topic)
          if (what === 'out') there.delete(topic)
          if (what !== 'add' && !there.has(topic) && what !== 'out') continue
          ranks =
            what === 'add'
              ? added(ranks, topic)
              : what === 'out'
                ? takenOut(ranks, topic)
                : what === 'place'
                  ? placed(ranks, topic, place)
                  : what === 'join'
                    ? joined(ranks, topic)
                    : parted(ranks, topic)
          expect(ranks.every((own) => own.length > 0)).toBe(true)
          expect(inRow(ranks).sort()).toEqual([...there].sort())
        }
      }),
    )
  })
})
