import { evenedOut } from '../wishes/even.ts'
import { seatWithMates } from '../wishes/mates.ts'
import { openTo } from '../wishes/network.ts'
import { gapIn, rankOf, USUAL_ORDER, type WishRules } from '../wishes/rules.ts'
import { figuresOf as wishFiguresOf } from '../wishes/seat.ts'
import type { Wisher, WishFigures, WishGroup, WishInput } from '../wishes/types.ts'
import type { WithinOutcome } from '../wishes/within.ts'
import { figuresOf } from './figures.ts'
import { type Prepared, prepare } from './prepare.ts'
import { roundIn, roundOf } from './round.ts'
import { seatsAfter } from './seatsAfter.ts'
import type {
  ByWishes,
  LeftReason,
  Plan,
  PlanConflict,
  PlanInput,
  PlanLeft,
  PlanMove,
  Wished,
} from './types.ts'
import { PLAN_STEPS, type PlanOptions, workOf } from './work.ts'

const NOTHING_WISHED: Wished = { topics: {}, codes: {}, lists: [] }
const USUAL: ByWishes = { aim: 'most-first', order: [...USUAL_ORDER] }

/**
 * The best plan by wishes: as few as can be are left without a seat, then what counts in the order that is chosen (groups
 * under their floor, seated people who are moved, wishes by the aim), and last as even sizes as those make who come to
 * none of their wishes or have none. Who sits already and is not released, seats kept
 * free for somebody, what is set by hand, sections, limits and keepings hold as for every plan; people without wishes
 * come after the others.
 * @throws RangeError where there are too many people and wishes to count exactly
 */
export function planByWishes(input: PlanInput, options: PlanOptions = {}): Plan {
  const { steps = PLAN_STEPS, onProgress, onBetter } = options
  const ground = groundOf(input)
  const work = workOf(steps)
  const found = seatWithMates(ground.input, ground.rules, input.wished?.mates, work, (better) => {
    onProgress?.(Math.min(1, work.spent / work.most))
    onBetter?.(() => planOf(input, { ...ground, rules: better.rules }, better.outcome))
  })
  const plan = planOf(input, { ...ground, rules: found.rules }, found.outcome)
  onBetter?.(() => plan)
  onProgress?.(1)
  return plan
}

/** A plan’s input as a question of wishes. */
export interface WishGround {
  input: WishInput
  rules: WishRules
  prepared: Prepared
  /** Rules for people that cannot hold. */
  conflicts: PlanConflict[]
  /** How many of those who sit together do so by a rule for people; whoever comes after has wished it. */
  kept: number
}

/** Turns a plan’s input into one of wishes: people who look for a seat, and the seats that they could have. */
export function groundOf(given: PlanInput): WishGround {
  const { input, sitting, never: closedTo } = roundOf(given)
  const prepared = prepare(input)
  if (prepared.conflicts.length > 0) {
    // What cannot hold is not minded at all.
    const refused = new Set(prepared.conflicts.map(({ keeping }) => keeping))
    const again = groundOf({ ...given, keepings: given.keepings.filter(({ key }) => !refused.has(key)) })
    return { ...again, conflicts: [...prepared.conflicts, ...again.conflicts] }
  }
  const { wished = NOTHING_WISHED, byWishes = USUAL } = input
  const lists = new Map(wished.lists.map((one) => [one.person, one]))
  const sections = new Map(input.people.map(({ key, section }) => [key, section]))
  const sectionOf = new Map(input.groups.map(({ key, section }) => [key, section]))
  const topicOf = (group: string) => wished.topics[group] ?? group
  const groups: WishGroup[] = []
  const wishers: Wisher[] = []
  const together: string[][] = []
  const apart: [string, string][] = []
  const floors = new Map<string, { floor: number; fixed: number }>()
  for (const pool of prepared.pools) {
    const keys = pool.groups.map(({ key }) => key)
    for (const { key, limit, floor, fixed } of pool.groups) {
      groups.push({
        key,
        topic: topicOf(key),
        section: sectionOf.get(key) ?? null,
        seats: Math.max(0, limit - fixed.length),
      })
      if (floor > 1) floors.set(key, { floor, fixed: fixed.length + (sitting.get(key) ?? 0) })
    }
    const add = (person: string, home: string | null, shut: readonly string[]) => {
      const never = [...new Set([...shut, ...(closedTo.get(person) ?? [])])]
      const { ranks = [], cannot = [] } = lists.get(person) ?? {}
      const lot = wished.codes[person]
      wishers.push({
        key: person,
        ...(lot !== undefined && { lot }),
        section: sections.get(person) ?? null,
        ranks,
        cannot,
        ...(never.length > 0 && { never }),
        ...(home !== null && { home }),
      })
    }
    const inUnit = new Set(pool.units.flatMap(({ people }) => people))
    for (const person of pool.plain) add(person, null, [])
    for (const { key, loose } of pool.groups)
      for (const person of loose) if (!inUnit.has(person)) add(person, key, [])
    pool.units.forEach(({ people, only, homes, never, apart: others }, i) => {
      const closed = keys.filter((_, g) => never.has(g) || (only !== null && only !== g))
      people.forEach((person, n) => {
        const home = homes[n] ?? null
        add(person, home === null ? null : (keys[home] ?? null), closed)
      })
      if (people.length > 1) together.push([...people])
      for (const other of others) {
        const [a, b] = [people[0], pool.units[other]?.people[0]]
        if (other > i && a !== undefined && b !== undefined) apart.push([a, b])
      }
    })
  }
  const order = new Map(input.people.map(({ key }, i) => [key, i]))
  wishers.sort((a, b) => (order.get(a.key) ?? 0) - (order.get(b.key) ?? 0))
  const { aim, order: priorities } = byWishes
  return {
    input: {
      wishers,
      groups,
      offers: input.offers,
      aim,
      lotNumber: input.lotNumber,
      // Who came last in the first round comes first in the second.
      ...(roundIn(given) % 2 === 0 && { reversed: true }),
    },
    rules: { together, apart, floors, order: priorities },
    prepared,
    conflicts: [],
    kept: together.length,
  }
}

