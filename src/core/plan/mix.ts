import { isElsewhere } from '../fits.ts'
import { drawStream } from '../lot.ts'
import type { MixFigures, Mixing, MixReport, Plan, PlanInput, PlanMove } from './types.ts'

/** A plan whose people were exchanged, with what that came to. */
export interface Mixed {
  plan: Plan
  report: MixReport
}

/** Exchanges that are tried for each person, and at the most. */
const TRIES_EACH = 1_500
const MOST_TRIES = 600_000
/** How often a small class is warmed anew, and how many people are one: a single cooling can end beside the best. */
const ROUNDS = 4
const SMALL = 60

/** Reasons that say no more of somebody than that they had to sit somewhere: they may be exchanged. */
const FREE: ReadonlySet<PlanMove['reason']['code']> = new Set([
  'even',
  'lot',
  'surname',
  'floor',
  'only-room',
])

/**
 * Exchanges people whom a plan seats anew, so that fewer who sat together before do so again, and attributes are spread
 * over the groups, or gathered in them, each in its order of weight. Sizes stay as the plan has them; so does whoever is
 * set by hand, named in a rule for people, or has a seat that is kept. The same input and lot number give the same.
 *
 * A search by single exchanges, now and then one that is worse (Kirkpatrick and others, "Optimization by simulated
 * annealing", Science 220, 1983); the best that was met is given, and what is proven of it is said.
 */
export function mix(input: PlanInput, plan: Plan, mixing: Mixing): Mixed {
  const groups = seatedIn(input, plan)
  const costs = costsOf(mixing, input, groups)
  const before = costs.figures(groups)
  const named = new Set(input.keepings.flatMap(({ people }) => people))
  const sections = new Map(input.people.map(({ key, section }) => [key, section]))
  const places = new Map(input.groups.map(({ key, section }) => [key, section]))
  const from = new Map(plan.moves.map((move) => [move.person, move.from]))
  const free = plan.moves
    .filter(({ person, reason }) => FREE.has(reason.code) && !named.has(person))
    .map(({ person, to }) => ({ person, at: to }))
  const may = (person: string, group: string) =>
    !isElsewhere(places.get(group) ?? null, sections.get(person) ?? null, input.offers) &&
    from.get(person) !== group
  const lot = drawStream(input.lotNumber, 'mix')
  const round = Math.min(MOST_TRIES, TRIES_EACH * free.length)
  const tries = free.length < 2 ? 0 : round * (free.length <= SMALL ? ROUNDS : 1)
  let cost = costs.total(groups)
  let best = cost
  let bestAt = free.map(({ at }) => at)
  const swap = (a: (typeof free)[number], b: (typeof free)[number]) => {
    const [one, other] = [groups.get(a.at), groups.get(b.at)]
    one?.delete(a.person)
    other?.delete(b.person)
    one?.add(b.person)
    other?.add(a.person)
    const at = a.at
    a.at = b.at
    b.at = at
  }
  for (let n = 0; n < tries && best > costs.least; n++) {
    const [a, b] = [free[lot.below(free.length)], free[lot.below(free.length)]]
    const draw = lot.next()
    if (!a || !b || a.at === b.at || (from.get(a.person) === null) !== (from.get(b.person) === null)) continue
    if (!may(a.person, b.at) || !may(b.person, a.at)) continue
    const pair = [a.at, b.at]
    const old = costs.of(groups, pair)
    swap(a, b)
    const more = costs.of(groups, pair) - old
    // Warm at first, cold at the end of a round.
    const warmth = costs.step * (1 - (n % round) / round) ** 2
    if (more > 0 && draw >= Math.exp(-more / Math.max(1e-9, warmth))) swap(a, b)
    else {
      cost += more
      if (cost < best) {
        best = cost
        bestAt = free.map(({ at }) => at)
      }
    }
  }
  const where = new Map(free.map(({ person }, i) => [person, bestAt[i] ?? '']))
  const moves = plan.moves.map((move): PlanMove => {
    const to = where.get(move.person) ?? move.to
    return to === move.to ? move : { ...move, to, reason: { code: 'mixed' } }
  })
  const mixed = { ...plan, moves }
  const report = { before, after: costs.figures(seatedIn(input, mixed)), proven: best <= costs.least }
  return { plan: { ...mixed, mix: report, evenChances: false }, report }
}

/** Who sits in each group once a plan is applied. */
function seatedIn(input: PlanInput, plan: Plan): Map<string, Set<string>> {
  const gone = new Set([...plan.moves, ...plan.left].map(({ person, from }) => `${person} ${from}`))
  const groups = new Map(input.groups.map(({ key }) => [key, new Set<string>()]))
  for (const { person, group } of input.seats)
    if (!gone.has(`${person} ${group}`)) groups.get(group)?.add(person)
  for (const { person, to } of plan.moves) groups.get(to)?.add(person)
  return groups
}

