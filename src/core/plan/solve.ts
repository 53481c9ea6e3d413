import { boundOf } from './bounds.ts'
import { better, type PlanCost, sumOf } from './cost.ts'
import { seatsOf } from './fill.ts'
import { classOrder } from './order.ts'
import { type Pool, type Prepared, prepare } from './prepare.ts'
import { type Found, searchPool } from './search.ts'
import { standingsOf } from './standings.ts'
import type { PlanInput } from './types.ts'
import { giveBack, isSpent, shareOf, type Work, workOf } from './work.ts'

/** The best way found to plan all pools: sizes and who of those whom keepings name is where. */
export interface Solved {
  prepared: Prepared
  found: Found[]
  cost: PlanCost
  /** No plan costs less. */
  bound: PlanCost
  /** Groups that are emptied beforehand, because people whom a keeping names have to be placed. */
  emptied: ReadonlySet<string>
}

/** Most groups of a pool whose emptying is tried in every combination; beyond, only all, none and each alone are. */
const MOST_COMBINED = 8

/** Steps that the first answer of each pool may take. */
const FIRST = 3_000_000

/** A way to plan one pool. */
interface Draft {
  found: Found
  cost: PlanCost
  bound: PlanCost
  emptied: readonly string[]
}

/**
 * Finds the best plan: fewest left, then fewest groups under their floor, then fewest seated people moved, then most
 * even sizes. Pools do not touch each other, so each is solved alone: first all of them quickly, then those that are
 * not proven with the work that is left.
 * @param onBetter called with the first answer and each better one
 * @throws RangeError when there are too many people and groups to count with
 */
export function solve(input: PlanInput, work: Work, onBetter?: (solved: Solved) => void): Solved {
  const even = input.method !== 'lot'
  const prepared = prepare(input)
  const choices = emptyingIn(input, prepared.pools)
  const wishedIn = wishes(input)
  const draftOf = (
    p: number,
    emptied: readonly string[],
    own: Work,
    told?: (draft: Draft) => void,
  ): Draft => {
    const pool = (emptied.length > 0 ? prepare(input, new Set(emptied)) : prepared).pools[p] as Pool
    const moved = input.seats.filter(({ group }) => emptied.includes(group)).length
    const more = (cost: PlanCost): PlanCost => ({ ...cost, moved: cost.moved + moved })
    const draft = (found: Found): Draft => ({
      found,
      cost: more(found.cost),
      bound: more(found.bound),
      emptied,
    })
    const wished = wishedIn && ((sizes: readonly number[]) => wishedIn(pool, sizes))
    return draft(
      searchPool(pool, {
        even,
        work: own,
        ...(wished && { wished }),
        onBetter: (found) => told?.(draft(found)),
      }),
    )
  }
  const boundWith = (p: number, emptied: readonly string[], own: Work): PlanCost => {
    const { cost } = boundOf(prepare(input, new Set(emptied)).pools[p] as Pool, even, own)
    const moved = input.seats.filter(({ group }) => emptied.includes(group)).length
    return { ...cost, moved: cost.moved + moved }
  }
  const drafts = prepared.pools.map((_, p) => {
    const own = workOf(Math.min(FIRST, work.most))
    const draft = draftOf(p, [], own)
    giveBack(work, own)
    return draft
  })
  const bounds = drafts.map(({ bound, cost }, p) => {
    const { sets } = choices[p] as Choices
    if (sets.length === 1) return better(cost, bound) ? cost : bound
    // Groups that could be emptied otherwise may make it better than any answer without that.
    const own = workOf(Math.min(FIRST, work.most))
    const least = boundOf(emptiable(prepared.pools[p] as Pool, new Set(sets.flat())), even, own).cost
    giveBack(work, own)
    return better(least, cost) ? least : cost
  })
  const together = (): Solved => {
    const emptied = new Set(drafts.flatMap((draft) => draft.emptied))
    return {
      prepared: emptied.size > 0 ? prepare(input, emptied) : prepared,
      found: drafts.map(({ found }) => found),
      cost: sumOf(drafts.map(({ cost }) => cost)),
      bound: sumOf(bounds),
      emptied,
    }
  }
  const isDone = (p: number) => !better(bounds[p] as PlanCost, (drafts[p] as Draft).cost)
  if (drafts.every((_, p) => isDone(p))) return together()
  onBetter?.(together())
  const tell = (p: number) => (draft: Draft) => {
    if (!better(draft.cost, (drafts[p] as Draft).cost)) return
    drafts[p] = draft
    onBetter?.(together())
  }
  drafts.forEach((_, p) => {
    if (isDone(p)) return
    const open = drafts.filter((_, other) => other >= p && !isDone(other)).length
    const share = shareOf(work, 1 / open)
    const { sets, all } = choices[p] as Choices
    const leasts: PlanCost[] = []
    for (const [i, emptied] of sets.entries()) {
      const own = shareOf(share, i === 0 && sets.length > 1 ? 0.4 : 1 / (sets.length - i))
      const least = i === 0 ? null : boundWith(p, emptied, own)
      if (least && !better(least, (drafts[p] as Draft).cost)) leasts.push(least)
      else {
        const draft = draftOf(p, emptied, own, tell(p))
        tell(p)(draft)
        leasts.push(draft.bound)
      }
      giveBack(share, own)
      if (isSpent(share) || isDone(p)) break
    }
    giveBack(work, share)
    const least = leasts.reduce((low, own) => (better(own, low) ? own : low))
    const { cost } = drafts[p] as Draft
    const tried = all && leasts.length === sets.length
    if (tried && better(bounds[p] as PlanCost, least)) bounds[p] = better(cost, least) ? cost : least
    if (!better(bounds[p] as PlanCost, cost)) bounds[p] = cost
  })
  return together()
}

