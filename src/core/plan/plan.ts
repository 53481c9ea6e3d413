import { drawLots } from '../lot.ts'
import { reasonFor } from './explain.ts'
import { figuresOf } from './figures.ts'
import { type Queued, queue, seatsOf } from './fill.ts'
import { type Pool, type Prepared, prepare } from './prepare.ts'
import { better, type Found, searchPool } from './search.ts'
import type { SizeCost } from './sizes.ts'
import { standingsOf } from './standings.ts'
import type { Plan, PlanInput, PlanLeft, PlanMove } from './types.ts'

/** A way to plan all pools, with what it costs in all. */
interface Draft {
  prepared: Prepared
  found: Found[]
  cost: SizeCost
  emptied: ReadonlySet<string>
}

/** Most groups whose emptying is tried in every combination; beyond, only all and none are. */
const MOST_COMBINED = 5

/**
 * The best plan for those who have no seat, or for more people, as far as seats are released: fewest left, then fewest
 * groups under their floor, then fewest seated people moved, then most even sizes (by lot: sizes as drawn).
 * Pure: the same input and lot number give the same plan.
 * @param onProgress called with the share that is done, 0 to 1
 * @throws RangeError when there are too many people and groups to count with
 */
export function makePlan(input: PlanInput, onProgress?: (share: number) => void): Plan {
  // Nothing can beat a plan in which nobody minds with whom they sit.
  const free = draftFor({ ...input, keepings: [] }, new Set())
  if (input.keepings.length === 0) return finish(input, free, true)
  const bound = free.cost
  const { choices, all } = groupsToEmpty(input)
  let best: Draft | null = null
  for (const [i, emptied] of choices.entries()) {
    const draft = draftFor(input, emptied, (share) => onProgress?.((i + share) / choices.length))
    if (best === null || better(draft.cost, best.cost)) best = draft
    if (!better(bound, best.cost)) break
  }
  const chosen = best ?? draftFor(input, new Set())
  const searched = all && chosen.found.every(({ proven }) => proven)
  return finish(input, chosen, searched || !better(bound, chosen.cost))
}

/**
 * Groups with people whom a keeping names cannot be emptied in passing, since those people then have to be placed.
 * Each way to empty some of them is a draft of its own.
 */
function groupsToEmpty(input: PlanInput): { choices: ReadonlySet<string>[]; all: boolean } {
  const nobody = new Set<string>()
  if (!input.mayDissolve || !input.floorsFirst) return { choices: [nobody], all: true }
  const named = new Set(input.keepings.flatMap(({ people }) => people))
  const { of } = standingsOf(input, nobody)
  const inGroup = new Map<string, string[]>()
  for (const { person, group } of input.seats) inGroup.set(group, [...(inGroup.get(group) ?? []), person])
  const candidates = input.groups.filter(({ key, floor }) => {
    const own = inGroup.get(key) ?? []
    const known = own.filter((person) => of.has(person))
    if (known.length === 0 || known.length >= floor) return false
    return known.some((person) => named.has(person)) && known.every((person) => of.get(person)?.follows)
  })
  const keys = candidates.map(({ key }) => key)
  if (keys.length > MOST_COMBINED) return { choices: [nobody, new Set(keys)], all: false }
  const choices = Array.from(
    { length: 2 ** keys.length },
    (_, bits) => new Set(keys.filter((_, i) => bits & (2 ** i))),
  )
  return { choices, all: true }
}

function draftFor(
  input: PlanInput,
  emptied: ReadonlySet<string>,
  onProgress?: (share: number) => void,
): Draft {
  const prepared = prepare(input, emptied)
  const names = new Map(input.people.map(({ key, name }) => [key, name]))
  const found = prepared.pools.map((pool, i) => {
    const queued = queuedIn(pool, names, input)
    const wished = (sizes: readonly number[]) => wishesOf(pool, sizes, queued)
    const lot = drawLots(input.lotNumber + i)
    const result = searchPool(pool, {
      even: input.method !== 'lot',
      lot,
      wished,
      onProgress: (share) => onProgress?.((i + share) / prepared.pools.length),
    })
    onProgress?.((i + 1) / prepared.pools.length)
    return result
  })
  const cost = found.reduce(
    (sum, { cost: own }) => ({
      left: sum.left + own.left,
      under: sum.under + own.under,
      moved: sum.moved + own.moved,
      uneven: sum.uneven + own.uneven,
    }),
    { left: 0, under: 0, moved: movedByEmptying(input, emptied), uneven: 0 },
  )
  return { prepared, found, cost, emptied }
}

function movedByEmptying({ seats }: PlanInput, emptied: ReadonlySet<string>): number {
  return seats.filter(({ group }) => emptied.has(group)).length
}

