/** Draws numbers that look random and follow wholly from a lot number, so that anybody can repeat the draw. */
export interface Lot {
  /** The next number, at least 0 and below 1. */
  next(): number
  /** A whole number of at least 0 and below `n`. */
  below(n: number): number
  /** A new array with the same items in drawn order. */
  shuffle<T>(items: readonly T[]): T[]
}

/** A lot from a 32-bit lot number. Generator: mulberry32 (Tommy Ettinger, 2017, public domain). */
export function drawLots(lotNumber: number): Lot {
  let state = lotNumber >>> 0
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
  }
  const below = (n: number): number => Math.floor(next() * n)
  const shuffle = <T>(items: readonly T[]): T[] => {
    const drawn = [...items]
    for (let i = drawn.length - 1; i > 0; i--) {
      const j = below(i + 1)
      const held = drawn[i] as T
      drawn[i] = drawn[j] as T
      drawn[j] = held
    }
    return drawn
  }
  return { next, below, shuffle }
}
