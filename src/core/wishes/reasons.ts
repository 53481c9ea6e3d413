import { openTo } from './network.ts'
import { lotOrder, seatByWishes } from './seat.ts'
import type { WishAim, WishFigures, WishInput, WishOutcome } from './types.ts'

/** Why somebody does not have a wish that they like better than what they have. */
export interface WhyNot {
  topic: string
  /** Which wish it is, from 1. */
  rank: number
  code: /** No group of it is open to them. */
    | 'not-open'
    /** Somebody could have had it with the outcome as good; the lot gave it to others. */
    | 'lot'
    /** It would have made the outcome worse by what was aimed at. */
    | 'aim'
    /** In turn: those before them had taken it. */
    | 'turn'
  /** Seats of it that were open to them; Infinity without a limit. */
  seats: number
  /** How many wanted it as much as they or more, they among them. */
  wanted: number
  /** Their place in the lot, from 1. */
  place: number
  /** With `aim`: what everybody would have come to. */
  instead: WishFigures | null
}

/**
 * Why somebody has none of the wishes that they like better, the most wanted first. Each is checked by seating all others
 * again with a seat of it kept for them: what would be as good was decided by the lot, what would be worse by the aim.
 * @param key whose
 */
export function whyNotBetter(input: WishInput, { seats, figures }: WishOutcome, key: string): WhyNot[] {
  const person = input.wishers.find((one) => one.key === key)
  if (!person) return []
  const own = seats.find((one) => one.person === key)
  const better = person.ranks.slice(0, own?.rank == null ? person.ranks.length : own.rank - 1)
  const place = 1 + lotOrder(input.wishers, input.lotNumber, 'people').findIndex((one) => one.key === key)
  const open = openTo(person, input)
  const rankOf = (ranks: readonly (readonly string[])[], topic: string) =>
    ranks.findIndex((one) => one.includes(topic))
  return better.flatMap((wished, i) =>
    wished.map((topic): WhyNot => {
      const groups = open.filter((g) => input.groups[g]?.topic === topic)
      const facts = {
        topic,
        rank: i + 1,
        seats: groups.reduce((sum, g) => sum + (input.groups[g]?.seats ?? 0), 0),
        wanted: input.wishers.filter(({ ranks }) => {
          const at = rankOf(ranks, topic)
          return at >= 0 && at <= i
        }).length,
        place,
        instead: null,
      }
      if (groups.length === 0) return { ...facts, code: 'not-open' }
      const { aim } = input
      if (aim === 'in-turn') return { ...facts, code: 'turn' }
      const instead = groups.map((g) => seatByWishes(withSeat(input, key, g, i)).figures)
      const [first = null] = instead
      return instead.some((one) => isAsGood(aim, figures, one))
        ? { ...facts, code: 'lot' }
        : { ...facts, code: 'aim', instead: first }
    }),
  )
}

/** The same with a seat of a group for one person alone, who can have nothing else; it is their wish of that rank. */
function withSeat(input: WishInput, key: string, g: number, rank: number): WishInput {
  // No code of ours has a space in it.
  const topic = `for ${key}`
  const others = [...new Set(input.groups.map((group) => group.topic))]
  return {
    ...input,
    groups: [
      ...input.groups.map((group, i) => (i === g ? { ...group, seats: group.seats - 1 } : group)),
      { key: topic, topic, section: null, seats: 1 },
    ],
    wishers: input.wishers.map((one) =>
      one.key === key
        ? { ...one, ranks: one.ranks.map((topics, i) => (i === rank ? [topic] : topics)), cannot: others }
        : { ...one, cannot: [...one.cannot, topic] },
    ),
  }
}

/** Whether two outcomes are as good under an aim. */
function isAsGood(aim: Exclude<WishAim, 'in-turn'>, one: WishFigures, other: WishFigures): boolean {
  if (one.left !== other.left || one.leftWithWishes !== other.leftWithWishes) return false
  if (aim !== 'least-total')
    return one.none === other.none && one.byRank.every((n, i) => n === other.byRank[i])
  const total = ({ byRank, none }: WishFigures) =>
    byRank.reduce((sum, n, i) => sum + n * (i + 1), none * (byRank.length + 1))
  return total(one) === total(other)
}
