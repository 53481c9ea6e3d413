/** The value below which the given share of the values lies, nearest rank. */
export function percentile(values: readonly number[], share: number): number {
  const sorted = values.toSorted((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.max(0, Math.ceil(sorted.length * share) - 1))] ?? 0
}
