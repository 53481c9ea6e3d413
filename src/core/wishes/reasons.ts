import { workOf } from '../plan/work.ts'
import { openTo } from './network.ts'
import { compareCosts, costOf, levelsIn, rankOf, USUAL_ORDER, type WishRules } from './rules.ts'
import { figuresOf, peopleByLot } from './seat.ts'
import type { WishFigures, WishInput, WishOutcome } from './types.ts'
import { seatWithin } from './within.ts'

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
    /** It would have made the outcome worse by what counts before wishes: a floor, or who keeps a seat. */
    | 'rules'
    /** In turn: those before them had taken it. */
    | 'turn'
    /** Floors and people who keep together or apart let too much be possible to check it. */
    | 'unchecked'
  /** Seats of it that were open to them; Infinity without a limit. */
  seats: number
  /** How many wanted it as much as they or more, they among them. */
  wanted: number
  /** Their place in the lot, from 1. */
  place: number
  /** With `aim`: what everybody would have come to. */
  instead: WishFigures | null
}

/** Steps that one check may take. */
const STEPS = 40_000_000

const NO_RULES: WishRules = { together: [], apart: [], floors: new Map(), order: USUAL_ORDER }

/**
 * Why somebody has none of the wishes that they like better, the most wanted first. Each is checked by seating all others
 * again with a seat of it kept for them: what would be as good was decided by the lot, what would be worse by the aim, or
 * by what counts before wishes.
 * @param key whose
 * @param rules what the seating kept to besides
 * @param steps what each check may spend
 */
export function whyNotBetter(
  input: WishInput,
  { seats }: Pick<WishOutcome, 'seats'>,
  key: string,
  rules: WishRules = NO_RULES,
  steps = STEPS,
): WhyNot[] {
  const person = input.wishers.find((one) => one.key === key)
  if (!person) return []
  const own = seats.find((one) => one.person === key)
  const better = person.ranks.slice(0, own?.rank == null ? person.ranks.length : own.rank - 1)
  const place = 1 + peopleByLot(input).findIndex((one) => one.key === key)
  const open = openTo(person, input)
  const cost = costOf(input, rules, seats)
  const levels = levelsIn(input, rules)
  // A seat that is kept for one of them alone says nothing of who keeps together or apart.
  const named = [...rules.together, ...rules.apart].some((people) => people.includes(key))
  return better.flatMap((wished, i) =>
    wished.map((topic): WhyNot => {
      const groups = open.filter((g) => input.groups[g]?.topic === topic)
      const facts = {
        topic,
        rank: i + 1,
        seats: groups.reduce((sum, g) => sum + (input.groups[g]?.seats ?? 0), 0),
        wanted: wantedBy(input, groups, topic, i + 1),
        place,
        instead: null,
      }
      if (groups.length === 0) return { ...facts, code: 'not-open' }
      if (input.aim === 'in-turn') return { ...facts, code: 'turn' }
      const others = groups
        .map((g) => seatWithin(withSeat(input, key, g, i), ruledBy(rules, g, input), workOf(steps)))
        .sort((a, b) => compareCosts(a.cost, b.cost))
      const [best] = others
      if (!best || compareCosts(best.cost, cost) <= 0) return { ...facts, code: named ? 'rules' : 'lot' }
      if (compareCosts(best.bound, cost) <= 0) return { ...facts, code: 'unchecked' }
      if (named) return { ...facts, code: 'rules' }
      const worse = levels[best.cost.findIndex((n, level) => n !== cost[level])]
      if (worse && (worse.part === 'under' || worse.part === 'moved')) return { ...facts, code: 'rules' }
      return { ...facts, code: 'aim', instead: figuresOf(input, best.seats) }
    }),
  )

  /** A seat that is kept for them is one of the group’s: it counts for its floor. */
  function ruledBy(ruled: WishRules, g: number, { groups }: WishInput): WishRules {
    const at = groups[g]?.key ?? ''
    const floor = ruled.floors.get(at)
    if (!floor) return ruled
    return { ...ruled, floors: new Map([...ruled.floors, [at, { ...floor, fixed: floor.fixed + 1 }]]) }
  }
}

/** How many want a topic as much as that rank or more, of those to whom one of its groups is open. */
function wantedBy(input: WishInput, groups: readonly number[], topic: string, rank: number): number {
  const them = groups.map((g) => input.groups[g]?.section ?? null)
  return input.wishers.filter((one) => {
    const at = rankOf(one, topic)
    const here =
      input.offers === 'course' || groups.length === 0 || them.some((s) => s === null || s === one.section)
    return at !== null && at <= rank && here
  }).length
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
