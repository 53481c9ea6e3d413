import { NO_LIMIT } from './limit.ts'
import { evenSizes, type SupplyGroup, type SupplyInput, seatsCheck } from './supply.ts'

/** A group whose limit a remedy could change. */
export interface RemedyGroup extends SupplyGroup {
  code: string
  /** True while it follows the common limit. */
  common: boolean
  /** Seats taken; no remedy goes below. */
  taken: number
}

/** A way to have a seat for everybody, with what exactly it would change. */
export type Remedy =
  | { kind: 'raise-common'; seats: number }
  | { kind: 'raise-groups'; changes: LimitChange[] }
  | { kind: 'add-topics'; count: number }
  | { kind: 'share-evenly'; changes: LimitChange[] }

export interface LimitChange {
  code: string
  seats: number
}

/**
 * The remedies for seats that are short; sharing evenly is offered whenever it changes something.
 * Each removes the whole shortage, and none adds a seat more than it needs: the common limit is the smallest, raised
 * groups get one seat each before any gets two, added topics are the fewest.
 * @param sections who needs a seat where: `rowsToSeat` says it where some groups are for all sections
 * @param most the largest limit a group may have
 */
export function remediesFor(
  sections: SupplyInput['sections'],
  groups: readonly RemedyGroup[],
  commonLimit: number,
  most: number,
): Remedy[] {
  const supply = seatsCheck({ sections, groups })
  const short = supply.filter(({ spare }) => spare < 0)
  const remedies: Remedy[] = []
  if (short.length > 0) {
    const seats = smallestCommonLimit(sections, groups, most)
    if (seats !== null && commonLimit !== NO_LIMIT && seats > commonLimit)
      remedies.push({ kind: 'raise-common', seats })
    const raised = short.map(({ key, spare }) =>
      raise(
        groups.filter((group) => group.section === key),
        -spare,
        most,
      ),
    )
    if (raised.every((changes) => changes !== null))
      remedies.push({ kind: 'raise-groups', changes: raised.flat() })
    if (commonLimit !== NO_LIMIT) {
      remedies.push({
        kind: 'add-topics',
        count: Math.max(...short.map(({ spare }) => Math.ceil(-spare / commonLimit))),
      })
    }
  }
  const shared = shareEvenly(sections, groups, most)
  if (shared !== null && shared.length > 0) remedies.push({ kind: 'share-evenly', changes: shared })
  return remedies
}

/** The smallest common limit at which every section has a seat for everybody, or null when none up to `most` does. */
export function smallestCommonLimit(
  sections: SupplyInput['sections'],
  groups: readonly Pick<RemedyGroup, 'section' | 'seats' | 'common'>[],
  most: number,
): number | null {
  let needed = 1
  for (const { key, students } of sections) {
    const own = groups.filter((group) => group.section === key)
    if (own.some(({ seats, common }) => !common && seats === NO_LIMIT)) continue
    const fixed = own.reduce((sum, { seats, common }) => sum + (common ? 0 : seats), 0)
    const following = own.filter(({ common }) => common).length
    const missing = students - fixed
    if (missing <= 0) continue
    if (following === 0) return null
    needed = Math.max(needed, Math.ceil(missing / following))
  }
  return needed <= most ? needed : null
}

/** One seat more in as many groups as are short, smallest groups first, and again from the start where that is not enough. */
function raise(groups: readonly RemedyGroup[], missing: number, most: number): LimitChange[] | null {
  const limits = groups.map(({ code, seats }) => ({ code, seats, before: seats }))
  for (let i = 0; i < missing; i++) {
    const lowest = limits.reduce<(typeof limits)[number] | null>(
      (found, limit) => (limit.seats < most && (found === null || limit.seats < found.seats) ? limit : found),
      null,
    )
    if (lowest === null) return null
    lowest.seats += 1
  }
  return limits.filter(({ seats, before }) => seats > before).map(({ code, seats }) => ({ code, seats }))
}

/** Limits that fit each section's students exactly, no two of a section differing by more than one; null where they cannot. */
function shareEvenly(
  sections: SupplyInput['sections'],
  groups: readonly RemedyGroup[],
  most: number,
): LimitChange[] | null {
  const changes: LimitChange[] = []
  for (const { key, students } of sections) {
    const own = groups.filter((group) => group.section === key)
    if (own.length === 0) {
      if (students > 0) return null
      continue
    }
    const sizes = evenSizes(students, own.length)
    if ((sizes[0] ?? 0) > most || (sizes.at(-1) ?? 0) < 1) return null
    // The fuller a group, the larger its share, so that as few as possible sit past it.
    const byTaken = own.toSorted((a, b) => b.taken - a.taken)
    for (const [i, group] of byTaken.entries()) {
      const seats = sizes[i] ?? 0
      if (group.taken > seats) return null
      if (group.seats !== seats) changes.push({ code: group.code, seats })
    }
  }
  return changes
}
