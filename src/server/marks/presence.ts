import { type Instant, SECOND, shift } from '../../core/instant.ts'

/** Milliseconds after which somebody who did not say so again is not there any more. */
const THERE = 12 * SECOND

interface Place {
  by: number
  name: string
  owner: string
  at: Instant
}

/** Who marks where just now, so that two markers do not mark the same work. Kept in memory alone. */
export function createPresence() {
  const places = new Map<number, Map<number, Place>>()
  return {
    /** Notes where somebody is in the pile of a task, and gives where the others are. */
    place(
      taskId: number,
      { by, name, owner }: Omit<Place, 'at'>,
      now: Instant,
    ): Pick<Place, 'name' | 'owner'>[] {
      const known = places.get(taskId) ?? new Map<number, Place>()
      places.set(taskId, known)
      known.set(by, { by, name, owner, at: now })
      for (const place of known.values()) if (place.at < shift(now, -THERE)) known.delete(place.by)
      return [...known.values()]
        .filter((place) => place.by !== by)
        .map(({ name, owner }) => ({ name, owner }))
    },
  }
}
