import { HOUR, type Instant, msOf, SECOND, shift } from '../../core/instant.ts'
import { createRecent } from '../recent.ts'
import type { Asker } from './asker.ts'

/** Wrong codes within an hour after which those who typed one wait: from one network, and from everywhere. */
const FREE = { network: 20, all: 300 }
/** Wrong codes within an hour after which mails carry no code any more, but the link alone, which nobody guesses. */
const LINK_ONLY = { network: 60, all: 900 }
const LONGEST = 64 * SECOND
const ALL = 'all'

export type Guesses = ReturnType<typeof createGuesses>

/**
 * Slows down whoever guesses codes, over however many addresses. Pauses grow with each wrong code of a network and of
 * all; they meet those who typed a wrong one, so that nobody who types the right one at first is kept out by others.
 */
export function createGuesses() {
  const wrong = createRecent(HOUR)
  const waits = (name: string, free: number, now: Instant): Instant | null => {
    const past = wrong.count(name, now) - free
    const last = wrong.last(name, now)
    if (past <= 0 || last === null) return null
    return shift(last, Math.min(LONGEST, 2 ** (past - 1) * SECOND))
  }
  const nameOf = ({ browser, network }: Asker) => (browser === null ? network : `${network} ${browser}`)
  return {
    /** Until when this asker waits before a code is looked at; null where they need not. */
    waitsUntil(asker: Asker, now: Instant): Instant | null {
      if (wrong.count(nameOf(asker), now) === 0) return null
      const ends = [waits(asker.network, FREE.network, now), waits(ALL, FREE.all, now)]
      const latest = ends.filter((end) => end !== null && msOf(end) > msOf(now)).toSorted()
      return latest.at(-1) ?? null
    },
    /** Whether mails asked for from here carry the link alone. */
    linkOnly: ({ network }: Asker, now: Instant): boolean =>
      wrong.count(network, now) >= LINK_ONLY.network || wrong.count(ALL, now) >= LINK_ONLY.all,
    note(asker: Asker, now: Instant): void {
      for (const name of new Set([nameOf(asker), asker.network, ALL])) wrong.note(name, now)
    },
  }
}
