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
  return lotFrom(() => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return (t ^ (t >>> 14)) >>> 0
  })
}

/**
 * One of many independent lots under one lot number, told apart by name: what one draw decides says nothing about
 * another. Generator: sfc32 with 128 bits of state (Chris Doty-Humphrey, PractRand, public domain), seeded by four
 * FNV-1a hashes of number and name, each finished as in MurmurHash3 (Austin Appleby, public domain).
 */
export function drawStream(lotNumber: number, name: string): Lot {
  const text = `${lotNumber >>> 0} ${name}`
  let a = seed(text, 0x811c9dc5)
  let b = seed(text, 0x9e3779b9)
  let c = seed(text, 0x243f6a88)
  let counter = seed(text, 0xb7e15162) | 1
  const word = () => {
    const sum = (a + b + counter) | 0
    counter = (counter + 1) | 0
    a = b ^ (b >>> 9)
    b = (c + (c << 3)) | 0
    c = (((c << 21) | (c >>> 11)) + sum) | 0
    return sum >>> 0
  }
  for (let i = 0; i < 15; i++) word()
  return lotFrom(word)
}

const WORDS = 4_294_967_296

/** A lot over a source of random 32-bit words. */
function lotFrom(word: () => number): Lot {
  const next = () => word() / WORDS
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

function seed(text: string, offset: number): number {
  let hash = offset
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193)
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b)
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35)
  return (hash ^ (hash >>> 16)) >>> 0
}
