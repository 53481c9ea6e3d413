import { overlaps, type Slot } from './times.ts'

/** Something that takes place somewhere. */
export interface Placed extends Slot {
  key: string
  place: string
}

/** Pairs that are in the same place at the same time, each by its keys in the order given. Nowhere clashes with nothing. */
export function placeClashes(things: readonly Placed[]): [string, string][] {
  const byPlace = new Map<string, Placed[]>()
  for (const thing of things) {
    const place = thing.place.trim().toLowerCase()
    if (place === '' || thing.startsAt === null) continue
    byPlace.set(place, [...(byPlace.get(place) ?? []), thing])
  }
  return [...byPlace.values()].flatMap((there) =>
    there.flatMap((one, i) =>
      there
        .slice(i + 1)
        .flatMap((other): [string, string][] => (overlaps(one, other) ? [[one.key, other.key]] : [])),
    ),
  )
}
