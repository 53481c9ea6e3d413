import { drawStream } from '../lot.ts'
import { chain } from './chain.ts'
import { sameCost } from './cost.ts'
import { evaluate, groupsWith, peopleToSeat, type Unplaced } from './placing.ts'
import type { Pool } from './prepare.ts'
import type { Found } from './search.ts'
import { type SizeDraw, sizeDraw } from './sizeDraw.ts'
import { workOf } from './work.ts'

/** Who sits in each group of a pool. Those who are nowhere in it are left. */
export interface Seated {
  seats: string[][]
  /** True when every way that is as good was exactly as likely; false when it was shuffled from one of them. */
  exact: boolean
  /**
   * Who would sit where without a rule to keep apart, by its key: the first draw that this rule alone forbade. A rule
   * that is not in it changed nothing. Null where that is not known.
   */
  without: ReadonlyMap<string, string[][]> | null
}

/** Draws who sits where in a pool, from a lot number. */
export type Arranger = (lotNumber: number) => Seated

/** People drawn in all tries of one plan, at the most, and tries. */
const MOST_DRAWN = 300_000
const MOST_TRIES = 2_000
/** People drawn after which those who keep together are shuffled instead, when no try brought them together. */
const ENOUGH = 40_000

/**
 * Prepares to draw who sits where, among all ways that are as good as the one found.
 *
 * Sizes, people and whoever leaves a group are drawn from streams of their own, without regard to keepings; what
 * breaks one is drawn again, so that what is kept is drawn evenly from what may be (rejection sampling). People who
 * keep together follow the first of them, and are kept with a chance that evens out how many ways there are for it.
 * Where keepings cost something, or nothing drawn keeps them, the answer that was found is shuffled instead (`chain`).
 * @param byLot whether every free seat is as likely as any other; else groups are, among the most even sizes
 * @param name tells the draws of one pool from those of another
 */
export function arranger(pool: Pool, found: Found, byLot: boolean, name: string): Arranger {
  const placed = pool.units.map(({ only }): Unplaced => only ?? undefined)
  const homeless = pool.units.every(({ homes }) => homes.every((home) => home === null))
  const free = evaluate(pool, placed, !byLot, workOf(Number.POSITIVE_INFINITY)).cost
  if (!homeless || !sameCost(free, found.cost)) {
    return (lotNumber) => shuffled(pool, found, byLot, lotNumber, name)
  }
  const sizes = sizeDraw(groupsWith(pool, placed), peopleToSeat(pool, placed), byLot)
  const sitting = pool.groups.reduce((sum, { fixed, loose }) => sum + fixed.length + loose.length, 0)
  const people = sitting + peopleToSeat(pool, placed)
  const needsTries = pool.units.length > 0
  const each = people + sizes.steps / 10 + 1
  const tries = needsTries ? Math.max(20, Math.min(MOST_TRIES, Math.floor(MOST_DRAWN / each))) : 1
  return (lotNumber) => {
    const without = new Map<string, string[][]>()
    let gathered = 0
    for (let n = 0; n < tries && (gathered > 0 || n < 60 || n * each < ENOUGH); n++) {
      const drawn = attempt(pool, placed, sizes, lotNumber, `${name} ${n}`)
      if (drawn === null) continue
      gathered += 1
      if (drawn.broken === null) return { seats: drawn.seats, exact: sizes.exact, without }
      if (drawn.broken !== '' && !without.has(drawn.broken)) without.set(drawn.broken, drawn.seats)
    }
    return shuffled(pool, found, byLot, lotNumber, name)
  }
}

function shuffled(pool: Pool, found: Found, byLot: boolean, lotNumber: number, name: string): Seated {
  const seats = chain(pool, found, byLot, drawStream(lotNumber, `${name} shuffle`))
  return { seats, exact: false, without: null }
}

/** A draw, with the rule to keep apart that it breaks: null for none, empty where it breaks more than one. */
interface Attempt {
  seats: string[][]
  broken: string | null
}

