import { grouped } from '../grouped.ts'
import type { Gap } from '../plan/cost.ts'
import { longestOf } from './network.ts'
import { figuresOf } from './seat.ts'
import type { WishAim, Wisher, WishInput, WishSeat } from './types.ts'

/** What counts before what, once as few as can be are left without a seat. */
export type Priority = 'floors' | 'moved' | 'wishes'
export const USUAL_ORDER: readonly Priority[] = ['floors', 'moved', 'wishes']

/** What a seating by wishes keeps to besides. People and groups by their keys. */
export interface WishRules {
  /** People who sit in one group, or nowhere. */
  together: readonly (readonly string[])[]
  /** Two who do not sit in one group. */
  apart: readonly (readonly [string, string])[]
  /** For groups that need so many people to work: how many, and how many sit there whatever happens. */
  floors: ReadonlyMap<string, { floor: number; fixed: number }>
  order: readonly Priority[]
}

/** What a seating breaks. */
export type Broken =
  | { what: 'together'; people: readonly string[] }
  | { what: 'apart'; people: readonly [string, string]; group: string }
  | { what: 'floor'; group: string; missing: number }

/** How many sit in each group, those who stay there among them. */
function sizesOf({ floors }: WishRules, seats: readonly WishSeat[]): Map<string, number> {
  const sizes = new Map([...floors].map(([group, { fixed }]) => [group, fixed]))
  for (const { group } of seats) if (group !== null) sizes.set(group, (sizes.get(group) ?? 0) + 1)
  return sizes
}

/** What a seating breaks of the rules: who is not together or apart, and groups with people under their floor. */
export function brokenBy(rules: WishRules, seats: readonly WishSeat[]): Broken[] {
  const at = new Map(seats.map(({ person, group }) => [person, group]))
  const sizes = sizesOf(rules, seats)
  return [
    ...rules.together
      .filter((people) => new Set(people.map((person) => at.get(person) ?? null)).size > 1)
      .map((people) => ({ what: 'together' as const, people })),
    ...rules.apart.flatMap((people) => {
      const group = at.get(people[0]) ?? null
      return group !== null && group === at.get(people[1]) ? [{ what: 'apart' as const, people, group }] : []
    }),
    ...[...rules.floors].flatMap(([group, { floor }]) => {
      const size = sizes.get(group) ?? 0
      return size > 0 && size < floor ? [{ what: 'floor' as const, group, missing: floor - size }] : []
    }),
  ]
}

/** Which part of a cost a level is, and for a wish, which one. */
export interface Level {
  part: 'left' | 'under' | 'moved' | 'wishes'
  /** The wish that is counted; one past the last is none of one’s own; 0 is the sum of all. */
  rank: number
}

/** What the levels of `costOf` are, one after the other. */
export function levelsIn(input: WishInput, { order }: Pick<WishRules, 'order'>): Level[] {
  const longest = longestOf(input)
  const plain = (part: Level['part']): Level => ({ part, rank: 0 })
  const wishes = ranksOf(input.aim, longest).map((rank): Level => ({ part: 'wishes', rank }))
  return [
    plain('left'),
    plain('left'),
    ...order.flatMap((one) =>
      one === 'floors' ? [plain('under')] : one === 'moved' ? [plain('moved')] : wishes,
    ),
  ]
}

/** Which ranks an aim counts, the first counting most. */
function ranksOf(aim: WishAim, longest: number): number[] {
  const all = Array.from({ length: longest }, (_, i) => i + 1)
  switch (aim) {
    case 'most-first':
      return all
    case 'nobody-far-down':
      return [longest + 1, ...all.slice(1).reverse()]
    case 'least-total':
      return [0]
    case 'in-turn':
      return []
  }
}

/** What a seating costs, level by level: less is better, and no amount on a later level weighs up an earlier one. */
export function costOf(input: WishInput, rules: WishRules, seats: readonly WishSeat[]): number[] {
  const { left, leftWithWishes, byRank, none } = figuresOf(input, seats)
  const home = new Map(input.wishers.map(({ key, home }) => [key, home ?? null]))
  const moved = seats.filter(({ person, group }) => {
    const was = home.get(person) ?? null
    return was !== null && was !== group
  }).length
  const under = brokenBy(rules, seats).filter(({ what }) => what === 'floor').length
  const total = byRank.reduce((sum, n, i) => sum + n * (i + 1), none * (byRank.length + 1))
  const wished = (rank: number): number => {
    if (rank === 0) return total
    const n = rank > byRank.length ? none : (byRank[rank - 1] ?? 0)
    return input.aim === 'most-first' ? -n : n
  }
  const parts = { left, under, moved }
  return levelsIn(input, rules).map(({ part, rank }, level) => {
    if (part === 'wishes') return wished(rank)
    return level === 1 ? leftWithWishes : parts[part]
  })
}

/** Below 0 where the first cost is less than the second, above where it is more. */
export function compareCosts(a: readonly number[], b: readonly number[]): number {
  const at = a.findIndex((digit, i) => digit !== b[i])
  return at < 0 ? 0 : (a[at] ?? 0) - (b[at] ?? 0)
}

/** By how much at most a seating could be better, and in what; null where it is the best there is. */
export function gapIn(
  input: WishInput,
  rules: Pick<WishRules, 'order'>,
  cost: readonly number[],
  bound: readonly number[],
): Gap | null {
  if (compareCosts(bound, cost) >= 0) return null
  const at = cost.findIndex((digit, i) => digit !== bound[i])
  const { part, rank } = levelsIn(input, rules)[at] as Level
  return { part, by: (cost[at] ?? 0) - (bound[at] ?? 0), ...(rank > 0 && { rank }) }
}

/** Which wish a group is for somebody, from 1; null where it is none of theirs. */
export function rankOf({ ranks }: Pick<Wisher, 'ranks'>, topic: string | undefined): number | null {
  const at = ranks.findIndex((topics) => topic !== undefined && topics.includes(topic))
  return at < 0 ? null : at + 1
}

/** For each person those who must not sit with them. */
export function apartFrom({ apart }: Pick<WishRules, 'apart'>): Map<string, string[]> {
  const pairs = apart.flatMap(([a, b]) => [
    { who: a, other: b },
    { who: b, other: a },
  ])
  return new Map(
    [...grouped(pairs, ({ who }) => who)].map(([who, all]) => [who, all.map((one) => one.other)]),
  )
}
