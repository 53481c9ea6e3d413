import { drawStream } from '../lot.ts'
import { planByWishes } from '../plan/byWishes.ts'
import type { PlanInput } from '../plan/types.ts'
import { rankOf } from './rules.ts'

/** How often somebody came to each wish, over many lots. */
export interface Odds {
  byRank: number[]
  /** A seat that is none of theirs, and no seat. */
  none: number
  left: number
}

/** Steps that one draw may take: many lots tell more than a better seating for each. */
const STEPS = 500_000

/**
 * How often everybody would come to which wish under the wishes there are, over many lot numbers drawn from one.
 * @param most how many lots are drawn at most
 * @param enough asked after each: whether that is enough, as where time is short
 * @returns how many were drawn, and the counts of each person
 */
export function oddsOf(
  input: PlanInput,
  most: number,
  enough: (drawn: number) => boolean = () => false,
): { draws: number; of: Map<string, Odds> } {
  const lots = drawStream(input.lotNumber, 'wishes: odds')
  const lists = new Map(input.wished?.lists.map((one) => [one.person, one]))
  const longest = Math.max(0, ...[...lists.values()].map(({ ranks }) => ranks.length))
  const of = new Map(
    input.people.map(({ key }): [string, Odds] => [
      key,
      { byRank: Array.from({ length: longest }, () => 0), none: 0, left: 0 },
    ]),
  )
  let draws = 0
  while (draws < most && !enough(draws)) {
    const plan = planByWishes({ ...input, lotNumber: lots.below(4_294_967_295) }, { steps: STEPS })
    draws += 1
    const at = new Map(input.seats.map(({ person, group }) => [person, group]))
    for (const { person, from } of plan.left) if (from !== null) at.delete(person)
    for (const { person, to } of plan.moves) at.set(person, to)
    for (const [person, own] of of) {
      const group = at.get(person)
      if (group === undefined) own.left += 1
      else {
        const list = lists.get(person)
        const rank = list ? rankOf(list, input.wished?.topics[group]) : null
        if (rank === null) own.none += 1
        else own.byRank[rank - 1] = (own.byRank[rank - 1] ?? 0) + 1
      }
    }
  }
  return { draws, of }
}
