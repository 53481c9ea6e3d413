import type { Lot } from '../lot.ts'
import { drawnQueue, seatsOf } from './fill.ts'
import type { Pool } from './prepare.ts'
import type { Found } from './search.ts'

/** People who go together through a shuffle: a unit, or one alone. */
interface Walker {
  people: readonly string[]
  homes: readonly (number | null)[]
  /** The unit's index, or null for somebody whom no keeping names. */
  unit: number | null
}

/**
 * Shuffles an answer by many small changes, none of which makes it better or worse or breaks a keeping: one goes to
 * another group, two swap, people who keep together swap with as many. Changes are taken so that in the long run each
 * answer that can be reached is as likely as any other (Metropolis and others, "Equation of state calculations by fast
 * computing machines", Journal of Chemical Physics 21, 1953; the ratios by Hastings, Biometrika 57, 1970).
 */
export function chain(pool: Pool, found: Found, byLot: boolean, lot: Lot): string[][] {
  const walkers = walkersOf(pool, found)
  const nobody = pool.groups.length
  const everybody = walkers.flatMap(({ people }) => people)
  const first = seatsOf(pool, found.placement, found.sizes, drawnQueue(everybody, lot))
  const groupOf = new Map(first.flatMap((people, g) => people.map((person) => [person, g] as const)))
  const at = walkers.map(({ people }) => groupOf.get(people[0] ?? '') ?? nobody)
  const walking = new Set(everybody)
  const stay = first.map((people) => people.filter((person) => !walking.has(person)))
  const sizes = first.map((people) => people.length)
  const emptied = pool.groups.map(({ fixed }, g) => fixed.length > 0 && sizes[g] === 0)
  const comersAll = walkers.reduce((sum, walker, w) => sum + comersOf(walker, at[w] ?? nobody), 0)
  const seatsIn = pool.groups.map(({ limit, fixed, loose }) =>
    limit === Number.POSITIVE_INFINITY ? fixed.length + loose.length + comersAll : limit,
  )
  const unitAt = new Map(walkers.flatMap(({ unit }, w) => (unit === null ? [] : [[unit, w] as const])))
  /** Whether a walker may be in a group, once those of `gone` have left it. */
  const allowed = (w: number, g: number, gone: ReadonlySet<number>): boolean => {
    if (g === nobody) return true
    const { unit } = walkers[w] as Walker
    if (emptied[g]) return false
    if (unit === null) return true
    const { only, never, apart } = pool.units[unit] as Pool['units'][number]
    if ((only !== null && only !== g) || never.has(g)) return false
    return apart.every((other) => {
      const there = unitAt.get(other)
      return there === undefined || gone.has(there) || at[there] !== g
    })
  }
  const cost = (g: number, size: number) => {
    const floor = pool.groups[g]?.floor ?? 1
    return { under: size > 0 && size < floor ? 1 : 0, uneven: byLot ? 0 : size * size }
  }
  const full = (g: number, comes: boolean, size: number) =>
    g !== nobody && comes && size > (pool.groups[g]?.limit ?? 0)

  const move = (w: number, to: number): void => {
    const walker = walkers[w] as Walker
    const from = at[w] ?? nobody
    if (from === to || from === nobody || movedAt(walker, from) !== movedAt(walker, to)) return
    const n = walker.people.length
    const [a, b] = [(sizes[from] ?? 0) - n, (sizes[to] ?? 0) + n]
    const [before, after] = [
      [cost(from, sizes[from] ?? 0), cost(to, sizes[to] ?? 0)],
      [cost(from, a), cost(to, b)],
    ]
    const total = (own: { under: number; uneven: number }[], part: 'under' | 'uneven') =>
      own.reduce((sum, one) => sum + one[part], 0)
    if (total(before, 'under') !== total(after, 'under')) return
    if (total(before, 'uneven') !== total(after, 'uneven')) return
    if (full(to, comersOf(walker, to) > 0, b) || !allowed(w, to, NONE)) return
    if (byLot) {
      let chance = 1
      for (let j = 0; j < n; j++) {
        chance *= Math.max(0, (seatsIn[to] ?? 0) - (sizes[to] ?? 0) - j)
        chance /= Math.max(1, (seatsIn[from] ?? 0) - a - j)
      }
      if (lot.next() >= chance) return
    }
    at[w] = to
    sizes[from] = a
    sizes[to] = b
  }
  const exchange = (one: readonly number[], others: readonly number[], a: number, b: number): void => {
    const all = [...one, ...others]
    const moved = (turned: boolean) =>
      one.reduce((sum, w) => sum + movedAt(walkers[w] as Walker, turned ? b : a), 0) +
      others.reduce((sum, w) => sum + movedAt(walkers[w] as Walker, turned ? a : b), 0)
    if (moved(false) !== moved(true)) return
    const comes = (ws: readonly number[], g: number) => ws.some((w) => comersOf(walkers[w] as Walker, g) > 0)
    if (full(b, comes(one, b), sizes[b] ?? 0) || full(a, comes(others, a), sizes[a] ?? 0)) return
    const gone = new Set(all)
    if (!one.every((w) => allowed(w, b, gone)) || !others.every((w) => allowed(w, a, gone))) return
    // Among those who come together nobody may be kept apart from another.
    if (!mixes(pool, walkers, one) || !mixes(pool, walkers, others)) return
    for (const w of one) at[w] = b
    for (const w of others) at[w] = a
  }
  const steps = Math.min(150_000, 4_000 + 60 * walkers.length)
  const groups = pool.groups.length
  for (let step = 0; step < steps && walkers.length > 0; step++) {
    const w = lot.below(walkers.length)
    const from = at[w] ?? nobody
    const kind = lot.below(3)
    if (kind === 0) {
      move(w, lot.below(groups))
      continue
    }
    const size = walkers[w]?.people.length ?? 1
    const other = lot.below(walkers.length)
    if (kind === 1 || size === 1) {
      const to = at[other] ?? nobody
      if (to !== from && walkers[other]?.people.length === size) exchange([w], [other], from, to)
      continue
    }
    // People who keep together swap with as many who do not.
    const to = lot.below(groups + 1)
    if (to === from) continue
    const single = (g: number) =>
      walkers.flatMap(({ people }, i) => (people.length === 1 && (at[i] ?? nobody) === g ? [i] : []))
    const here = single(to)
    if (here.length < size) continue
    if (lot.next() >= choose(here.length, size) / choose(single(from).length + size, size)) continue
    exchange([w], lot.shuffle(here).slice(0, size), from, to)
  }
  const seats = stay.map((people) => [...people])
  walkers.forEach(({ people }, w) => {
    seats[at[w] ?? nobody]?.push(...people)
  })
  return seats
}