/** Everybody of a pool who may have to be seated, in the order of the method. */
function queuedIn(
  pool: Pool,
  names: ReadonlyMap<string, string>,
  { method, lotNumber }: PlanInput,
): string[] {
  const keys = [
    ...pool.plain,
    ...pool.units.flatMap(({ people }) => people),
    ...pool.groups.flatMap(({ fixed, loose, mayEmpty }) => (mayEmpty ? [...fixed, ...loose] : loose)),
  ]
  const people = [...new Set(keys)].map((key): Queued => ({ key, name: names.get(key) ?? '' }))
  return queue(people, method, lotNumber)
}

/** The group that the first person of each unit would get, were there no keepings. */
function wishesOf(pool: Pool, sizes: readonly number[], queued: readonly string[]): (number | null)[] {
  const free = pool.units.flatMap(({ people, homes }) => people.filter((_, i) => homes[i] === null))
  const loosePool: Pool = { ...pool, plain: [...pool.plain, ...free], units: [] }
  const at = new Map<string, number>()
  seatsOf(loosePool, [], sizes, queued).forEach((people, g) => {
    for (const person of people) at.set(person, g)
  })
  return pool.units.map(({ people }) => at.get(people[0] ?? '') ?? null)
}

/** Names the people of a draft, and says why each sits where they do. */
function finish(input: PlanInput, { prepared, found, emptied }: Draft, proven: boolean): Plan {
  const names = new Map(input.people.map(({ key, name }) => [key, name]))
  const now = new Map(input.seats.map(({ person, group }) => [person, group]))
  const settled = new Map(prepared.settled.map((move) => [move.person, move]))
  const moves: PlanMove[] = [...prepared.settled]
  const left: PlanLeft[] = [...prepared.left]
  const conflicts = [...prepared.conflicts]
  const dissolved = [...emptied]
  // What cannot hold is no reason for anything.
  const refused = new Set(conflicts.map(({ keeping }) => keeping))
  const keepings = input.keepings.filter(({ key }) => !refused.has(key))
  prepared.pools.forEach((pool, p) => {
    const { placement, sizes, cost: own, leastLeft } = found[p] as Found
    const seated = seatsOf(pool, placement, sizes, queuedIn(pool, names, input))
    const here = new Set<string>()
    pool.groups.forEach(({ key, fixed, mayEmpty }, g) => {
      if (mayEmpty && sizes[g] === 0) dissolved.push(key)
      for (const person of seated[g] ?? []) {
        here.add(person)
        const from = now.get(person) ?? null
        if (fixed.includes(person) || settled.has(person) || from === key) continue
        const around = { input, keepings, pool, placement, sizes, from, dissolved: emptied }
        const reason = reasonFor(person, g, around)
        moves.push({ person, from, to: key, reason })
      }
    })
    const forKeepings = own.left > leastLeft
    const seeking = [
      ...pool.plain,
      ...pool.units.flatMap(({ people }) => people),
      ...pool.groups.flatMap(({ fixed, loose, mayEmpty }, g) =>
        mayEmpty && sizes[g] === 0 ? [...fixed, ...loose] : loose,
      ),
    ]
    const inUnits = new Set(pool.units.flatMap(({ people }) => people))
    for (const person of new Set(seeking)) {
      if (here.has(person)) continue
      const from = now.get(person) ?? null
      const broken = keepings.filter(({ people }) => people.includes(person)).map(({ key }) => key)
      const because = forKeepings && inUnits.has(person)
      left.push({
        person,
        from,
        reason: because ? { code: 'keepings', keepings: broken } : { code: 'no-room' },
      })
      if (!because) continue
      for (const keeping of broken) {
        const known = conflicts.find((conflict) => conflict.keeping === keeping)
        if (!known) conflicts.push({ keeping, code: 'no-room', people: [person] })
        else if (known.code === 'no-room') known.people = [...known.people, person]
      }
    }
  })
  const order = new Map(input.people.map(({ key }, i) => [key, i]))
  const inOrder = (a: { person: string }, b: { person: string }) =>
    (order.get(a.person) ?? 0) - (order.get(b.person) ?? 0)
  const sorted = moves.sort(inOrder)
  const changed = [...sorted, ...left].filter(({ from }) => from !== null)
  return {
    moves: sorted,
    left: left.sort(inOrder),
    conflicts,
    dissolved: dissolved.toSorted(),
    before: figuresOf(input, input.seats),
    after: figuresOf(input, seatsAfter(input, sorted, left)),
    moved: changed.length,
    proven,
  }
}

/** Who sits where once a plan is applied. */
export function seatsAfter(
  { seats }: Pick<PlanInput, 'seats'>,
  moves: readonly Pick<PlanMove, 'person' | 'from' | 'to'>[],
  left: readonly Pick<PlanLeft, 'person' | 'from'>[],
): { person: string; group: string }[] {
  const gone = new Set(
    [...moves, ...left].flatMap(({ person, from }) => (from === null ? [] : [`${person} ${from}`])),
  )
  const stay = seats.filter(({ person, group }) => !gone.has(`${person} ${group}`))
  return [...stay, ...moves.map(({ person, to }) => ({ person, group: to }))]
}
