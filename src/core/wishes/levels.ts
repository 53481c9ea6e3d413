/**
 * Costs that count one before the other, as exact numbers: what is on an earlier level outweighs everything on later
 * ones. Levels are packed, some to a word, as digits of a base so large that sums of digits never run over; words are
 * whole numbers below 2^53, so that adding and comparing them is exact.
 */
export interface Levels {
  /** Words of one cost. */
  words: number
  /** Packs a cost that has a whole number on some levels, the first counting most. */
  pack: (digits: ReadonlyMap<number, number>) => Float64Array
}

/** Whole numbers are exact up to here. */
const MOST_EXACT = Number.MAX_SAFE_INTEGER

/**
 * @param count how many levels there are
 * @param most no sum of digits of a level exceeds this, up or down
 * @throws RangeError where one level alone cannot be counted exactly
 */
export function levelsOf(count: number, most: number): Levels {
  const base = 2 * most + 1
  if (base > MOST_EXACT) throw new RangeError('There are too many people and ranks to count with.')
  const perWord = Math.max(1, Math.floor(Math.log(MOST_EXACT) / Math.log(base)))
  const words = Math.max(1, Math.ceil(count / perWord))
  return {
    words,
    pack: (digits) => {
      const cost = new Float64Array(words)
      for (const [level, digit] of digits) {
        const word = Math.floor(level / perWord)
        cost[word] = (cost[word] ?? 0) + digit * base ** (perWord - 1 - (level % perWord))
      }
      return cost
    },
  }
}
