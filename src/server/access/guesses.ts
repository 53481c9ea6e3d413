import { HOUR, type Instant, MINUTE, msOf, SECOND, shift } from '../../core/instant.ts'
import { createRecent } from '../recent.ts'
import type { Asker } from './asker.ts'

/** Wrong codes within an hour after which those who typed one wait: from one network, and from everywhere. */
const FREE = { network: 20, all: 300 }
/** Wrong codes within an hour after which mails carry no code any more, but the link alone, which nobody guesses. */
const LINK_ONLY = { network: 60, all: 900 }
/** How long whoever asked for a mail may type its code without waiting for others. */
const HOPE = 15 * MINUTE
const LONGEST = 64 * SECOND
const ALL = 'all'

export type Guesses = ReturnType<typeof createGuesses>

/**
 * Slows down whoever guesses codes, over however many addresses. Pauses grow with each wrong code of a network and of
 * all; they meet everybody but those who asked for a mail and typed none wrong, so that nobody who types the right one at
 * first is kept out by others, and a fresh browser for each guess is of no use.
 */
export function createGuesses() {
  const wrong = createRecent(HOUR)
  const hoping = createRecent(HOPE)
  const waits = (name: string, free: number, now: Instant): Instant | null => {
    const past = wrong.count(name, now) - free
    const last = wrong.last(name, now)
    if (past <= 0 || last === null) return null
    return shift(last, Math.min(LONGEST, 2 ** (past - 1) * SECOND))
  }
  const nameOf = ({ browser, network }: Asker) => (browser === null ? network : `${network} ${browser}`)
  return {
    /** Notes that this browser asked for a mail to an address, whether anybody has it or not. */
    hopes: (asker: Asker, email: string, now: Instant): void => hoping.note(`${nameOf(asker)} ${email}`, now),
    /**
     * Until when this asker waits before a code for an address is looked at; null where they need not. Codes work only in
     * the browser that asked for them, so one that did not has none to type.
     */
    waitsUntil(asker: Asker, email: string, now: Instant): Instant | null {
      const own = hoping.count(`${nameOf(asker)} ${email}`, now) > 0
      if (own && wrong.count(nameOf(asker), now) === 0) return null
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
