import type { PlanCost } from './cost.ts'
import { arranger } from './draw.ts'
import { seatsOf } from './fill.ts'
import { classOrder } from './order.ts'
import type { Pool } from './prepare.ts'
import type { Found } from './search.ts'
import { seatsAfter } from './seatsAfter.ts'
import { type Solved, solve } from './solve.ts'
import type { PlanConflict, PlanInput, PlanLeft, PlanMove } from './types.ts'
import type { Work } from './work.ts'

/** A change of seats that a draft makes, before it is said why. */
export interface Change {
  person: string
  from: string | null
  to: string
}

/** How a pool was seated. */
export interface SeatedPool {
  pool: Pool
  found: Found
  /** People of each group. */
  seats: string[][]
  /** Who would sit where without a rule to keep apart; null where that is not known from the draw. */
  without: ReadonlyMap<string, string[][]> | null
}

/** Who sits where, before it is said why. */
export interface Drafted {
  solved: Solved
  pools: SeatedPool[]
  /** Changes that were settled before: held seats, and what is set by hand. */
  settled: PlanMove[]
  moves: Change[]
  leftBefore: PlanLeft[]
  left: { person: string; from: string | null }[]
  conflicts: PlanConflict[]
  dissolved: string[]
  cost: PlanCost
  bound: PlanCost
  /** Whether every way that is as good was exactly as likely. */
  exact: boolean
  /** Everybody's seat once it is applied. */
  seats: { person: string; group: string }[]
}

/** Finds the best way to plan and draws who sits where. */
export function draft(input: PlanInput, work: Work, onBetter?: (drafted: Drafted) => void): Drafted {
  const drafted = seatAll(
    input,
    solve(input, work, onBetter && ((solved) => onBetter(seatAll(input, solved)))),
  )
  const { conflicts } = drafted
  if (conflicts.length === 0) return drafted
  // What cannot hold is not minded at all: the plan is the one that is made without it.
  const refused = new Set(conflicts.map(({ keeping }) => keeping))
  const keepings = input.keepings.filter(({ key }) => !refused.has(key))
  const again = draft({ ...input, keepings }, work)
  return { ...again, conflicts: [...conflicts, ...again.conflicts] }
}

/** Seats everybody as a solution says, in the order of the method. */
export function seatAll(input: PlanInput, solved: Solved): Drafted {
  const draw = drawer(input, solved)
  return draw(input.lotNumber)
}

/** Prepares to seat everybody, again and again with other lot numbers. */
export function drawer(input: PlanInput, solved: Solved): (lotNumber: number) => Drafted {
  const { prepared, found } = solved
  const byLot = input.method === 'lot'
  const queued = input.method === 'surname' ? classOrder(input) : null
  const arrangers = prepared.pools.map((pool, p) =>
    queued ? null : arranger(pool, found[p] as Found, byLot, `pool ${p}`),
  )
  return (lotNumber) => {
    let exact = true
    const pools = prepared.pools.map((pool, p): SeatedPool => {
      const own = found[p] as Found
      const seated = arrangers[p]?.(lotNumber)
      if (seated) {
        exact &&= seated.exact
        return { pool, found: own, seats: seated.seats, without: seated.without }
      }
      return { pool, found: own, seats: seatsOf(pool, own.placement, own.sizes, queued ?? []), without: null }
    })
    return whatChanges(input, solved, pools, exact)
  }
}

function whatChanges(input: PlanInput, solved: Solved, pools: SeatedPool[], exact: boolean): Drafted {
  const { prepared, emptied, cost, bound } = solved
  const now = new Map(input.seats.map(({ person, group }) => [person, group]))
  const settled = new Set(prepared.settled.map(({ person }) => person))
  const moves: Change[] = []
  const left: { person: string; from: string | null }[] = []
  const dissolved = [...emptied]
  for (const { pool, seats } of pools) {
    const here = new Set(seats.flat())
    pool.groups.forEach(({ key, fixed, mayEmpty }, g) => {
      if (mayEmpty && seats[g]?.length === 0) dissolved.push(key)
      const stays = new Set(fixed)
      for (const person of seats[g] ?? []) {
        const from = now.get(person) ?? null
        if (!stays.has(person) && !settled.has(person) && from !== key) moves.push({ person, from, to: key })
      }
    })
    for (const person of seekersIn(pool)) {
      if (!here.has(person)) left.push({ person, from: now.get(person) ?? null })
    }
  }
  return {
    solved,
    pools,
    settled: prepared.settled,
    moves,
    leftBefore: prepared.left,
    left,
    conflicts: prepared.conflicts,
    dissolved: dissolved.toSorted(),
    cost,
    bound,
    exact,
    seats: seatsAfter(input, [...prepared.settled, ...moves], [...prepared.left, ...left]),
  }
}

/** Everybody of a pool who is to have a seat in it, once. */
function seekersIn(pool: Pool): Set<string> {
  return new Set([
    ...pool.plain,
    ...pool.units.flatMap(({ people }) => people),
    ...pool.groups.flatMap(({ fixed, loose, mayEmpty }) => (mayEmpty ? [...fixed, ...loose] : loose)),
  ])
}
