import fc from 'fast-check'
import { expect, it } from 'vitest'
import { drawSecond, measuresApart } from './secondReading.ts'

it('draws so many of the works, each once, the same ones from the same number whatever their order', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.string({ minLength: 1, maxLength: 6 }), { maxLength: 20 }),
      fc.nat(25),
      fc.nat(99_999),
      (works, count, lot) => {
        const drawn = drawSecond(works, count, lot, 'task')
        expect(drawn).toHaveLength(Math.min(count, works.length))
        expect(new Set(drawn).size).toBe(drawn.length)
        for (const one of drawn) expect(works).toContain(one)
        expect(drawSecond(works.toReversed(), count, lot, 'task')).toEqual(drawn)
      },
    ),
  )
})

it('draws each as often as any other', () => {
  const times = new Map<string, number>()
  const works = ['a', 'b', 'c', 'd', 'e']
  for (let lot = 0; lot < 5_000; lot++)
    for (const one of drawSecond(works, 2, lot, 'task')) times.set(one, (times.get(one) ?? 0) + 1)
  // 2,000 each are expected; five standard deviations are about 175.
  for (const one of works) expect(Math.abs((times.get(one) ?? 0) - 2_000)).toBeLessThan(175)
})

it('says how far two measures lie apart', () => {
  expect(measuresApart([])).toEqual({ count: 0, mean: null, most: 0 })
  expect(
    measuresApart([
      { first: 8, second: 6 },
      { first: 5, second: 5.5 },
      { first: null, second: 9 },
      { first: 7, second: null },
    ]),
  ).toEqual({ count: 2, mean: -0.75, most: 2 })
})
