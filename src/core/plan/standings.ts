import { isElsewhere, misfitsOf } from '../fits.ts'
import type { PlanGroup, PlanInput, PlanLeft, PlanMove } from './types.ts'

/** Where somebody stands before the search. */
export interface Standing {
  /** The groups in which they are for certain: more than one only where a student may hold several seats. */
  stays: readonly string[]
  /** The group in which they sit and which they may leave. */
  home: string | null
  /** The pool in which a seat is looked for, or null when none is. */
  pool: string | null
  /** True when they may be moved with all others of their group, should it be emptied. */
  follows: boolean
}

export interface Standings {
  of: Map<string, Standing>
  /** Seats that are settled without a search. */
  settled: PlanMove[]
  left: PlanLeft[]
  /** Seats of each group that stay kept free for one person each, who does not come for them. */
  kept: Map<string, number>
}

/**
 * The pool of a section: people and groups of one pool do not mix with others. As soon as some group is for all
 * sections, and somebody is in one, everything is one pool; `elsewhere` says then which groups of it are not for whom.
 */
export function poolOf(
  input: Pick<PlanInput, 'offers' | 'people' | 'groups'>,
  section: string | null,
): string {
  return input.offers === 'course' || mixes(input) ? '' : (section ?? '')
}

/** Whether some groups are for all sections, in a course that has sections. */
export function mixes({ people, groups }: Pick<PlanInput, 'people' | 'groups'>): boolean {
  const known = mixing.get(groups)
  if (known !== undefined) return known
  const answer =
    groups.some(({ section }) => section === null) && people.some(({ section }) => section !== null)
  mixing.set(groups, answer)
  return answer
}

/** Asked for every person and group of a plan, so it is looked up once. */
const mixing = new WeakMap<object, boolean>()

/** Groups of the one pool that belong to another section than somebody's; none where pools are sections. */
export function elsewhere(
  input: Pick<PlanInput, 'offers' | 'people' | 'groups'>,
  section: string | null,
): string[] {
  if (input.offers === 'course' || !mixes(input)) return []
  return input.groups.flatMap((group) => (isElsewhere(group.section, section, 'section') ? [group.key] : []))
}

/**
 * Says for each person whether they stay, may be moved, or are to be seated, before anything is searched.
 * @param emptied groups that are emptied beforehand
 */
export function standingsOf(input: PlanInput, emptied: ReadonlySet<string>): Standings {
  const pins = new Map(input.pins.map(({ person, group }) => [person, group]))
  const held = heldPlaces(input)
  const seats = new Map<string, string[]>()
  for (const { person, group } of input.seats) {
    const own = seats.get(person)
    if (own) own.push(group)
    else seats.set(person, [group])
  }
  const poolOfGroup = new Map(input.groups.map(({ key, section }) => [key, poolOf(input, section)]))
  const offered = new Set(poolOfGroup.values())
  const closed = new Set(input.groups.flatMap((group) => (group.closed ? [group.key] : [])))
  const named = typeof input.release === 'string' ? null : new Set(input.release)
  const isReleased = (person: string) => (named ? named.has(person) : input.release !== 'none')
  const settled: PlanMove[] = []
  const left: PlanLeft[] = []
  const standing = (person: string, section: string | null): Standing => {
    const own = seats.get(person) ?? []
    const [from = null, ...more] = own
    const pin = pins.get(person)
    if (pin !== undefined && more.length === 0) {
      if (pin === null) left.push({ person, from, reason: { code: 'by-hand' } })
      else if (pin !== from) settled.push({ person, from, to: pin, reason: { code: 'by-hand' } })
      return { stays: pin === null ? [] : [pin], home: null, pool: null, follows: false }
    }
    const pool = poolOf(input, section)
    if (from !== null) {
      const movable = more.length === 0 && poolOfGroup.get(from) === pool && !closed.has(from)
      if (movable && emptied.has(from)) return { stays: [], home: null, pool, follows: false }
      if (!movable || !isReleased(person)) return { stays: own, home: null, pool: null, follows: movable }
      return { stays: [], home: input.release === 'afresh' ? null : from, pool, follows: true }
    }
    const kept = held.placeFor(person, section, emptied)
    if (kept !== null) {
      settled.push({ person, from: null, to: kept, reason: { code: 'held' } })
      return { stays: [kept], home: null, pool: null, follows: false }
    }
    if (offered.has(pool)) return { stays: [], home: null, pool, follows: false }
    left.push({
      person,
      from: null,
      reason: { code: section === null ? 'no-section' : 'no-group-in-section' },
    })
    return { stays: [], home: null, pool: null, follows: false }
  }
  const of = new Map(input.people.map(({ key, section }) => [key, standing(key, section)]))
  return { of, settled, left, kept: held.stillKept(settled) }
}

/**
 * Seats that are held for one person each. Somebody without a seat gets theirs as far as it can be had by the rules
 * for everybody: the group is offered, is theirs, and has room. Whatever else is held stays held, and nobody gets it.
 */
function heldPlaces({ heldFor, groups, seats, offers }: PlanInput) {
  const places = new Map<string, string[]>()
  const inGroup = new Map<string, number>()
  for (const { person, group } of heldFor) {
    const own = places.get(person)
    if (own) own.push(group)
    else places.set(person, [group])
    inGroup.set(group, (inGroup.get(group) ?? 0) + 1)
  }
  const taken = new Map<string, number>()
  for (const { group } of seats) taken.set(group, (taken.get(group) ?? 0) + 1)
  const byKey = new Map<string, PlanGroup>(groups.map((group) => [group.key, group]))
  const count = (person: string, group: string) =>
    places.get(person)?.filter((at) => at === group).length ?? 0
  const mayHave = (person: string, section: string | null, key: string) => {
    const group = byKey.get(key)
    if (!group) return false
    const kept = group.blocked + (inGroup.get(key) ?? 0) - count(person, key)
    const place = { ...NO_DATE, ...group, offered: !group.closed, taken: taken.get(key) ?? 0, kept }
    return misfitsOf(place, section, offers, []).length === 0
  }
  return {
    /** The group in which a held seat can be had; null for none. */
    placeFor: (person: string, section: string | null, emptied: ReadonlySet<string>): string | null =>
      places.get(person)?.find((key) => !emptied.has(key) && mayHave(person, section, key)) ?? null,
    /** Held seats of each group, but for those whose people come. */
    stillKept(settled: readonly PlanMove[]): Map<string, number> {
      const kept = new Map(inGroup)
      for (const { person, to, reason } of settled)
        if (reason.code === 'held') kept.set(to, (kept.get(to) ?? 0) - count(person, to))
      return kept
    },
  }
}

const NO_DATE = { startsAt: null, endsAt: null }
