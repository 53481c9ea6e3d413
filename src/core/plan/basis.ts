import type { SeatingFacts } from '../seating.ts'
import type { PlanInput, PlanPerson } from './types.ts'

/** The part of a plan's input that the sheet gives; the rest is chosen. */
export type PlanBasis = Pick<
  PlanInput,
  'people' | 'groups' | 'seats' | 'heldFor' | 'offers' | 'keepings' | 'names' | 'wished'
>

/**
 * What a plan is made from, out of the very facts that its seatings are checked against when it is applied.
 * @param names of everybody, by key
 * @param floors of the groups, by key
 */
export function basisFrom(
  { people, groups, seats, rules, keepings }: SeatingFacts,
  names: ReadonlyMap<string, Pick<PlanPerson, 'name' | 'listed'>>,
  floors: ReadonlyMap<string, number>,
): PlanBasis {
  const active = new Set(people.flatMap((person) => (person.active ? [person.key] : [])))
  const seated = new Set(seats.map(({ group }) => group))
  const offered = groups.filter((group) => group.offered || seated.has(group.key))
  return {
    people: people
      .filter(({ key }) => active.has(key))
      .map(({ key, section }) => ({ key, section, ...(names.get(key) ?? { name: '' }) })),
    groups: offered.map((group) => ({
      key: group.key,
      section: group.section,
      seats: group.seats,
      // Kept for a use or for somebody who does not count, or taken by somebody who does not.
      blocked:
        group.heldFor.filter((who) => who === null || !active.has(who)).length +
        seats.filter((seat) => seat.group === group.key && !active.has(seat.person)).length,
      floor: floors.get(group.key) ?? 1,
      // A group whose work is handed in is left as it is.
      closed: !group.offered || group.bound === true,
      ...(group.startsAt !== null && { slot: { startsAt: group.startsAt, endsAt: group.endsAt } }),
    })),
    seats: seats.filter(({ person }) => active.has(person)),
    heldFor: groups.flatMap(({ key, heldFor }) =>
      heldFor.flatMap((person) => (person !== null && active.has(person) ? [{ person, group: key }] : [])),
    ),
    offers: rules.offers,
    keepings,
  }
}
