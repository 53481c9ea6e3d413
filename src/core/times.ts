import { HOUR, msOf } from './instant.ts'

/** From when to when something takes place. Without an end it lasts for an hour. */
export interface Slot {
  startsAt: string | null
  endsAt: string | null
}

/** True when two dated things overlap in time. What only touches does not; what has no date never does. */
export function overlaps(a: Slot, b: Slot): boolean {
  const one = span(a)
  const other = span(b)
  return one !== null && other !== null && one.from < other.to && other.from < one.to
}

function span({ startsAt, endsAt }: Slot): { from: number; to: number } | null {
  if (startsAt === null) return null
  const from = msOf(startsAt)
  return { from, to: endsAt === null ? from + HOUR : msOf(endsAt) }
}
