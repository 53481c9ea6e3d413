import { grouped } from '../grouped.ts'
import { drawStream } from '../lot.ts'

/** Somebody who has a seat and would rather have others. */
export interface Swapper {
  person: string
  /** By what the lot knows them; left out, their key. */
  lot?: string
  /** The group in which they sit. */
  seat: string
  /** Groups that they would rather have and may sit in, by rank, the best first. */
  better: readonly (readonly string[])[]
}

/** One person’s part of a swap. */
export interface SwapPart {
  person: string
  from: string
  to: string
}

/** People who each take the seat of the next, the last that of the first. */
export type Swap = SwapPart[]

/**
 * Swaps after which everybody in them sits where they would rather: each names the best groups that can still be had, and
 * whoever stands in a ring of such wishes swaps and is done (top trading cycles: Shapley and Scarf, “On cores and
 * indivisibility”, Journal of Mathematical Economics 1, 1974). When all of them are made, no people are left who could each
 * do better by their own seats: the outcome is in the core. Of several rings the shortest is taken, as everybody in it has
 * to agree; among people who want the same of the same group the lot decides.
 * @param misfit names somebody in a swap who could not sit where it leads, for what depends on who moves besides; that
 *   person is then not offered that group
 * @returns swaps that have nobody in common
 */
export function findSwaps(
  swappers: readonly Swapper[],
  lotNumber: number,
  misfit: (swap: Swap) => string | null = () => null,
): Swap[] {
  const refused = new Set<string>()
  const edge = (person: string, group: string) => JSON.stringify([person, group])
  let market = drawn(swappers, lotNumber)
  const swaps: Swap[] = []
  for (;;) {
    const pointing = settle(market, ({ person }, group) => !refused.has(edge(person, group)))
    market = pointing.map(({ swapper }) => swapper)
    const swap = shortestRing(pointing)
    if (!swap) return swaps
    const against = swap.find(({ person }) => person === misfit(swap))
    if (against) {
      refused.add(edge(against.person, against.to))
      continue
    }
    const done = new Set(swap.map(({ person }) => person))
    market = market.filter(({ person }) => !done.has(person))
    swaps.push(swap)
  }
}

/** In an order that follows from the lot number and their keys, in whatever order they are given. */
function drawn(swappers: readonly Swapper[], lotNumber: number): Swapper[] {
  const nameOf = ({ lot, person }: Swapper) => lot ?? person
  const sorted = swappers.toSorted((a, b) => (nameOf(a) < nameOf(b) ? -1 : nameOf(a) > nameOf(b) ? 1 : 0))
  return drawStream(lotNumber, 'swaps').shuffle(sorted)
}

/** Somebody with the best groups for them of those in which a seat can still be had. */
interface Pointing {
  swapper: Swapper
  to: Set<string>
}

/** Leaves out, again and again, those for whom nothing better is left: their seats cannot be had by others either. */
function settle(market: readonly Swapper[], may: (swapper: Swapper, group: string) => boolean): Pointing[] {
  const counts = new Map<string, number>()
  for (const { seat } of market) counts.set(seat, (counts.get(seat) ?? 0) + 1)
  const best = (swapper: Swapper): Set<string> => {
    for (const groups of swapper.better) {
      const there = groups.filter(
        (group) => group !== swapper.seat && (counts.get(group) ?? 0) > 0 && may(swapper, group),
      )
      if (there.length > 0) return new Set(there)
    }
    return new Set()
  }
  let pointing = market.map((swapper) => ({ swapper, to: best(swapper) }))
  for (;;) {
    const out = pointing.filter(({ to }) => to.size === 0)
    if (out.length === 0) return pointing
    for (const { swapper } of out) counts.set(swapper.seat, (counts.get(swapper.seat) ?? 0) - 1)
    pointing = pointing
      .filter(({ to }) => to.size > 0)
      .map((one) =>
        [...one.to].some((group) => (counts.get(group) ?? 0) <= 0)
          ? { swapper: one.swapper, to: best(one.swapper) }
          : one,
      )
  }
}

/** The shortest ring over groups, the first by lot among those; null where nobody is left. */
function shortestRing(pointing: readonly Pointing[]): Swap | null {
  const bySeat = grouped(pointing, ({ swapper }) => swapper.seat)
  let shortest: Swap | null = null
  for (const start of bySeat.keys()) {
    const ring = ringThrough(start, bySeat, shortest?.length ?? Number.POSITIVE_INFINITY)
    if (ring) shortest = ring
    if (shortest?.length === 2) break
  }
  return shortest
}

/** A shortest ring from a group back to it, with fewer people than so many; breadth first. */
function ringThrough(
  start: string,
  bySeat: ReadonlyMap<string, readonly Pointing[]>,
  below: number,
): Swap | null {
  /** By group: who leads to it, from which. */
  const reached = new Map<string, SwapPart>()
  let rim = [start]
  for (let length = 1; rim.length > 0 && length < below; length++) {
    const next: string[] = []
    for (const from of rim) {
      for (const { swapper, to } of bySeat.get(from) ?? []) {
        for (const group of to) {
          if (reached.has(group)) continue
          reached.set(group, { person: swapper.person, from, to: group })
          if (group === start) return ringOf(start, reached)
          next.push(group)
        }
      }
    }
    rim = next
  }
  return null
}

function ringOf(start: string, reached: ReadonlyMap<string, SwapPart>): Swap {
  const ring: Swap = []
  for (let at = start; ring.length === 0 || at !== start; ) {
    const part = reached.get(at) as SwapPart
    ring.unshift(part)
    at = part.from
  }
  return ring
}
