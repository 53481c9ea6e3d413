import { giveBack, isSpent, type Work, workOf } from '../plan/work.ts'
import { openTo } from './network.ts'
import { apartFrom, type Broken, brokenBy, compareCosts, costOf, rankOf, type WishRules } from './rules.ts'
import { drawnIn, inOrderOf, seatDrawn, someBest } from './seat.ts'
import { turnsWithin } from './turns.ts'
import type { Wisher, WishGroup, WishInput, WishSeat } from './types.ts'

/** A seating that keeps to rules for people and to floors. */
export interface WithinOutcome {
  seats: WishSeat[]
  /** What it comes to, level by level (`levelsIn`). */
  cost: number[]
  /** No seating comes to less. */
  bound: number[]
}

/** What has been decided on the way: people who are set, groups in which people are not, and how groups stand. */
interface Decided {
  set: ReadonlyMap<string, string>
  never: ReadonlyMap<string, readonly string[]>
  /** Nobody comes; it reaches its floor; it may stay below. */
  groups: ReadonlyMap<string, 'shut' | 'full' | 'low'>
}

interface Node {
  decided: Decided
  seats: WishSeat[]
  /** No seating under what was decided comes to less. */
  bound: number[]
}

const NOTHING: Decided = { set: new Map(), never: new Map(), groups: new Map() }

/** Steps that one look at a person and a group takes, roughly. */
const STEPS_EACH = 40
/** How many groups are tried for people who sit together, where there is time for it. */
const MOST_TRIED = 3

/**
 * Seats people by their wishes within rules: some keep together or apart, groups are empty or reach their floor as far as
 * can be. Without the rules the cheapest flow is a bound; what it breaks is decided one way and the other (branch and
 * bound, Land and Doig, Econometrica 28, 1960), the way that comes to less first. Work is counted in steps, so that the
 * same input gives the same seats on every machine; where it ends before everything is decided, the bound says how much
 * better a seating could be at most.
 *
 * Whom no rule names is seated by lot among what is as good, as without rules.
 */
export function seatWithin(
  input: WishInput,
  rules: WishRules,
  work: Work,
  onBetter?: (outcome: WithinOutcome) => void,
): WithinOutcome {
  const drawn = drawnIn({ ...input, moved: movedIn(rules) })
  const outcome = (seats: readonly WishSeat[], bound?: number[]): WithinOutcome => {
    const ordered = inOrderOf(input, seats)
    const cost = costOf(drawn, rules, ordered)
    return { seats: ordered, cost, bound: bound && compareCosts(bound, cost) < 0 ? bound : cost }
  }
  const own = workOf(work.most - work.spent)
  try {
    if (input.aim === 'in-turn') return outcome(turnsWithin(drawn, rules))
    const free = seatDrawn(drawn)
    own.spent += stepsOf(drawn)
    if (brokenBy(rules, free).length === 0) return outcome(free)
    return search(drawn, rules, own, outcome, onBetter)
  } finally {
    giveBack(work, own)
  }
}

const movedIn = ({ order }: WishRules) =>
  order.indexOf('wishes') < order.indexOf('moved') ? ('after' as const) : ('before' as const)

const stepsOf = ({ wishers, groups }: WishInput) => STEPS_EACH * wishers.length * groups.length

function search(
  drawn: WishInput,
  rules: WishRules,
  work: Work,
  outcome: (seats: readonly WishSeat[], bound?: number[]) => WithinOutcome,
  onBetter?: (outcome: WithinOutcome) => void,
): WithinOutcome {
  const solve = solver(drawn, rules, work)
  const root = solve(NOTHING)
  if (!root) return outcome([])
  let best: { seats: WishSeat[]; cost: number[] } | null = null
  const take = (seats: WishSeat[]): void => {
    const broken = brokenBy(rules, seats)
    // A group that stays below its floor costs something; it is no fault.
    if (broken.some(({ what }) => what !== 'floor')) return
    const cost = costOf(drawn, rules, seats)
    if (best && compareCosts(cost, best.cost) >= 0) return
    best = { seats, cost }
    onBetter?.(outcome(drawnAgain(drawn, rules, seats), root.bound))
  }
  take(root.seats)
  for (const { seats } of hurried(drawn, rules, root, solve, work)) take(seats)
  const open: Node[] = [root]
  let proven = true
  while (open.length > 0) {
    // Once there is something to show, the search goes on only as long as it may.
    if (best && isSpent(work)) {
      proven = false
      break
    }
    const node = open.pop() as Node
    if (best && compareCosts(node.bound, (best as { cost: number[] }).cost) >= 0) continue
    const broken = undecided(node, rules)
    if (!broken) continue
    const next = branches(drawn, node, broken, work)
      .flatMap((decided) => solve(decided) ?? [])
      .filter(({ bound }) => !best || compareCosts(bound, best.cost) < 0)
    for (const { seats } of next) take(seats)
    // The least comes last, and is looked at next.
    open.push(...next.toSorted((a, b) => compareCosts(b.bound, a.bound)))
  }
  const found = best as { seats: WishSeat[]; cost: number[] } | null
  if (!found) return outcome([], root.bound)
  const least = open.reduce((low, { bound }) => (compareCosts(bound, low) < 0 ? bound : low), found.cost)
  return outcome(drawnAgain(drawn, rules, found.seats), proven ? found.cost : least)
}

