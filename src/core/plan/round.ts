import { grouped } from '../grouped.ts'
import { overlaps } from '../times.ts'
import type { PlanGroup, PlanInput } from './types.ts'

/** A plan’s input as one round of it asks for: those who look for a seat have none in it. */
export interface Round {
  input: PlanInput
  /** Who has fewer seats than the round gives. */
  looking: ReadonlySet<string>
  /** How many of those who look sit in each group already, and stay. */
  sitting: ReadonlyMap<string, number>
  /** Groups in which somebody cannot have a further seat: their own, of a topic that they have, or at the same time. */
  never: ReadonlyMap<string, readonly string[]>
}

/** Which seat of each person a plan gives: the first, the second, … */
export const roundIn = ({ byWishes }: Pick<PlanInput, 'byWishes'>): number => byWishes?.round ?? 1

/**
 * A round in which those with fewer seats than it gives are seated once more, whoever has as many stays out of it. Their
 * seats so far are as if they were kept for a use: they stay, and count.
 */
export function roundOf(input: PlanInput): Round {
  const round = roundIn(input)
  if (round === 1) return { input, looking: new Set(), sitting: new Map(), never: new Map() }
  const held = grouped(input.seats, ({ person }) => person)
  const looking = new Set(
    input.people.flatMap(({ key }) => ((held.get(key)?.length ?? 0) < round ? [key] : [])),
  )
  const staying = input.seats.filter(({ person }) => looking.has(person))
  const sitting = new Map(
    [...grouped(staying, ({ group }) => group)].map(([group, all]) => [group, all.length]),
  )
  const groups = new Map(input.groups.map((group) => [group.key, group]))
  const topicOf = (group: string) => input.wished?.topics[group] ?? group
  const apart = new Map<string, Set<string>>()
  for (const { kind, people } of input.keepings) {
    if (kind !== 'apart') continue
    for (const one of people)
      apart.set(one, new Set([...(apart.get(one) ?? []), ...people.filter((p) => p !== one)]))
  }
  const clashes = (a: PlanGroup | undefined, b: PlanGroup) =>
    !!a?.slot && !!b.slot && overlaps(a.slot, b.slot)
  const only = withOthers(input.keepings, held)
  const never = new Map<string, readonly string[]>()
  for (const person of looking) {
    const own = held.get(person) ?? []
    const topics = new Set(own.map(({ group }) => topicOf(group)))
    const others = new Set(
      [...(apart.get(person) ?? [])].flatMap((one) =>
        looking.has(one) ? (held.get(one) ?? []).map(({ group }) => group) : [],
      ),
    )
    const closed = input.groups.filter(
      (group) =>
        topics.has(topicOf(group.key)) ||
        only.get(person)?.has(group.key) === false ||
        others.has(group.key) ||
        own.some((seat) => clashes(groups.get(seat.group), group)),
    )
    if (closed.length > 0)
      never.set(
        person,
        closed.map(({ key }) => key),
      )
  }
  const forbidden = ({ person, group }: { person: string; group: string }) =>
    never.get(person)?.includes(group) === true
  const useless = grouped(input.heldFor.filter(forbidden), ({ group }) => group)
  return {
    looking,
    sitting,
    never,
    input: {
      ...input,
      seats: input.seats.filter(({ person }) => !looking.has(person)),
      groups: input.groups.map((group) => {
        const more = (sitting.get(group.key) ?? 0) + (useless.get(group.key)?.length ?? 0)
        return more === 0 ? group : { ...group, blocked: group.blocked + more }
      }),
      heldFor: input.heldFor.filter((one) => !forbidden(one)),
      // Who keeps together is seated together where none of them sits; else where the others are, or not again.
      keepings: input.keepings.filter(
        ({ kind, people }) => kind === 'apart' || !people.some((one) => held.has(one)),
      ),
      release: 'none',
    },
  }
}

/**
 * For people who keep together, of whom some sit already: the groups in which they can come to sit. Whoever has no seat
 * joins the others; those who sit together are free; those who do not stay as they are.
 */
function withOthers(
  keepings: PlanInput['keepings'],
  held: ReadonlyMap<string, readonly { group: string }[]>,
): Map<string, ReadonlySet<string>> {
  const only = new Map<string, ReadonlySet<string>>()
  const at = (person: string) => (held.get(person) ?? []).map(({ group }) => group)
  const inAll = (people: readonly string[]) =>
    at(people[0] ?? '').filter((group) => people.every((one) => at(one).includes(group)))
  for (const { kind, people } of keepings) {
    const seated = people.filter((one) => held.has(one))
    if (kind === 'apart' || seated.length === 0 || inAll(people).length > 0) continue
    const joined = new Set(inAll(seated))
    for (const one of people) {
      const before = only.get(one)
      const own = held.has(one) ? new Set<string>() : joined
      only.set(one, before ? new Set([...own].filter((group) => before.has(group))) : own)
    }
  }
  return only
}
