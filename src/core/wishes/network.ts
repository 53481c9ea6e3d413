import type { Network } from './flow.ts'
import { levelsOf } from './levels.ts'
import type { WishAim, Wisher, WishInput } from './types.ts'

/** What people can have, as a network, and what each option is. */
export interface WishNetwork extends Network {
  /** For each option the rank of the wish, from 1; 0 where it is none of theirs, or no seat. */
  ranks: Int32Array
  /** Who has wishes, whether or not they can come true. */
  wants: boolean[]
}

/** Where somebody may sit: which groups, the pool that leads to any of them (−1 for none), and those of each topic. */
interface Places {
  open: number[]
  pool: number
  byTopic: Map<string, number[]>
}

const NO_GROUPS: readonly number[] = []

/** How good an option is for whoever has it: the rank of the wish, then any other seat, then none. */
export function rankAt({ seats, pools, options, ranks }: WishNetwork, option: number): number {
  const nowhere = seats.length + pools.length
  return (
    ranks[option] || (options.node[option] === nowhere ? Number.POSITIVE_INFINITY : Number.MAX_SAFE_INTEGER)
  )
}

/** Which groups somebody may sit in, by their places; wishes or not. */
export function openTo(
  wisher: Pick<Wisher, 'section' | 'cannot' | 'never'>,
  { groups, offers }: Pick<WishInput, 'groups' | 'offers'>,
): number[] {
  return groups.flatMap(({ key, topic, section, seats }, g) => {
    const offered = offers === 'course' || section === null || section === wisher.section
    const may = !wisher.cannot.includes(topic) && !wisher.never?.includes(key)
    return offered && seats > 0 && may ? [g] : []
  })
}

/** The longest list of wishes there is. */
export const longestOf = ({ wishers }: Pick<WishInput, 'wishers'>) =>
  wishers.reduce((most, { ranks }) => Math.max(most, ranks.length), 0)

/**
 * Digits of what a rank costs under an aim, by level; `longest + 1` is a seat that is none of one's wishes. Levels 0 and
 * 1 are those who are left: first everybody, then those who had wishes.
 */
export function digitsOf(
  aim: Exclude<WishAim, 'in-turn'>,
  rank: number,
  longest: number,
): [number, number][] {
  switch (aim) {
    case 'most-first':
      return rank > longest ? [] : [[1 + rank, -1]]
    case 'nobody-far-down':
      // The worst comes first: none of one's wishes, then the last, up to the second.
      return rank === 1 ? [] : [[2 + longest + 1 - rank, 1]]
    case 'least-total':
      return [[2, rank]]
  }
}

/**
 * The network for an aim. Somebody has an option for each group of a wish, one for any other group that is open to them
 * (a pool that all with the same groups share), and one for none.
 * @throws RangeError where there are too many people and ranks to count exactly
 */