const NONE: ReadonlySet<number> = new Set()

/** Everybody who may be anywhere else than they are: units, those without a seat, and those whose seat may change. */
function walkersOf(pool: Pool, { sizes }: Found): Walker[] {
  const inUnits = new Set(pool.units.flatMap(({ people }) => people))
  const alone = (person: string, home: number | null): Walker => ({
    people: [person],
    homes: [home],
    unit: null,
  })
  return [
    ...pool.units.map(({ people, homes }, unit) => ({ people, homes, unit })),
    ...pool.plain.map((person) => alone(person, null)),
    ...pool.groups.flatMap(({ fixed, loose, mayEmpty }, g) => [
      ...(mayEmpty && sizes[g] === 0 ? fixed.map((person) => alone(person, g)) : []),
      ...loose.filter((person) => !inUnits.has(person)).map((person) => alone(person, g)),
    ]),
  ]
}

/** How many of a walker's people lose a seat by being in a group. */
function movedAt({ homes }: Walker, g: number): number {
  return homes.filter((home) => home !== null && home !== g).length
}

/** How many of a walker's people come anew to a group. */
function comersOf({ homes }: Walker, g: number): number {
  return homes.filter((home) => home !== g).length
}

function mixes(pool: Pool, walkers: readonly Walker[], ws: readonly number[]): boolean {
  const units = ws.flatMap((w) => walkers[w]?.unit ?? [])
  return units.every((unit) => !pool.units[unit]?.apart.some((other) => units.includes(other)))
}

function choose(n: number, k: number): number {
  let ways = 1
  for (let i = 0; i < k; i++) ways = (ways * (n - i)) / (i + 1)
  return ways
}
