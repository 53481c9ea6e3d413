import { groundOf } from '../plan/byWishes.ts'
import { roundIn } from '../plan/round.ts'
import type { PlanInput, PlanMove } from '../plan/types.ts'
import { withMates } from './mates.ts'
import { type WhyNot, whyNotBetter } from './reasons.ts'
import { figuresOf, peopleByLot } from './seat.ts'
import type { WishFigures, WishSeat } from './types.ts'

/** Why somebody has no better wish, their place in the lot, and what everybody came to. */
export interface WhyFound {
  whyNot: WhyNot[]
  /** From 1; null for somebody for whom no seat was looked for, as it was set by hand or theirs before. */
  place: number | null
  /** How many the lot was drawn among. */
  of: number
  now: WishFigures
}

/** Where those came to sit by a plan who were looking for a seat, and which wish that is. */
export function seatsGiven(
  input: PlanInput,
  { moves }: { moves: readonly Pick<PlanMove, 'person' | 'to' | 'reason'>[] },
): WishSeat[] {
  const { input: question } = groundOf(input)
  const to = new Map(moves.map((move) => [move.person, move]))
  return question.wishers.map(({ key, home = null }) => {
    const move = to.get(key)
    const rank = move?.reason.code === 'wish' ? move.reason.rank : null
    return { person: key, group: move?.to ?? home, rank }
  })
}

/**
 * Why somebody has none of the wishes that they like better, as seats were given.
 * @param together mates who sit together since they wished it
 */
export function whyOf(
  input: PlanInput,
  seats: readonly WishSeat[],
  together: readonly (readonly string[])[],
  person: string,
): WhyFound {
  const { input: question, rules } = groundOf(input)
  const order = peopleByLot(question)
  // What somebody has since a round before is no wish that they missed.
  const has = new Set(
    input.seats.flatMap((seat) =>
      seat.person === person ? [input.wished?.topics[seat.group] ?? seat.group] : [],
    ),
  )
  const at = order.findIndex(({ key }) => key === person)
  return {
    whyNot: whyNotBetter(question, { seats: [...seats] }, person, withMates(rules, together)).filter(
      ({ topic }) => roundIn(input) === 1 || !has.has(topic),
    ),
    place: at < 0 ? null : at + 1,
    of: order.length,
    now: figuresOf(question, seats),
  }
}
