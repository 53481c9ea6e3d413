import { digitsOf, longestOf, openTo } from '../../src/core/wishes/network.ts'
import type { WishAim, Wisher, WishInput, WishSeat } from '../../src/core/wishes/types.ts'

// Every seating that there is of a small class, and what each is worth, counted apart from the planner.

/** Everything that everybody could have: groups that are open to them, by their places, or none. */
export function* everySeating(input: WishInput): Generator<(number | null)[]> {
  const open = input.wishers.map((one) => [...openTo(one, input), null])
  const free = input.groups.map(({ seats }) => seats)
  const taken: (number | null)[] = []
  function* from(person: number): Generator<(number | null)[]> {
    if (person === input.wishers.length) {
      yield [...taken]
      return
    }
    for (const g of open[person] ?? []) {
      if (g !== null && (free[g] ?? 0) < 1) continue
      if (g !== null) free[g] = (free[g] ?? 0) - 1
      taken[person] = g
      yield* from(person + 1)
      if (g !== null) free[g] = (free[g] ?? 0) + 1
    }
  }
  yield* from(0)
}

export const rankIn = ({ ranks }: Wisher, topic: string | undefined) => {
  const at = ranks.findIndex((topics) => topic !== undefined && topics.includes(topic))
  return at < 0 ? null : at + 1
}

/** What a seating costs, level by level, counted apart from the network. */
export function vectorOf(input: WishInput, at: readonly (number | null)[]): number[] {
  const longest = longestOf(input)
  const vector = Array.from({ length: longest + 3 }, () => 0)
  input.wishers.forEach((one, i) => {
    const wants = one.ranks.length > 0
    const g = at[i] ?? null
    if (g === null) {
      vector[0] = (vector[0] ?? 0) + 1
      if (wants) vector[1] = (vector[1] ?? 0) + 1
    } else if (wants) {
      const rank = rankIn(one, input.groups[g]?.topic) ?? longest + 1
      for (const [level, digit] of digitsOf(input.aim as Exclude<WishAim, 'in-turn'>, rank, longest))
        vector[level] = (vector[level] ?? 0) + digit
    }
  })
  return vector
}
export const isLess = (a: readonly number[], b: readonly number[]) => {
  const at = a.findIndex((digit, i) => digit !== b[i])
  return at >= 0 && (a[at] ?? 0) < (b[at] ?? 0)
}
export const placed = ({ groups }: WishInput, seats: readonly WishSeat[]) =>
  seats.map(({ group }) => (group === null ? null : groups.findIndex(({ key }) => key === group)))