function planOf(input: PlanInput, ground: WishGround, { seats, cost, bound }: WithinOutcome): Plan {
  const { prepared, rules } = ground
  const { aim, order } = input.byWishes ?? USUAL
  const round = roundIn(input)
  const stay = roundOf(input)
  const place = new Map(input.people.map(({ key }, i) => [key, i]))
  const inOrder = (a: { person: string }, b: { person: string }) =>
    (place.get(a.person) ?? 0) - (place.get(b.person) ?? 0)
  const wisherOf = new Map(ground.input.wishers.map((one) => [one.key, one]))
  const now = new Map(stay.input.seats.map(({ person, group }) => [person, group]))
  const staying = new Map(
    prepared.pools.flatMap((pool) =>
      pool.groups.map(({ key, fixed }) => [key, fixed.length + (stay.sitting.get(key) ?? 0)] as const),
    ),
  )
  const moves: PlanMove[] = [...prepared.settled]
  const left: PlanLeft[] = [...prepared.left]
  for (const { person, group, rank } of evenedOut(ground.input, rules, seats, staying, round)) {
    const one = wisherOf.get(person)
    const from = now.get(person) ?? null
    if (group === null) left.push({ person, from, reason: leftReason(ground, one) })
    else if (group !== from)
      moves.push({
        person,
        from,
        to: group,
        reason: { code: 'wish', rank, wished: (one?.ranks.length ?? 0) > 0 },
      })
  }
  moves.sort(inOrder)
  left.sort(inOrder)
  const after = seatsAfter(input, moves, left)
  const people = new Set(after.map(({ group }) => group))
  const gap = gapIn(ground.input, rules, cost, bound)
  return {
    moves,
    left,
    conflicts: ground.conflicts,
    dissolved: [...new Set(input.seats.map(({ group }) => group))]
      .filter((group) => !people.has(group))
      .sort(),
    before: figuresOf(input, input.seats, round),
    after: figuresOf(input, after, round),
    moved: [...moves, ...left].filter(({ from }) => from !== null).length,
    proven: gap === null,
    gap,
    evenChances: true,
    mix: null,
    wishes: {
      aim,
      order,
      ...(round > 1 && { round }),
      figures:
        round === 1
          ? wishedFigures(input, after)
          : wishedFigures(
              { ...input, people: input.people.filter(({ key }) => stay.looking.has(key)) },
              moves,
            ),
      // Those of a keeping are no mates: it would have been so without their wish.
      together: rules.together.slice(ground.kept).map((people) => [...people]),
    },
  }
}

function leftReason({ input }: WishGround, one: Wisher | undefined): LeftReason {
  if (!one || one.cannot.length === 0) return { code: 'no-room' }
  const could = openTo({ ...one, cannot: [] }, input).length > 0
  return { code: could && openTo(one, input).length === 0 ? 'cannot' : 'no-room' }
}

/** What seats come to by wishes, over people, those who sat there before among them. */
export function wishedFigures(
  { people, wished = NOTHING_WISHED }: Pick<PlanInput, 'people' | 'wished'>,
  seats: readonly ({ person: string } & ({ group: string } | { to: string }))[],
): WishFigures {
  const lists = new Map(wished.lists.map((one) => [one.person, one.ranks]))
  const at = new Map(seats.map((one) => [one.person, 'to' in one ? one.to : one.group]))
  const wishers = people.map(({ key }) => ({ key, section: null, ranks: lists.get(key) ?? [], cannot: [] }))
  return wishFiguresOf(
    { wishers },
    wishers.map(({ key, ranks }) => {
      const group = at.get(key) ?? null
      const topic = group === null ? undefined : (wished.topics[group] ?? group)
      return { person: key, group, rank: group === null ? null : rankOf({ ranks }, topic) }
    }),
  )
}
