import { isUnderFloor } from '../limit.ts'
import type { PlanFigures, PlanInput } from './types.ts'

/** How a sheet stands with these seats: who is left, which groups are too small, how sizes range. */
export function figuresOf(
  { people, groups }: Pick<PlanInput, 'people' | 'groups'>,
  seats: readonly { person: string; group: string }[],
): PlanFigures {
  const known = new Set(people.map(({ key }) => key))
  const sizes = new Map<string, number>()
  const seated = new Set<string>()
  for (const { person, group } of seats) {
    if (!known.has(person)) continue
    seated.add(person)
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
  return { left: people.length - seated.size, under, empty, sizes: most === 0 ? null : { least, most } }
}