/**
 * A way to something that keeps to the rules, which decides all that is broken at once, again and again: people who keep
 * together go where they want to most, of the groups below their floor the emptier half is shut.
 */
function* hurried(
  drawn: WishInput,
  rules: WishRules,
  root: Node,
  solve: (decided: Decided) => Node | null,
  work: Work,
): Generator<Node> {
  let node = root
  for (;;) {
    const broken = brokenBy(rules, node.seats)
    let { decided } = node
    for (const one of broken) {
      if (one.what === 'floor') continue
      const [first] = branches(drawn, { ...node, decided }, one, work)
      if (first) decided = first
    }
    const low = broken
      .flatMap((one) => (one.what === 'floor' && decided.groups.get(one.group) !== 'low' ? [one] : []))
      .sort((a, b) => b.missing - a.missing)
      .slice(0, Math.ceil(broken.length / 2))
    const as = (how: 'shut' | 'low'): Decided => ({
      ...decided,
      groups: new Map([...decided.groups, ...low.map(({ group }) => [group, how] as const)]),
    })
    if (low.length === 0 && decided === node.decided) return
    const left = (one: Node) => one.seats.filter(({ group }) => group === null).length
    const shut = solve(as('shut'))
    const next = shut && left(shut) <= left(node) ? shut : solve(as('low'))
    if (!next) return
    node = next
    yield node
  }
}

/** What of a node is still to be decided; a group that is let stay below its floor is not. */
function undecided({ seats, decided }: Node, rules: WishRules): Broken | undefined {
  const broken = brokenBy(rules, seats)
  return (
    broken.find(({ what }) => what !== 'floor') ??
    broken
      .filter((one) => one.what === 'floor')
      .filter(({ group }) => decided.groups.get(group) !== 'low')
      .sort((a, b) => b.missing - a.missing)[0]
  )
}

/** The ways in which something that is broken can be decided; together they leave nothing out. */
function branches(drawn: WishInput, node: Node, broken: Broken, work: Work): Decided[] {
  const { decided, seats } = node
  const at = new Map(seats.map(({ person, group }) => [person, group]))
  switch (broken.what) {
    case 'apart':
      return broken.people
        .filter((person) => !decided.set.has(person))
        .map((person) => ({ ...decided, never: withNever(decided, [person], [broken.group]) }))
    case 'together': {
      // Those who are set already stay; their mates follow them.
      const already = broken.people
        .map((person) => decided.set.get(person))
        .find((group) => group !== undefined)
      const tries = already === undefined ? bestFor(drawn, broken.people, decided, at, work) : [already]
      const all = tries.map((group) => ({
        ...decided,
        set: new Map([...decided.set, ...broken.people.map((person) => [person, group] as const)]),
      }))
      if (already !== undefined) return all
      // Where no group takes them all, they sit nowhere.
      const elsewhere = tries.length > 0 ? tries : drawn.groups.map(({ key }) => key)
      return [...all, { ...decided, never: withNever(decided, broken.people, elsewhere) }]
    }
    case 'floor': {
      const as = (how: 'shut' | 'full' | 'low'): Decided => ({
        ...decided,
        groups: new Map([...decided.groups, [broken.group, how]]),
      })
      return [as('shut'), as('full'), as('low')]
    }
  }
}

function withNever(
  { never }: Decided,
  people: readonly string[],
  groups: readonly string[],
): Map<string, readonly string[]> {
  const more = people.map((person) => [person, [...(never.get(person) ?? []), ...groups]] as const)
  return new Map([...never, ...more])
}

/** Groups for people who sit together: those where one of them sits, then those that they want most. */
function bestFor(
  { wishers, groups, offers }: WishInput,
  people: readonly string[],
  { set, never }: Decided,
  at: ReadonlyMap<string, string | null>,
  work: Work,
): string[] {
  const own = wishers.filter(({ key }) => people.includes(key))
  const openOf = own.map(
    (one) =>
      new Set(
        openTo({ ...one, never: [...(one.never ?? []), ...(never.get(one.key) ?? [])] }, { groups, offers }),
      ),
  )
  const sum = (group: WishGroup) =>
    own.reduce((total, one) => total + (rankOf(one, group.topic) ?? one.ranks.length + 2), 0)
  const here = (group: WishGroup) => people.filter((person) => at.get(person) === group.key).length
  const taken = new Map<string, number>()
  for (const group of set.values()) taken.set(group, (taken.get(group) ?? 0) + 1)
  const room = ({ key, seats }: WishGroup) => seats - (taken.get(key) ?? 0) >= people.length
  const found = groups
    .filter((group, g) => room(group) && openOf.every((open) => open.has(g)))
    .sort((a, b) => sum(a) - sum(b) || here(b) - here(a))
  const many = work.most - work.spent > 200 * STEPS_EACH * wishers.length * groups.length
  return found.slice(0, many ? MOST_TRIED : 1).map(({ key }) => key)
}

