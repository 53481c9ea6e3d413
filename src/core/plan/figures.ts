import { isUnderFloor } from '../limit.ts'
import type { PlanFigures, PlanInput } from './types.ts'

/**
 * How a sheet stands with these seats: who is left, which groups are too small, how sizes range.
 * @param each seats that somebody needs not to be left
 */
export function figuresOf(
  { people, groups }: Pick<PlanInput, 'people' | 'groups'>,
  seats: readonly { person: string; group: string }[],
  each = 1,
): PlanFigures {
  const known = new Set(people.map(({ key }) => key))
  const sizes = new Map<string, number>()
  const held = new Map<string, number>()
  for (const { person, group } of seats) {
    if (!known.has(person)) continue
    held.set(person, (held.get(person) ?? 0) + 1)
    sizes.set(group, (sizes.get(group) ?? 0) + 1)
  }
  let under = 0
  let empty = 0
  let least = Number.POSITIVE_INFINITY
  let most = 0
  for (const { key, floor } of groups) {
    const size = sizes.get(key) ?? 0
    if (size === 0) empty += 1
    else {
      if (isUnderFloor(size, floor)) under += 1
      least = Math.min(least, size)
      most = Math.max(most, size)
    }
  }
  const seated = [...held.values()].filter((n) => n >= each).length
  return { left: people.length - seated, under, empty, sizes: most === 0 ? null : { least, most } }
}
