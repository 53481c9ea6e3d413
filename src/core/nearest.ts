import { type Instant, msOf } from './instant.ts'
import { seatsLeft } from './limit.ts'

/** What of a group says how near it is to another. */
export interface Near {
  code: string
  title: string
  section: string | null
  startsAt: Instant | null
  seats: number
  taken: number
  held: number
  /** People who wait in line. */
  waiting: number
}

/**
 * Groups with a free seat that nobody waits for, nearest to the wanted one first: the same topic in another section,
 * then the same section, then the one whose date is nearest, then the one that stands nearest on the sheet.
 * @param groups in the order of the sheet
 * @param mayTake whether the student could sit there, for what the groups do not say (two seats at one time)
 */
export function nearestFree<Group extends Near>(
  wanted: Group,
  groups: readonly Group[],
  most: number,
  mayTake: (group: Group) => boolean = () => true,
): Group[] {
  const at = groups.findIndex(({ code }) => code === wanted.code)
  return groups
    .map((group, i) => ({ group, far: distance(wanted, group, Math.abs(i - at)) }))
    .filter(
      ({ group }) =>
        group.code !== wanted.code &&
        seatsLeft(group.seats, group.taken, group.held) > 0 &&
        group.waiting === 0 &&
        mayTake(group),
    )
    .sort((a, b) => compare(a.far, b.far))
    .slice(0, most)
    .map(({ group }) => group)
}

function distance(a: Near, b: Near, steps: number): number[] {
  const apart = a.startsAt && b.startsAt ? Math.abs(msOf(a.startsAt) - msOf(b.startsAt)) : 0
  return [a.title === b.title ? 0 : 1, a.section === b.section ? 0 : 1, apart, steps]
}

function compare(a: readonly number[], b: readonly number[]): number {
  const i = a.findIndex((value, n) => value !== b[n])
  return i < 0 ? 0 : (a[i] ?? 0) - (b[i] ?? 0)
}
