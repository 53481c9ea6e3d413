/** What a plan costs; less of each is better, and no amount of a later one weighs up an earlier one. */
export interface PlanCost {
  /** People without a seat. */
  left: number
  /** Groups with people, but fewer than their floor. */
  under: number
  /** People who lose the seat they have, for another or for none. */
  moved: number
  /** Sum over the groups of their size squared: for as many people, less is more even. 0 where it does not count. */
  uneven: number
}

export const NO_COST: PlanCost = { left: 0, under: 0, moved: 0, uneven: 0 }

const PARTS = ['left', 'under', 'moved', 'uneven'] as const

/** True when one cost is better than another. */
export function better(a: PlanCost, b: PlanCost): boolean {
  for (const part of PARTS) if (a[part] !== b[part]) return a[part] < b[part]
  return false
}

export function sameCost(a: PlanCost, b: PlanCost): boolean {
  return PARTS.every((part) => a[part] === b[part])
}

/** The costs of parts that do not touch each other, added up. */
export function sumOf(costs: readonly PlanCost[]): PlanCost {
  return costs.reduce(
    (sum, own) => ({
      left: sum.left + own.left,
      under: sum.under + own.under,
      moved: sum.moved + own.moved,
      uneven: sum.uneven + own.uneven,
    }),
    NO_COST,
  )
}

/** By how much at most something could be better, and in what: the first part in which a bound lies below a cost. */
export interface Gap {
  part: 'left' | 'under' | 'moved' | 'uneven' | 'wishes'
  /**
   * How many people (for `under`: groups) it could be better by. Evenness is told in people too: one who goes from a
   * larger to a smaller group lowers the sum of squares by two at least.
   */
  by: number
  /** Of wishes, which one is meant: one past the last is none of one’s own; left out, the sum of all ranks. */
  rank?: number
}

/** How far a cost lies above what is known to be the least; null where it is the least. */
export function gapBetween(cost: PlanCost, bound: PlanCost): Gap | null {
  const part = PARTS.find((one) => cost[one] !== bound[one])
  if (!part || cost[part] < bound[part]) return null
  const by = cost[part] - bound[part]
  return { part, by: part === 'uneven' ? Math.max(1, Math.floor(by / 2)) : by }
}
