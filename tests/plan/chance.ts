/** How far counts lie from what is expected: the sum of squared distances over the expected ones (Pearson, 1900). */
export function chiSquare(counted: readonly number[], expected: readonly number[]): number {
  return counted.reduce((sum, count, i) => sum + (count - (expected[i] ?? 0)) ** 2 / (expected[i] ?? 1), 0)
}

/**
 * The chi-square that a fair draw passes once in a million times (Wilson and Hilferty, "The distribution of
 * chi-square", Proceedings of the National Academy of Sciences 17, 1931).
 */
export function onceInAMillion(freedom: number): number {
  const z = 4.7534
  const part = 2 / (9 * freedom)
  return freedom * (1 - part + z * Math.sqrt(part)) ** 3
}

/** Half the sum of the distances between two sets of chances: 0 for the same, 1 for nothing in common. */
export function totalVariation(a: readonly number[], b: readonly number[]): number {
  return a.reduce((sum, chance, i) => sum + Math.abs(chance - (b[i] ?? 0)), 0) / 2
}