/** A pool in which groups may be emptied in passing, whoever sits there: none can do worse than in truth. */
function emptiable(pool: Pool, keys: ReadonlySet<string>): Pool {
  return {
    ...pool,
    groups: pool.groups.map((group) => (keys.has(group.key) ? { ...group, mayEmpty: true } : group)),
  }
}

/** Which groups of a pool are emptied beforehand, one set for each try; and whether that is every set there is. */
interface Choices {
  sets: string[][]
  all: boolean
}

/**
 * For each pool the ways to empty groups beforehand. Groups with people whom a keeping names cannot be emptied in
 * passing, since those people then have to be placed.
 */
function emptyingIn(input: PlanInput, pools: readonly Pool[]): Choices[] {
  if (!input.mayDissolve || !input.floorsFirst || input.keepings.length === 0)
    return pools.map(() => ({ sets: [[]], all: true }))
  const named = new Set(input.keepings.flatMap(({ people }) => people))
  const { of } = standingsOf(input, new Set())
  const inGroup = new Map<string, string[]>()
  for (const { person, group } of input.seats) inGroup.set(group, [...(inGroup.get(group) ?? []), person])
  const mayGo = new Set(
    input.groups
      .filter(({ key, floor }) => {
        const known = (inGroup.get(key) ?? []).filter((person) => of.has(person))
        if (known.length === 0 || known.length >= floor) return false
        // Those whose seats are released may go anywhere as it is.
        if (known.every((person) => of.get(person)?.stays.length === 0)) return false
        return known.some((person) => named.has(person)) && known.every((person) => of.get(person)?.follows)
      })
      .map(({ key }) => key),
  )
  return pools.map(({ groups }) => {
    const keys = groups.flatMap(({ key }) => (mayGo.has(key) ? [key] : []))
    if (keys.length > MOST_COMBINED) return { sets: [[], ...keys.map((key) => [key]), keys], all: false }
    const sets = Array.from({ length: 2 ** keys.length }, (_, bits) => keys.filter((_, i) => bits & (2 ** i)))
    return { sets: sets.sort((a, b) => a.length - b.length), all: true }
  })
}

/** By surname, the group that each unit would get by its first person, were there no keepings. */
function wishes(input: PlanInput): ((pool: Pool, sizes: readonly number[]) => (number | null)[]) | null {
  if (input.method !== 'surname') return null
  const order = classOrder(input)
  return (pool, sizes) => {
    const free = pool.units.flatMap(({ people, homes }) => people.filter((_, i) => homes[i] === null))
    const loose: Pool = { ...pool, plain: [...pool.plain, ...free], units: [] }
    const at = new Map<string, number>()
    seatsOf(loose, [], sizes, order).forEach((people, g) => {
      for (const person of people) at.set(person, g)
    })
    return pool.units.map(({ people }) => at.get(people[0] ?? '') ?? null)
  }
}