/** Seats everybody as well as can be under what was decided; null where that cannot be. */
function solver(drawn: WishInput, rules: WishRules, work: Work) {
  const wisherOf = new Map(drawn.wishers.map((one) => [one.key, one]))
  const placeOf = new Map(drawn.groups.map(({ key }, g) => [key, g]))
  const apart = apartFrom(rules)
  return (decided: Decided): Node | null => {
    const { set } = decided
    const never = new Map(decided.never)
    const taken = new Map<string, number>()
    for (const [person, group] of set) {
      taken.set(group, (taken.get(group) ?? 0) + 1)
      const one = wisherOf.get(person)
      const g = placeOf.get(group)
      if (!one || g === undefined || !openTo({ ...one, never: all(one, never) }, drawn).includes(g))
        return null
      for (const other of apart.get(person) ?? []) {
        if (set.get(other) === group) return null
        never.set(other, [...(never.get(other) ?? []), group])
      }
    }
    const groups = groupsUnder(drawn, rules, decided, taken)
    if (!groups) return null
    work.spent += stepsOf(drawn)
    const loose = drawn.wishers.flatMap((one) =>
      set.has(one.key) ? [] : [{ ...one, never: all(one, never) }],
    )
    const topicOf = (key: string) => drawn.groups[placeOf.get(key) ?? -1]?.topic
    const seats = [
      ...someBest({ ...drawn, wishers: loose, groups }),
      ...[...set].map(([person, group]) => ({
        person,
        group,
        rank: rankOf(wisherOf.get(person) ?? { ranks: [] }, topicOf(group)),
      })),
    ]
    const under = brokenBy(rules, seats).filter((one) => one.what === 'floor')
    if (under.some(({ group }) => decided.groups.get(group) === 'full')) return null
    return { decided, seats, bound: boundOf(drawn, rules, decided, seats) }
  }
}

const all = ({ key, never = [] }: Wisher, more: ReadonlyMap<string, readonly string[]>): string[] => [
  ...never,
  ...(more.get(key) ?? []),
]

/** Groups with the seats that are left in them under what was decided; null where that cannot be. */
function groupsUnder(
  { groups }: WishInput,
  { floors }: WishRules,
  decided: Decided,
  taken: ReadonlyMap<string, number>,
): WishGroup[] | null {
  const under = groups.map((group): WishGroup | null => {
    const here = taken.get(group.key) ?? 0
    const seats = group.seats - here
    const { floor = 0, fixed = 0 } = floors.get(group.key) ?? {}
    if (seats < 0) return null
    switch (decided.groups.get(group.key)) {
      case 'shut':
        return here > 0 || fixed > 0 ? null : { ...group, seats: 0 }
      case 'full': {
        const must = Math.max(0, floor - fixed - here)
        return must > seats ? null : { ...group, seats, must }
      }
      default:
        return { ...group, seats }
    }
  })
  return under.some((group) => group === null) ? null : (under as WishGroup[])
}

/** What nothing under what was decided comes to less than: floors count only where they were given up. */
function boundOf(drawn: WishInput, rules: WishRules, decided: Decided, seats: readonly WishSeat[]): number[] {
  const low = [...decided.groups].flatMap(([group, how]) => (how === 'low' ? [group] : []))
  const floors = new Map([...rules.floors].filter(([group]) => low.includes(group)))
  return costOf(drawn, { ...rules, floors }, seats)
}

/**
 * Draws again who sits where among those whom no rule names, with the groups as they were found: as many sit in a group
 * that is below its floor, nobody in one that is empty, enough in all others.
 */
function drawnAgain(drawn: WishInput, rules: WishRules, seats: readonly WishSeat[]): WishSeat[] {
  const named = new Set([...rules.together.flat(), ...rules.apart.flat()])
  const kept = seats.filter(({ person }) => named.has(person))
  const here = new Map<string, number>()
  for (const { group } of kept) if (group !== null) here.set(group, (here.get(group) ?? 0) + 1)
  const sizes = new Map<string, number>()
  for (const { group } of seats) if (group !== null) sizes.set(group, (sizes.get(group) ?? 0) + 1)
  const groups = drawn.groups.map((group): WishGroup => {
    const { floor = 0, fixed = 0 } = rules.floors.get(group.key) ?? {}
    const own = here.get(group.key) ?? 0
    const size = sizes.get(group.key) ?? 0
    if (floor <= 1 || fixed >= floor) return { ...group, seats: group.seats - own }
    if (size === 0) return { ...group, seats: fixed > 0 ? group.seats : 0 }
    if (fixed + size < floor) return { ...group, seats: size - own, must: size - own }
    return { ...group, seats: group.seats - own, must: Math.max(0, floor - fixed - own) }
  })
  const wishers = drawn.wishers.filter(({ key }) => !named.has(key))
  const again = [...seatDrawn({ ...drawn, wishers, groups }), ...kept]
  // Where nobody is named the lot has decided all; else it may not come to less than what was found.
  return compareCosts(costOf(drawn, rules, again), costOf(drawn, rules, seats)) <= 0 ? again : [...seats]
}
