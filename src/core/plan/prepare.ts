import { grouped } from '../grouped.ts'
import { NO_LIMIT } from '../limit.ts'
import { sortKeepings, type Unit } from './keepings.ts'
import { elsewhere, poolOf, type Standing, standingsOf } from './standings.ts'
import type { PlanConflict, PlanGroup, PlanInput, PlanLeft, PlanMove } from './types.ts'

/** A group within a pool, with those whose place in it is settled before the search. */
export interface PoolGroup {
  key: string
  /** Most people where anybody comes; Infinity without a limit. More may sit there, and stay. */
  limit: number
  floor: number
  /** People who stay there, those set by hand among them. */
  fixed: string[]
  /** People who sit there and may be moved, first seated first. */
  loose: string[]
  /** Whether `fixed` may be moved all together. */
  mayEmpty: boolean
}

/** A unit as it is placed in its pool. */
export interface PoolUnit {
  people: string[]
  /** The one group it may be in, as an index; null for any. */
  only: number | null
  /** Where each of the people sits now and may leave, as an index; null for nowhere. */
  homes: (number | null)[]
  /** Groups in which it cannot be: somebody it keeps apart from stays there. */
  never: ReadonlySet<number>
  /** Other units that it keeps apart from, as indices. */
  apart: readonly number[]
  /** The keys of the rules behind `never`, by group, and `apart`, by unit. */
  because: { groups: ReadonlyMap<number, readonly string[]>; units: ReadonlyMap<number, readonly string[]> }
}

/** Groups and people that do not mix with any others: a section, or the whole course. */
export interface Pool {
  groups: PoolGroup[]
  /** People to seat who are in no unit and have no seat. */
  plain: string[]
  units: PoolUnit[]
  /** Units of which no two may be in one group, by their indices: more than one in each. */
  cliques: number[][]
}

export interface Prepared {
  pools: Pool[]
  settled: PlanMove[]
  left: PlanLeft[]
  conflicts: PlanConflict[]
}

/**
 * Sorts people and groups into pools that can be planned one by one, and rules for people into those that can hold
 * and those that cannot whatever is done.
 * @param emptied groups that are emptied beforehand: nobody stays there and nobody comes
 */
