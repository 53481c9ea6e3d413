import type { Standing } from './standings.ts'
import type { Keeping, PlanConflict } from './types.ts'

/** People who are placed as one, because they keep together, or alone, because they keep apart from others. */
export interface Unit {
  people: string[]
  /** The one group it may be in, because somebody it keeps together with stays there. */
  only: string | null
}

/** What must be known of the groups. */
export interface Places {
  poolOf: (group: string) => string
  /** The most people that a group could take beside those who stay. */
  roomIn: (group: string) => number
  /** The most that any one group of a pool could take. */
  roomInPool: (pool: string) => number
  /** Groups of somebody's pool that are another section's. */
  elsewhere: (person: string) => readonly string[]
}

export interface SortedKeepings {
  units: Unit[]
  /** People whom each person must not sit with, in both directions, with the keys of the rules that say so. */
  apart: Map<string, Map<string, string[]>>
  /** Units that all keep apart from each other, as one rule names them: by their indices. */
  cliques: number[][]
  /** Keepings that cannot hold, whatever is done. They are not minded any further. */
  conflicts: PlanConflict[]
}

/**
 * Sorts rules for people into units to be placed and those that contradict each other or the seats that stay.
 * Where two contradict, keeping apart is the one that holds.
 */
export function sortKeepings(
  keepings: readonly Keeping[],
  standings: ReadonlyMap<string, Standing>,
  pinned: ReadonlySet<string>,
  places: Places,
): SortedKeepings {
  const conflicts: PlanConflict[] = []
  const refuse = ({ key, people }: Keeping, code: PlanConflict['code']) =>
    conflicts.push({ keeping: key, code, people })
  const known = keepings.map((keeping) => ({
    ...keeping,
    people: [...new Set(keeping.people)].filter((person) => standings.has(person)),
  }))
  const apart = new Map<string, Map<string, string[]>>()
  const keepApart = (a: string, b: string, key: string) => {
    const own = apart.get(a) ?? new Map<string, string[]>()
    apart.set(a, own.set(b, [...(own.get(b) ?? []), key]))
  }
  for (const keeping of known.filter(({ kind }) => kind === 'apart')) {
    const clash = pairsOf(keeping.people).some(([a, b]) => sitTogether(standings.get(a), standings.get(b)))
    // What cannot hold is not minded in part either.
    if (clash) {
      refuse(keeping, keeping.people.some((person) => pinned.has(person)) ? 'pinned' : 'seated-together')
      continue
    }
    for (const [a, b] of pairsOf(keeping.people)) {
      keepApart(a, b, keeping.key)
      keepApart(b, a, keeping.key)
    }
  }
  const unitOf = new Map<string, Unit>()
  for (const keeping of known.filter(({ kind }) => kind === 'together')) {
    const fault = join(keeping, standings, apart, unitOf, places)
    if (fault)
      refuse(
        keeping,
        fault === 'seated-apart' && keeping.people.some((p) => pinned.has(p)) ? 'pinned' : fault,
      )
  }
  for (const [person, others] of apart) {
    if (others.size > 0 && seeks(standings.get(person)) && !unitOf.has(person)) {
      unitOf.set(person, { people: [person], only: null })
    }
  }
  // Whom not every group of the pool is for is placed alone, too.
  for (const [person, standing] of standings) {
    if (seeks(standing) && !unitOf.has(person) && places.elsewhere(person).length > 0)
      unitOf.set(person, { people: [person], only: null })
  }
  const units = [...new Set(unitOf.values())]
  const indices = new Map(units.map((unit, i) => [unit, i]))
  const refused = new Set(conflicts.map(({ keeping }) => keeping))
  const cliques = known
    .filter(({ kind, key }) => kind === 'apart' && !refused.has(key))
    .map(({ people }) => [
      ...new Set(people.flatMap((person) => indices.get(unitOf.get(person) as Unit) ?? [])),
    ])
  return { units, apart, cliques, conflicts }
}

/** Joins the people of a keeping into one unit, or says why that cannot be. */
function join(
  { people }: Keeping,
  standings: ReadonlyMap<string, Standing>,
  apart: ReadonlyMap<string, ReadonlyMap<string, string[]>>,
  unitOf: Map<string, Unit>,
  places: Places,
): PlanConflict['code'] | null {
  const joined = [...new Set(people.flatMap((person) => unitOf.get(person)?.people ?? [person]))]
  const seeking = joined.filter((person) => seeks(standings.get(person)))
  const staying = new Set(joined.flatMap((person) => standings.get(person)?.stays ?? []))
  for (const person of joined) {
    const only = unitOf.get(person)?.only
    if (only) staying.add(only)
  }
  if (pairsOf(joined).some(([a, b]) => apart.get(a)?.has(b))) return 'both'
  if (staying.size > 1) return 'seated-apart'
  const nowhere = joined.some(
    (person) => !seeks(standings.get(person)) && !standings.get(person)?.stays.length,
  )
  if (nowhere) return seeking.length + staying.size > 0 ? 'sections' : null
  if (seeking.length === 0) return null
  const [only = null] = staying
  const against = seeking.flatMap((person) => [...(apart.get(person)?.keys() ?? [])])
  if (only !== null && against.some((person) => standings.get(person)?.stays.includes(only))) return 'both'
  const pools = new Set(seeking.map((person) => standings.get(person)?.pool))
  if (only !== null) pools.add(places.poolOf(only))
  if (pools.size > 1) return 'sections'
  if (only !== null && seeking.some((person) => places.elsewhere(person).includes(only))) return 'sections'
  const room = only === null ? places.roomInPool([...pools][0] ?? '') : places.roomIn(only)
  if (seeking.length > room) return 'too-large'
  const unit: Unit = { people: seeking, only }
  for (const person of seeking) unitOf.set(person, unit)
  return null
}

/** Whether a seat is looked for. */
function seeks(standing: Standing | undefined): boolean {
  return standing !== undefined && standing.pool !== null
}

function sitTogether(a: Standing | undefined, b: Standing | undefined): boolean {
  return a !== undefined && b !== undefined && a.stays.some((group) => b.stays.includes(group))
}

/** Every two of a list, in order. */
function pairsOf<T>(list: readonly T[]): [T, T][] {
  return list.flatMap((a, i) => list.slice(i + 1).map((b): [T, T] => [a, b]))
}
