import { type Instant, instantFromMs, msOf } from '../core/instant.ts'

/** Names that one count remembers; past that the ones not heard of for longest are forgotten. */
const MOST = 20_000

export type Recent = ReturnType<typeof createRecent>

/** Counts how often something happened lately, by name, in memory. A name costs a few numbers, and there are bounds. */
export function createRecent(span: number, most = MOST) {
  const times = new Map<string, number[]>()
  const lately = (name: string, now: Instant): number[] =>
    (times.get(name) ?? []).filter((one) => one > msOf(now) - span)
  return {
    /** How often it happened within the span. */
    count: (name: string, now: Instant): number => lately(name, now).length,
    /** When it happened last within the span; null where it did not. */
    last: (name: string, now: Instant): Instant | null => {
      const at = lately(name, now).at(-1)
      return at === undefined ? null : instantFromMs(at)
    },
    /** When the oldest that counts is forgotten; null where none counts. */
    firstEnds: (name: string, now: Instant): Instant | null => {
      const [first] = lately(name, now)
      return first === undefined ? null : instantFromMs(first + span)
    },
    note(name: string, now: Instant): void {
      const known = lately(name, now)
      known.push(msOf(now))
      times.delete(name)
      times.set(name, known)
      const oldest = times.size > most ? times.keys().next().value : undefined
      if (oldest !== undefined) times.delete(oldest)
    },
  }
}
