import { drawStream } from './lot.ts'

/**
 * Draws works for a second reading: each as likely as any other, and the same ones again from the same lot number.
 * @param works those that can be drawn, by any key
 * @param name what the draw is for, so that two draws under one lot number have nothing to do with each other
 */
export function drawSecond<Key extends string | number>(
  works: readonly Key[],
  count: number,
  lotNumber: number,
  name: string,
): Key[] {
  // In an order of their own first, so that it does not matter in which order they are given.
  const sorted = works.toSorted((a, b) => (a < b ? -1 : a > b ? 1 : 0))
  return drawStream(lotNumber, `second reading ${name}`).shuffle(sorted).slice(0, count)
}

/** How far two measures lie apart over the works that both have read. */
export interface Apart {
  /** Works read by both. */
  count: number
  /** Second points less first, on average, to two decimals; null where none was read by both. */
  mean: number | null
  /** The largest distance, whichever is higher. */
  most: number
}

/** Compares first and second points; works that one of the two has not marked whole are left out. */
export function measuresApart(pairs: readonly { first: number | null; second: number | null }[]): Apart {
  const gaps = pairs.flatMap(({ first, second }) =>
    first === null || second === null ? [] : [second - first],
  )
  if (gaps.length === 0) return { count: 0, mean: null, most: 0 }
  const mean = gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length
  return { count: gaps.length, mean: Math.round(100 * mean) / 100, most: Math.max(...gaps.map(Math.abs)) }
}