export function networkFor(input: WishInput, aim: Exclude<WishAim, 'in-turn'>): WishNetwork {
  const { wishers, groups } = input
  const longest = longestOf(input)
  // A way goes over each person once at most, there and back, with potentials beside it.
  const most = 6 * (wishers.length + 1) * (aim === 'least-total' ? longest + 1 : 1)
  const floored = groups.some(({ must = 0 }) => must > 0)
  const ordered = levelOrder(input, aim, floored)
  const levels = levelsOf(ordered.count, most)
  const pack = (digits: readonly [number, number][], more: readonly [number, number][] = []) =>
    levels.pack(new Map([...digits.map(([level, n]) => [ordered.of(level), n] as const), ...more]))
  /** Costs by their place: none, those of each rank, any other seat, and none for people without and with wishes. */
  const kinds = [
    [],
    ...Array.from({ length: longest + 1 }, (_, i) => digitsOf(aim, i + 1, longest)),
    LEFT_WITHOUT,
    LEFT_WITH,
  ]
  // The same again for whoever loses the seat that they have.
  const table = [
    ...kinds.map((digits) => pack(digits)),
    ...(ordered.moved === null ? [] : kinds.map((digits) => pack(digits, [[ordered.moved as number, 1]]))),
  ]
  const [free, anyOther, leftWithout, leftWith] = [0, longest + 1, longest + 2, longest + 3]
  const pools: number[][] = []
  const poolAt = new Map<string, number>()
  const poolOf = (open: readonly number[]): number => {
    const name = open.join()
    const known = poolAt.get(name)
    if (known !== undefined) return known
    pools.push([...open])
    poolAt.set(name, pools.length - 1)
    return pools.length - 1
  }
  const openAt = new Map<string, Places>()
  const placesOf = (wisher: Wisher): Places => {
    const name = JSON.stringify([wisher.section, [...wisher.cannot].sort(), [...(wisher.never ?? [])].sort()])
    const known = openAt.get(name)
    if (known) return known
    const open = openTo(wisher, input)
    const byTopic = new Map<string, number[]>()
    for (const g of open) {
      const topic = groups[g]?.topic ?? ''
      byTopic.set(topic, [...(byTopic.get(topic) ?? []), g])
    }
    const made = { open, pool: open.length > 0 ? poolOf(open) : -1, byTopic }
    openAt.set(name, made)
    return made
  }
  const places = wishers.map(placesOf)
  const nowhere = groups.length + pools.length
  const first = new Int32Array(wishers.length + 1)
  const [node, cost, ranks]: [number[], number[], number[]] = [[], [], []]
  const add = (to: number, rank: number, paid: number): void => {
    node.push(to)
    ranks.push(rank)
    cost.push(paid)
  }
  // One after the other in plain rows: of 20,000 people with six wishes each nothing else is made.
  for (const [i, wisher] of wishers.entries()) {
    const { open, pool, byTopic } = places[i] as Places
    const wants = wisher.ranks.length > 0
    const other = wants ? anyOther : free
    const home = wisher.home == null ? -1 : groups.findIndex(({ key }) => key === wisher.home)
    const moving = wisher.home == null ? 0 : kinds.length
    let wished = false
    for (const [r, topics] of wisher.ranks.entries())
      for (const topic of topics)
        for (const g of byTopic.get(topic) ?? NO_GROUPS) {
          if (g === home) wished = true
          add(g, r + 1, r + 1 + (g === home ? 0 : moving))
        }
    if (home >= 0 && !wished && open.includes(home)) add(home, 0, other)
    if (pool >= 0) add(groups.length + pool, 0, other + moving)
    add(nowhere, 0, (wants ? leftWith : leftWithout) + moving)
    first[i + 1] = node.length
  }
  const costs = new Float64Array(table.length * levels.words)
  for (const [i, cost] of table.entries()) costs.set(cost, i * levels.words)
  return {
    people: wishers.length,
    seats: groups.map(({ seats }) => seats),
    pools,
    options: {
      first,
      node: Int32Array.from(node),
      cost: Int32Array.from(cost),
      costs,
      words: levels.words,
    },
    ranks: Int32Array.from(ranks),
    wants: wishers.map(({ ranks }) => ranks.length > 0),
    floors: floored
      ? { seats: groups.map(({ must = 0 }) => must), cost: levels.pack(new Map([[0, -1]])) }
      : null,
  }
}

/**
 * Where the levels of `digitsOf` stand among all: before them seats that have to be taken, where there are such; before
 * or after the wishes who loses a seat, where anybody has one.
 */
function levelOrder(input: WishInput, aim: Exclude<WishAim, 'in-turn'>, floored: boolean) {
  const own = aim === 'least-total' ? 3 : 3 + longestOf(input)
  const seated = input.wishers.some(({ home }) => home != null)
  const start = floored ? 1 : 0
  const after = input.moved === 'after'
  const shift = seated && !after ? 1 : 0
  return {
    count: start + own + (seated ? 1 : 0),
    of: (level: number) => start + level + (level < 2 ? 0 : shift),
    moved: seated ? start + (after ? own : 2) : null,
  }
}

const LEFT_WITHOUT: [number, number][] = [[0, 1]]
const LEFT_WITH: [number, number][] = [
  [0, 1],
  [1, 1],
]
