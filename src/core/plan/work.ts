import type { Plan } from './types.ts'

/**
 * What a search may spend, in steps of its inner loops. Counting steps instead of time keeps plans the same on every
 * machine: ten million steps take about a tenth of a second.
 */
export interface Work {
  spent: number
  readonly most: number
}

export function workOf(most: number): Work {
  return { spent: 0, most }
}

export function isSpent({ spent, most }: Work): boolean {
  return spent >= most
}

/** A share of what is left, to be spent apart; what was spent is added to the whole by `giveBack`. */
export function shareOf(work: Work, share: number): Work {
  return workOf(Math.max(0, (work.most - work.spent) * share))
}

export function giveBack(work: Work, part: Work): void {
  work.spent += part.spent
}

/** Steps that a plan may take when nobody says otherwise: some ten seconds on a small computer. */
export const PLAN_STEPS = 400_000_000

export interface PlanOptions {
  /** What the search may spend. The same input, lot number and work give the same plan. */
  steps?: number
  /** Called with the share of the work that is spent, 0 to 1. */
  onProgress?: (share: number) => void
  /** Called with a way to get the first plan, and each better one, while the search goes on. */
  onBetter?: (plan: () => Plan) => void
}
