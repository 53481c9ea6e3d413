import { MOST_WISHES } from '../rules.ts'

/** What one student wishes for; topics by any key. */
export interface WishList<Key> {
  /** Topics by rank, the most wanted first; those that are as good stand together. */
  ranks: readonly (readonly Key[])[]
  /** Topics that they cannot have, and why. */
  cannot: readonly { topic: Key; reason: string }[]
}

/** With whom somebody would sit, by address, and whether that comes before their topics. */
export interface Mates {
  people: readonly string[]
  first: boolean
}

/** What the house rules ask of a list. */
export interface ListRules {
  least: number
  most: number
  cannotMost: number
}

/** Most characters of a reason. */
export const MOST_REASON = 200

/** What is wrong with a list, and where: as a path into it. */
export type ListFault =
  | { code: 'not-offered' | 'twice'; path: string }
  | { code: 'too-many' | 'too-many-cannot'; path: string; most: number }
  | { code: 'no-reason'; path: string }

/**
 * What keeps a list from being stored; null for nothing. One that is too short is no fault: it is kept, and does not
 * count yet (`neededBy`).
 * @param offered topics that are offered to whoever ranks
 */
export function listFault<Key>(
  { ranks, cannot }: WishList<Key>,
  offered: ReadonlySet<Key>,
  { most, cannotMost }: Pick<ListRules, 'most' | 'cannotMost'>,
): ListFault | null {
  const seen = new Set<Key>()
  const listed = [
    ...ranks.flatMap((topics, i) => topics.map((topic, n) => ({ topic, path: `ranks[${i}][${n}]` }))),
    ...cannot.map(({ topic }, i) => ({ topic, path: `cannot[${i}].topic` })),
  ]
  for (const { topic, path } of listed) {
    if (!offered.has(topic)) return { code: 'not-offered', path }
    if (seen.has(topic)) return { code: 'twice', path }
    seen.add(topic)
  }
  const limit = Math.min(most, MOST_WISHES)
  if (ranks.flat().length > limit) return { code: 'too-many', path: 'ranks', most: limit }
  if (cannot.length > cannotMost) return { code: 'too-many-cannot', path: 'cannot', most: cannotMost }
  const silent = cannot.findIndex(({ reason }) => reason.trim() === '')
  return silent < 0 ? null : { code: 'no-reason', path: `cannot[${silent}].reason` }
}

/** How many topics a list needs to count: as many as the rules ask for, or all that could be ranked where those are fewer. */
export function neededBy<Key>(
  { cannot }: Pick<WishList<Key>, 'cannot'>,
  offered: number,
  { least }: Pick<ListRules, 'least'>,
): number {
  return Math.max(1, Math.min(least, offered - cannot.length))
}

/**
 * A list as it counts with the topics that are offered now: those that are not any more are left out, and ranks close
 * up. Null where it is too short to count.
 */
export function countingList<Key>(
  list: WishList<Key>,
  offered: ReadonlySet<Key>,
  rules: Pick<ListRules, 'least'>,
): WishList<Key> | null {
  const there = offeredOf(list, offered)
  const ranked = there.ranks.flat().length
  return ranked >= neededBy(there, offered.size, rules) ? there : null
}

/** A list without the topics that are not offered any more. */
export function offeredOf<Key>({ ranks, cannot }: WishList<Key>, offered: ReadonlySet<Key>): WishList<Key> {
  return {
    ranks: ranks
      .map((topics) => topics.filter((topic) => offered.has(topic)))
      .filter((topics) => topics.length > 0),
    cannot: cannot.filter(({ topic }) => offered.has(topic)),
  }
}

/** What keeps mates from being stored; null for nothing. Whether somebody has an address is not told. */
export function matesFault(
  { people }: Mates,
  own: string,
  most: number,
): { code: 'too-many-mates' | 'mate-twice' | 'mate-self'; path: string } | null {
  if (people.length > most) return { code: 'too-many-mates', path: 'mates.people' }
  const twice = people.findIndex((one, i) => people.indexOf(one) < i)
  if (twice >= 0) return { code: 'mate-twice', path: `mates.people[${twice}]` }
  const self = people.indexOf(own)
  return self < 0 ? null : { code: 'mate-self', path: `mates.people[${self}]` }
}

/**
 * Sets of people of whom each names all the others and nobody else, once each, in the order of the people; and whether
 * being together comes first for all of them.
 * @param of by each person’s key: their address, and whom they named
 */
export function mutualMates(
  of: ReadonlyMap<string, { address: string; mates: Mates }>,
): { people: string[]; first: boolean }[] {
  const byAddress = new Map([...of].map(([key, { address }]) => [address, key]))
  const setOf = (key: string): string[] => {
    const own = of.get(key)
    const named = own?.mates.people.map((address) => byAddress.get(address)) ?? []
    return named.some((one) => one === undefined) ? [] : [key, ...(named as string[])].sort()
  }
  const found = new Map<string, { people: string[]; first: boolean }>()
  for (const key of of.keys()) {
    const set = setOf(key)
    const name = JSON.stringify(set)
    if (set.length < 2 || found.has(name)) continue
    if (set.every((one) => JSON.stringify(setOf(one)) === name))
      found.set(name, { people: set, first: set.every((one) => of.get(one)?.mates.first === true) })
  }
  return [...found.values()]
}