export function prepare(input: PlanInput, emptied: ReadonlySet<string> = new Set()): Prepared {
  const standings = standingsOf(input, emptied)
  const inGroup = membersOf(input, standings.of)
  const capacity = (group: PlanGroup) =>
    emptied.has(group.key)
      ? 0
      : Math.max(0, limitOf(group, inGroup, standings.kept) - (inGroup.get(group.key)?.fixed.length ?? 0))
  const room = new Map(input.groups.map((group) => [group.key, capacity(group)]))
  const largest = new Map<string, number>()
  for (const group of input.groups) {
    const pool = poolOf(input, group.section)
    largest.set(pool, Math.max(largest.get(pool) ?? 0, capacity(group)))
  }
  const pinned = new Set(input.pins.map(({ person }) => person))
  const pools = new Map(input.groups.map(({ key, section }) => [key, poolOf(input, section)]))
  const sections = new Map(input.people.map(({ key, section }) => [key, section]))
  const others = new Map(
    [...new Set(sections.values())].map((section) => [section, elsewhere(input, section)]),
  )
  const elsewhereOf = (person: string) => others.get(sections.get(person) ?? null) ?? []
  const keepings = sortKeepings(input.keepings, standings.of, pinned, {
    poolOf: (group) => pools.get(group) ?? '',
    roomIn: (group) => room.get(group) ?? 0,
    roomInPool: (pool) => largest.get(pool) ?? 0,
    elsewhere: elsewhereOf,
  })
  const minded = new Set(input.keepings.flatMap(({ people }) => people))
  const poolNames = [...new Set(pools.values())]
  const groupsIn = grouped(input.groups, ({ section }) => poolOf(input, section))
  const inUnit = new Set(keepings.units.flatMap(({ people }) => people))
  const seeking = [...standings.of].filter(([person, { pool }]) => pool !== null && !inUnit.has(person))
  const plainIn = grouped(seeking, ([, { pool }]) => pool ?? '')
  const unitsIn = grouped(keepings.units, ({ people }) => standings.of.get(people[0] ?? '')?.pool ?? '')
  const made = poolNames.map((name): Pool => {
    const own = groupsIn.get(name) ?? []
    const index = new Map(own.map(({ key }, i) => [key, i]))
    const units = unitsIn.get(name) ?? []
    const place = new Map(units.map((unit, i) => [unit, i]))
    const unitOf = new Map(units.flatMap(({ people }, i) => people.map((person) => [person, i] as const)))
    const indexOf = (key: string | null | undefined) => (key == null ? null : (index.get(key) ?? null))
    return {
      groups: own.map((group) => {
        const { fixed = [], loose = [] } = inGroup.get(group.key) ?? {}
        const floor = input.floorsFirst ? group.floor : 1
        const low = fixed.length > 0 && fixed.length + loose.length < floor
        // Whom some groups are not for is seated alone: their group is emptied beforehand, or not at all.
        const free = (person: string) =>
          standings.of.get(person)?.follows === true &&
          !minded.has(person) &&
          elsewhereOf(person).length === 0
        return {
          key: group.key,
          limit: emptied.has(group.key) ? 0 : limitOf(group, inGroup, standings.kept),
          floor,
          fixed,
          loose,
          mayEmpty: input.mayDissolve && low && fixed.every(free),
        }
      }),
      plain: (plainIn.get(name) ?? []).flatMap(([person, { home }]) => (home === null ? [person] : [])),
      units: units.map(({ people, only }, i) => {
        const kept = people.flatMap((person) => [...(keepings.apart.get(person) ?? [])])
        const groups = new Map<number, string[]>()
        const inWay = new Map<number, string[]>()
        for (const group of people.flatMap(elsewhereOf)) add(groups, indexOf(group), [])
        for (const [other, keys] of kept) {
          for (const group of standings.of.get(other)?.stays ?? []) add(groups, indexOf(group), keys)
          const unit = unitOf.get(other)
          if (unit !== i) add(inWay, unit, keys)
        }
        return {
          people,
          only: indexOf(only),
          homes: people.map((person) => indexOf(standings.of.get(person)?.home)),
          never: new Set(groups.keys()),
          apart: [...inWay.keys()],
          because: { groups, units: inWay },
        }
      }),
      cliques: keepings.cliques
        .map((clique) => clique.flatMap((unit) => place.get(keepings.units[unit] as Unit) ?? []))
        .filter((clique) => clique.length > 1),
    }
  })
  return { pools: made, settled: standings.settled, left: standings.left, conflicts: keepings.conflicts }
}

function add(keysBy: Map<number, string[]>, at: number | null | undefined, keys: readonly string[]): void {
  if (at != null) keysBy.set(at, [...new Set([...(keysBy.get(at) ?? []), ...keys])])
}

interface Members {
  fixed: string[]
  loose: string[]
}

/** Who is in each group: for certain, or able to leave; first seated first. */
function membersOf(input: PlanInput, standings: ReadonlyMap<string, Standing>): Map<string, Members> {
  const members = new Map(input.groups.map(({ key }): [string, Members] => [key, { fixed: [], loose: [] }]))
  const order = new Map(input.seats.map(({ person }, i) => [person, i]))
  const last = input.seats.length
  const people = [...standings].sort(([a], [b]) => (order.get(a) ?? last) - (order.get(b) ?? last))
  for (const [person, { stays, home }] of people) {
    for (const group of stays) members.get(group)?.fixed.push(person)
    if (home !== null) members.get(home)?.loose.push(person)
  }
  return members
}

/** The most people in a group where anybody comes, those who stay there counted. */
function limitOf(
  { key, seats, blocked, closed }: PlanGroup,
  members: ReadonlyMap<string, Members>,
  kept: ReadonlyMap<string, number>,
): number {
  const { fixed } = members.get(key) ?? { fixed: [] }
  if (closed) return fixed.length
  if (seats === NO_LIMIT) return Number.POSITIVE_INFINITY
  return Math.max(0, seats - blocked - (kept.get(key) ?? 0), fixed.length)
}
