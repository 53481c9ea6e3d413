import { keptFrom, misfitsOf } from './fits.ts'
import type { Offers } from './rules.ts'
import type { Slot } from './times.ts'

/** One person's change of seats, as staff make it by hand or by a plan. Null is no seat. */
export interface SeatingChange {
  person: string
  from: string | null
  to: string | null
}

/** A group as seatings are checked against it. */
export interface SeatingGroup extends Slot {
  key: string
  section: string | null
  offered: boolean
  /** The limit; NO_LIMIT for none. */
  seats: number
  /** Seats kept free: for whom, or null for a use. */
  heldFor: readonly (string | null)[]
  /** Whether its work is handed in, so that the group does not silently change. */
  bound?: boolean
}

/** What seatings are checked against, as it stands. */
export interface SeatingFacts {
  people: readonly { key: string; section: string | null; active: boolean }[]
  groups: readonly SeatingGroup[]
  seats: readonly { person: string; group: string }[]
  rules: { seatsEach: number; offers: Offers }
  keepings: readonly { key: string; kind: 'apart' | 'together'; people: readonly string[] }[]
}

/** Why a change cannot be made at all. */
export type SeatingFault =
  | 'person-unknown'
  | 'person-not-active'
  | 'group-unknown'
  | 'group-not-offered'
  | 'not-seated-there'
  | 'seated-there-already'
  | 'too-many-seats'

/** What speaks against a change, though it can be made knowingly. */
export type SeatingConcern =
  | 'past-limit'
  | 'other-section'
  | 'time-clash'
  | 'kept-apart'
  | 'not-together'
  | 'work-handed-in'

/** A fault or concern, with whom and what it is about. */
export interface SeatingRemark<Code> {
  code: Code
  person: string
  /** The group of the change; null for a seat that is only taken away. */
  group: string | null
  /** Others whom it concerns: those to keep apart from, or together with. */
  others: readonly string[]
}

export interface SeatingCheck {
  faults: SeatingRemark<SeatingFault>[]
  concerns: SeatingRemark<SeatingConcern>[]
  /** Changes whose seat lies past the limit, by their index. */
  extra: ReadonlySet<number>
}

/**
 * Checks changes of seats that are made together: all seats that are left are left first, so that two can swap.
 * Faults forbid all of it; concerns are asked about.
 */
export function checkSeatings(changes: readonly SeatingChange[], facts: SeatingFacts): SeatingCheck {
  const faults: SeatingRemark<SeatingFault>[] = []
  const concerns: SeatingRemark<SeatingConcern>[] = []
  const extra = new Set<number>()
  const people = new Map(facts.people.map((person) => [person.key, person]))
  const groups = new Map(facts.groups.map((group) => [group.key, group]))
  const sits = new Map<string, Set<string>>()
  for (const { person, group } of facts.seats) {
    const own = sits.get(person)
    if (own) own.add(group)
    else sits.set(person, new Set([group]))
  }
  const held = new Map<string, readonly (string | null)[]>()
  const size = new Map<string, number>()
  for (const { group } of facts.seats) size.set(group, (size.get(group) ?? 0) + 1)
  const grow = (group: string, by: number) => size.set(group, (size.get(group) ?? 0) + by)
  const fault = (code: SeatingFault, { person }: SeatingChange, group: string | null) => {
    faults.push({ code, person, group, others: [] })
  }

  for (const change of changes) {
    if (change.from === null) continue
    if (!sits.get(change.person)?.delete(change.from)) fault('not-seated-there', change, change.from)
    else grow(change.from, -1)
  }
  for (const [i, change] of changes.entries()) {
    const { person: key, to } = change
    if (to === null) continue
    const person = people.get(key)
    const group = groups.get(to)
    const own = sits.get(key) ?? new Set<string>()
    const against = faultOf(person, group, own, facts.rules.seatsEach)
    if (against) fault(against, change, to)
    if (against || !person || !group) continue
    const concern = (code: SeatingConcern, others: readonly string[] = []) =>
      concerns.push({ code, person: key, group: to, others })
    const kept = keptFrom(held.get(to) ?? group.heldFor, key)
    const place = { ...group, taken: size.get(to) ?? 0, kept }
    const slots = [...own].map((other) => groups.get(other) ?? NEVER)
    const misfits = misfitsOf(place, person.section, facts.rules.offers, slots)
    if (misfits.includes('full')) {
      extra.add(i)
      concern('past-limit')
    }
    if (misfits.includes('other-section')) concern('other-section')
    if (misfits.includes('time-clash')) concern('time-clash')
    own.add(to)
    sits.set(key, own)
    grow(to, 1)
    // Whoever sits down uses up what was held for them there.
    held.set(
      to,
      (held.get(to) ?? group.heldFor).filter((who) => who !== key),
    )
  }
  for (const { person, from, to } of changes) {
    for (const group of [from, to]) {
      if (group !== null && groups.get(group)?.bound)
        concerns.push({ code: 'work-handed-in', person, group, others: [] })
    }
    for (const { kind, people: kept } of facts.keepings) {
      if (!kept.includes(person)) continue
      const others = kept.filter((other) => other !== person)
      const own = sits.get(person) ?? new Set<string>()
      if (kind === 'apart' && to !== null) {
        const here = others.filter((other) => sits.get(other)?.has(to))
        if (here.length > 0) concerns.push({ code: 'kept-apart', person, group: to, others: here })
      }
      if (kind === 'together') {
        const away = others.filter((other) => {
          const theirs = sits.get(other)
          return (
            theirs !== undefined && theirs.size > 0 && own.size > 0 && ![...theirs].some((at) => own.has(at))
          )
        })
        if (away.length > 0) concerns.push({ code: 'not-together', person, group: to, others: away })
      }
    }
  }
  return { faults, concerns, extra }
}

/** Changes in the order in which they are made: first those who come for a seat that is held for them. */
export function inOrderOfSeating(
  changes: readonly SeatingChange[],
  { groups }: Pick<SeatingFacts, 'groups'>,
): SeatingChange[] {
  const held = new Map(groups.map(({ key, heldFor }) => [key, heldFor]))
  const comesFor = ({ person, to }: SeatingChange) =>
    to !== null && held.get(to)?.includes(person) === true ? 0 : 1
  return changes.toSorted((a, b) => comesFor(a) - comesFor(b))
}

/** Why somebody cannot sit in a group at all; null where nothing forbids it. */
function faultOf(
  person: SeatingFacts['people'][number] | undefined,
  group: SeatingGroup | undefined,
  own: ReadonlySet<string>,
  seatsEach: number,
): SeatingFault | null {
  if (!person) return 'person-unknown'
  if (!group) return 'group-unknown'
  if (!person.active) return 'person-not-active'
  if (!group.offered) return 'group-not-offered'
  if (own.has(group.key)) return 'seated-there-already'
  return own.size >= seatsEach ? 'too-many-seats' : null
}

const NEVER: Slot = { startsAt: null, endsAt: null }

/** The changes that take others back. */
export function inverseOf(changes: readonly SeatingChange[]): SeatingChange[] {
  return changes.map(({ person, from, to }) => ({ person, from: to, to: from }))
}
