import { drawStream } from '../lot.ts'
import { cheapest } from './flow.ts'
import { inTurn } from './inTurn.ts'
import { longestOf, networkFor, type WishNetwork } from './network.ts'
import { byLot } from './ties.ts'
import type { Wisher, WishFigures, WishInput, WishOutcome, WishSeat } from './types.ts'

/**
 * Seats people by their wishes. As few as can be are left without a seat; then what the aim says. Among outcomes that are
 * as good the lot decides: it draws an order of the people, and the first of it has the best that any of these outcomes
 * gives them, then the second, and so on. Nothing else of people counts, so that those with the same wishes have the same
 * chances, and what everybody gets follows from the order alone.
 *
 * Pure: the same input and lot number give the same seats. *In turn* each takes the best that is left; nobody is moved to
 * a worse one so that somebody else has a seat.
 * @param onProgress called with the share of people who are seated, 0 to 1
 * @throws RangeError where there are too many people and ranks to count exactly
 */
export function seatByWishes(input: WishInput, onProgress?: (share: number) => void): WishOutcome {
  const seats = inOrderOf(input, seatDrawn(drawnIn(input), onProgress))
  onProgress?.(1)
  return { seats, figures: figuresOf(input, seats) }
}

/** Seats people by their wishes who are in the order of the lot already, and groups with them. */
export function seatDrawn(drawn: WishInput, onProgress?: (share: number) => void): WishSeat[] {
  // The network of an aim is one of ranks as well: in turn nothing of its costs counts.
  const network = networkFor(drawn, drawn.aim === 'in-turn' ? 'least-total' : drawn.aim)
  const told = (done: number) => onProgress?.(done / Math.max(1, drawn.wishers.length))
  const { chosen, flows } =
    drawn.aim === 'in-turn' ? inTurn(network) : byLot(network, cheapest(network, told))
  return seatsIn(drawn, network, chosen, flows)
}

/** Seats in the order in which people were given. */
export function inOrderOf({ wishers }: Pick<WishInput, 'wishers'>, seats: readonly WishSeat[]): WishSeat[] {
  const at = new Map(seats.map((seat) => [seat.person, seat]))
  return wishers.map(({ key }) => at.get(key) ?? { person: key, group: null, rank: null })
}

/** The same with people and groups in the order that the lot draws. */
export function drawnIn<Input extends WishInput>(input: Input): Input {
  return {
    ...input,
    wishers: peopleByLot(input),
    groups: lotOrder(input.groups, input.lotNumber, 'groups'),
  }
}

/**
 * One of the outcomes that are as good as can be, as it comes, for people and groups in drawn order: quicker, where what
 * it comes to is wanted and not who has what.
 */
export function someBest(drawn: WishInput): WishSeat[] {
  if (drawn.aim === 'in-turn') return seatDrawn(drawn)
  const network = networkFor(drawn, drawn.aim)
  const { chosen, flows } = cheapest(network)
  return seatsIn(drawn, network, chosen, flows)
}

/** People in the order in which the lot lets them choose. */
export function peopleByLot({
  wishers,
  lotNumber,
  reversed = false,
}: Pick<WishInput, 'wishers' | 'lotNumber' | 'reversed'>): Wisher[] {
  const drawn = lotOrder(wishers, lotNumber, 'people')
  return reversed ? drawn.reverse() : drawn
}

/**
 * The order that the lot draws of people or groups. It follows from the lot number and their keys, in whatever order they
 * are given.
 */
export function lotOrder<One extends { key: string; lot?: string }>(
  all: readonly One[],
  lotNumber: number,
  what: 'people' | 'groups',
): One[] {
  const nameOf = ({ lot, key }: One) => lot ?? key
  const sorted = all.toSorted((a, b) => (nameOf(a) < nameOf(b) ? -1 : nameOf(a) > nameOf(b) ? 1 : 0))
  return drawStream(lotNumber, `wishes: ${what}`).shuffle(sorted)
}

/** Who sits where: those of a pool one after the other in the groups into which it leads. */
function seatsIn(
  { wishers, groups }: WishInput,
  { pools, options, ranks }: WishNetwork,
  chosen: Int32Array,
  flows: readonly Int32Array[],
): WishSeat[] {
  const waiting = pools.map((members, pool) =>
    members.flatMap((group, i) => Array.from({ length: flows[pool]?.[i] ?? 0 }, () => group)),
  )
  const { first, node: leads } = options
  return wishers.map(({ key }, person) => {
    const option = chosen[person] as number
    const node = leads[option] as number
    const g = node < groups.length ? node : (waiting[node - groups.length]?.pop() ?? null)
    // Whoever takes any seat that is left may come to one that was wanted.
    const own = leads.subarray(first[person], first[person + 1]).indexOf(g ?? -1)
    return {
      person: key,
      group: g === null ? null : (groups[g]?.key ?? null),
      rank: own < 0 ? null : ranks[(first[person] as number) + own] || null,
    }
  })
}

/** What a seating comes to, counted from who sits where. */
export function figuresOf(input: Pick<WishInput, 'wishers'>, seats: readonly WishSeat[]): WishFigures {
  const wants = new Map(input.wishers.map(({ key, ranks }) => [key, ranks.length > 0]))
  const figures: WishFigures = {
    left: 0,
    leftWithWishes: 0,
    byRank: Array.from({ length: longestOf(input) }, () => 0),
    none: 0,
    seatedWithout: 0,
  }
  for (const { person, group, rank } of seats) {
    const wished = wants.get(person) === true
    if (group === null) {
      figures.left += 1
      if (wished) figures.leftWithWishes += 1
    } else if (rank !== null) figures.byRank[rank - 1] = (figures.byRank[rank - 1] ?? 0) + 1
    else if (wished) figures.none += 1
    else figures.seatedWithout += 1
  }
  return figures
}
