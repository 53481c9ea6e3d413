import fc from 'fast-check'
import { expect, it } from 'vitest'
import { createHeap } from './heap.ts'
import { levelsOf } from './levels.ts'

it('sums of costs compare as their levels do, the first counting most, however many there are', () => {
  const most = 240_006
  const { pack, words } = levelsOf(9, most)
  expect(words).toBeGreaterThan(1)
  const digit = fc.integer({ min: -most / 2, max: most / 2 })
  const cost = fc.array(digit, { minLength: 9, maxLength: 9 })
  const packed = (digits: number[]) => pack(new Map(digits.map((one, level) => [level, one])))
  const less = (a: ArrayLike<number>, b: ArrayLike<number>) => {
    const at = Array.from(a).findIndex((one, i) => one !== b[i])
    return at >= 0 && (a[at] ?? 0) < (b[at] ?? 0)
  }
  fc.assert(
    fc.property(cost, cost, cost, (a, b, c) => {
      const sum = packed(a).map((word, i) => word + (packed(b)[i] ?? 0))
      const plain = a.map((one, i) => one + (b[i] ?? 0))
      expect(less(sum, packed(c))).toBe(less(plain, c))
      expect(less(packed(c), sum)).toBe(less(c, plain))
    }),
  )
  expect(() => levelsOf(2, Number.MAX_SAFE_INTEGER)).toThrow(RangeError)
})

it('a heap gives what is least, also what became less meanwhile', () => {
  fc.assert(
    fc.property(fc.array(fc.integer(), { minLength: 1, maxLength: 40 }), fc.nat(), (values, n) => {
      const now = [...values]
      const heap = createHeap(now.length, (a, b) => (now[a] as number) < (now[b] as number))
      for (const item of now.keys()) heap.add(item)
      const changed = n % now.length
      now[changed] = Math.min(...now) - 1
      heap.rise(changed)
      const taken: number[] = []
      while (heap.size() > 0) taken.push(now[heap.take()] as number)
      expect(taken).toEqual([...now].sort((a, b) => a - b))
    }),
  )
})
