import { DAY, type Instant, shift } from './instant.ts'
import type { ConvenerMay } from './rules.ts'

/** Days after somebody sat down in which a convener may take them out without asking them. */
export const FIRST_DAYS = 3

/** What decides how a convener may take somebody out of the group. */
export interface TakingOut {
  rule: ConvenerMay
  /** Whether whoever asks answers for the group. */
  convener: boolean
  /** Whether they are the one who would be taken out. */
  self: boolean
  /** Whether the group's work is handed in, so that it stays as it is. */
  bound: boolean
  takenAt: Instant
}

/** How a convener may take somebody out: at once, in the first days; else with the member's consent; or not at all. */
export function takingOut(
  { rule, convener, self, bound, takenAt }: TakingOut,
  now: Instant,
): 'now' | 'ask' | 'no' {
  if (rule !== 'both' || !convener || self || bound) return 'no'
  return now < shift(takenAt, FIRST_DAYS * DAY) ? 'now' : 'ask'
}