/** One draw; null where those who keep together are to be drawn again. */
function attempt(
  pool: Pool,
  placed: readonly Unplaced[],
  sizes: SizeDraw,
  lotNumber: number,
  name: string,
): Attempt | null {
  const drawn = sizes.draw(drawStream(lotNumber, `${name} sizes`))
  const leaving = drawStream(lotNumber, `${name} leaving`)
  const comers = [...pool.plain]
  const seats = pool.groups.map(({ fixed, loose }, g) => {
    const forced = pool.units.flatMap(({ people }, i) => (placed[i] === g ? people : []))
    const size = drawn[g] ?? 0
    if (fixed.length > 0 && size === 0) {
      comers.push(...fixed, ...loose)
      return []
    }
    const stay = [...fixed, ...forced]
    if (size >= stay.length + loose.length) return [...stay, ...loose]
    const inOrder = leaving.shuffle(loose)
    comers.push(...inOrder.slice(size - stay.length))
    return [...stay, ...inOrder.slice(0, size - stay.length)]
  })
  pool.units.forEach(({ people }, i) => {
    if (placed[i] === undefined) comers.push(...people)
  })
  comers.sort((a, b) => (a < b ? -1 : 1))
  const people = drawStream(lotNumber, `${name} people`).shuffle(comers)
  /** The group of each place in the order that was drawn; one past the last for those who are left. */
  const groupOf: number[] = []
  const starts: number[] = []
  drawn.forEach((size, g) => {
    starts.push(groupOf.length)
    for (let n = seats[g]?.length ?? 0; n < size; n++) groupOf.push(g)
  })
  starts.push(groupOf.length)
  while (groupOf.length < people.length) groupOf.push(pool.groups.length)
  starts.push(groupOf.length)
  if (!gather(pool, placed, people, groupOf, starts, sizes, lotNumber, name)) return null
  const where = new Map(people.map((person, at) => [person, groupOf[at] ?? 0]))
  people.forEach((person, at) => {
    seats[groupOf[at] ?? 0]?.push(person)
  })
  return { seats, broken: brokenBy(pool, placed, where) }
}

/** Brings those who keep together to the first of them. False when that draw is not to be kept. */
function gather(
  pool: Pool,
  placed: readonly Unplaced[],
  people: string[],
  groupOf: readonly number[],
  starts: readonly number[],
  { most }: SizeDraw,
  lotNumber: number,
  name: string,
): boolean {
  const blocks = pool.units.flatMap((unit, i) =>
    placed[i] === undefined && unit.people.length > 1 ? [unit.people] : [],
  )
  if (blocks.length === 0) return true
  const lot = drawStream(lotNumber, `${name} together`)
  const placeOf = new Map(people.map((person, at) => [person, at]))
  const widthOf = (g: number) => (starts[g + 1] ?? 0) - (starts[g] ?? 0)
  const largest = Math.max(
    widthOf(pool.groups.length),
    ...pool.groups.map(({ fixed }, g) => (most[g] ?? 0) - fixed.length),
  )
  const firsts = new Map<number, { blocks: number; people: number }>()
  let chance = 1
  for (const block of blocks) {
    const g = groupOf[placeOf.get(block[0] ?? '') ?? 0] ?? 0
    const known = firsts.get(g) ?? { blocks: 0, people: 0 }
    firsts.set(g, { blocks: known.blocks + 1, people: known.people + block.length })
    for (let j = 1; j < block.length; j++) chance /= Math.max(1, largest - j)
  }
  for (const [g, own] of firsts) {
    const room = widthOf(g) - own.blocks
    for (let j = 0; j < own.people - own.blocks; j++) chance *= Math.max(0, room - j)
  }
  if (lot.next() >= chance) return false
  const locked = new Set(blocks.map((block) => placeOf.get(block[0] ?? '') ?? 0))
  for (const block of blocks) {
    const g = groupOf[placeOf.get(block[0] ?? '') ?? 0] ?? 0
    for (const person of block.slice(1)) {
      const open = openPlaces(starts[g] ?? 0, starts[g + 1] ?? 0, locked)
      const at = open[lot.below(open.length)]
      if (at === undefined) return false
      swap(people, placeOf, placeOf.get(person) ?? 0, at)
      locked.add(at)
    }
  }
  return true
}

function openPlaces(from: number, to: number, locked: ReadonlySet<number>): number[] {
  const open: number[] = []
  for (let at = from; at < to; at++) if (!locked.has(at)) open.push(at)
  return open
}

function swap(people: string[], placeOf: Map<string, number>, a: number, b: number): void {
  const [one, other] = [people[a] as string, people[b] as string]
  people[a] = other
  people[b] = one
  placeOf.set(other, a)
  placeOf.set(one, b)
}

/** The rule to keep apart that is broken: null for none, empty where it is not one alone. */
function brokenBy(
  pool: Pool,
  placed: readonly Unplaced[],
  where: ReadonlyMap<string, number>,
): string | null {
  const at = pool.units.map(({ people }, i) => placed[i] ?? where.get(people[0] ?? '') ?? pool.groups.length)
  let broken: string | null = null
  const breaks = (keepings: readonly string[] | undefined) => {
    const [key, more] = keepings ?? []
    const alone = more === undefined && (broken === null || broken === key) ? (key ?? '') : ''
    broken = alone
  }
  for (const [i, { apart, never, because }] of pool.units.entries()) {
    const own = at[i] as number
    if (own === pool.groups.length) continue
    if (never.has(own)) breaks(because.groups.get(own))
    for (const other of apart) if (other > i && at[other] === own) breaks(because.units.get(other))
  }
  return broken
}
