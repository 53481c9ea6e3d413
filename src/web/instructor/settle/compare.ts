import type { PlanContent } from '../../../contract/plans.ts'

/** Somebody whom two plans seat differently. Null is no group. */
export interface Difference {
  person: string
  here: string | null
  there: string | null
}

/** Whom two plans for the same seats put in different places. */
export function differencesOf(
  here: Pick<PlanContent, 'moves' | 'left'>,
  there: Pick<PlanContent, 'moves' | 'left'>,
  seats: readonly { person: string; group: string }[],
): Difference[] {
  const now = new Map(seats.map(({ person, group }) => [person, group]))
  const places = ({ moves, left }: Pick<PlanContent, 'moves' | 'left'>) =>
    new Map<string, string | null>([
      ...moves.map(({ person, to }) => [person, to] as const),
      ...left.map(({ person }) => [person, null] as const),
    ])
  const [a, b] = [places(here), places(there)]
  const placeIn = (places: ReadonlyMap<string, string | null>, person: string) => {
    const place = places.get(person)
    return place === undefined ? (now.get(person) ?? null) : place
  }
  return [...new Set([...a.keys(), ...b.keys()])]
    .map((person) => ({ person, here: placeIn(a, person), there: placeIn(b, person) }))
    .filter(({ here, there }) => here !== there)
}
