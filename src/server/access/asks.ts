import { type Instant, instantFromMs, MINUTE, msOf } from '../../core/instant.ts'

/** Codes that an address can ask for within a quarter of an hour; further asks send nothing. */
export const CODES_PER_QUARTER = 5
const QUARTER = 15 * MINUTE
/** Addresses that are remembered; past that the oldest are forgotten. */
const MOST = 20_000

/**
 * Counts how often codes were asked for, by address and whether anybody has it or not, so that what the page says of
 * the next mail is true and tells nothing about who is on a roster.
 */
export function createAsks() {
  const asked = new Map<string, number[]>()
  return {
    /**
     * Notes an ask.
     * @returns when the next one can send a mail, where this one sends none; null where it does
     */
    note(email: string, now: Instant): Instant | null {
      const at = msOf(now)
      const lately = (asked.get(email) ?? []).filter((one) => one > at - QUARTER)
      const [first] = lately
      const spent = lately.length >= CODES_PER_QUARTER
      if (!spent) lately.push(at)
      asked.delete(email)
      asked.set(email, lately)
      const oldest = asked.size > MOST ? asked.keys().next().value : undefined
      if (oldest !== undefined) asked.delete(oldest)
      return spent && first !== undefined ? instantFromMs(first + QUARTER) : null
    },
  }
}