type Groups = ReadonlyMap<string, ReadonlySet<string>>

/**
 * What a seating costs: pairs who meet again above all, then each attribute in its order, by the squares of how many of
 * one value sit together. Squares are least when a value is spread evenly, and most when it is gathered.
 */
function costsOf({ met, attributes }: Mixing, { people }: PlanInput, groups: Groups) {
  const known = new Map<string, Map<string, number>>()
  const note = (a: string, b: string, times: number) => {
    const own = known.get(a) ?? new Map<string, number>()
    known.set(a, own.set(b, (own.get(b) ?? 0) + times))
  }
  for (const { a, b, times } of met) {
    note(a, b, times)
    note(b, a, times)
  }
  const sizes = [...groups.values()].map(({ size }) => size).filter((size) => size > 0)
  const seated = new Set([...groups.values()].flatMap((own) => [...own]))
  const values = attributes.map(({ of }) => {
    const counts = new Map<string, number>()
    for (const { key } of people)
      if (seated.has(key)) counts.set(of.get(key) ?? '', (counts.get(of.get(key) ?? '') ?? 0) + 1)
    return counts
  })
  /** The least that the squares of an attribute can be: each value spread over all groups as evenly as can be. */
  const floors = values.map((counts) =>
    [...counts.values()].reduce((sum, count) => sum + squaresOf(count, sizes.length), 0),
  )
  // A step of one attribute is worth more than all of the next, and a pair more than all attributes.
  const most = sizes.reduce((sum, size) => sum + size * size, 0) + 1
  const weights = attributes.map((_, i) => most ** (attributes.length - i - 1))
  const pairWeight = most ** attributes.length
  const pairsIn = (own: ReadonlySet<string>): number => {
    let pairs = 0
    for (const person of own) {
      const before = known.get(person)
      if (!before) continue
      for (const [other, times] of before) if (person < other && own.has(other)) pairs += times
    }
    return pairs
  }
  const squaresIn = (own: ReadonlySet<string>, i: number): number => {
    const counts = new Map<string, number>()
    const of = attributes[i]?.of
    for (const person of own) counts.set(of?.get(person) ?? '', (counts.get(of?.get(person) ?? '') ?? 0) + 1)
    return [...counts.values()].reduce((sum, count) => sum + count * count, 0)
  }
  const sign = (i: number) => (attributes[i]?.how === 'alike' ? -1 : 1)
  const one = (own: ReadonlySet<string>) =>
    pairWeight * pairsIn(own) +
    attributes.reduce((sum, _, i) => sum + sign(i) * (weights[i] ?? 0) * squaresIn(own, i), 0)
  const of = (all: Groups, keys: Iterable<string>): number => {
    let sum = 0
    for (const key of keys) sum += one(all.get(key) ?? NOBODY)
    return sum
  }
  const gathered = attributes.map(() => sizes.reduce((sum, size) => sum + size * size, 0))
  return {
    of,
    total: (all: Groups) => of(all, all.keys()),
    /** No seating with these sizes costs less. */
    least: attributes.reduce(
      (sum, { how }, i) =>
        sum + (weights[i] ?? 0) * (how === 'alike' ? -(gathered[i] ?? 0) : (floors[i] ?? 0)),
      0,
    ),
    /** About what one exchange changes. */
    step: met.length > 0 ? pairWeight / 2 : (weights[0] ?? 1) * 2,
    figures: (all: Groups): MixFigures => ({
      again: [...all.values()].reduce((sum, own) => sum + (met.length > 0 ? pairsOnce(own, known) : 0), 0),
      spread: attributes.map(({ name, how }, i) => {
        const squares = [...all.values()].reduce((sum, own) => sum + squaresIn(own, i), 0)
        const off = how === 'alike' ? (gathered[i] ?? 0) - squares : squares - (floors[i] ?? 0)
        // Bringing two people where they belong takes two off the squares.
        return { name, off: Math.ceil(off / 2) }
      }),
    }),
  }
}

const NOBODY: ReadonlySet<string> = new Set()

function pairsOnce(
  own: ReadonlySet<string>,
  known: ReadonlyMap<string, ReadonlyMap<string, number>>,
): number {
  let pairs = 0
  for (const person of own)
    for (const other of known.get(person)?.keys() ?? []) if (person < other && own.has(other)) pairs += 1
  return pairs
}

/** The least sum of squares of so many over so many groups. */
function squaresOf(count: number, groups: number): number {
  if (groups === 0) return 0
  const small = Math.floor(count / groups)
  const larger = count - small * groups
  return larger * (small + 1) ** 2 + (groups - larger) * small ** 2
}
