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
