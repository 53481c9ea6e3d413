import { type Instant, MINUTE } from '../../core/instant.ts'
import { createRecent } from '../recent.ts'
import type { NewAsker } from './asker.ts'

/** Mails that one browser can ask for to one address within a quarter of an hour; further asks send nothing. */
export const ASKS_OF_BROWSER = 5
/** As many from one network, whatever browsers there are in it; and from everywhere. */
const ASKS_OF_NETWORK = 10
const ASKS_OF_ALL = 30
const QUARTER = 15 * MINUTE

/**
 * Counts how often mails to sign in were asked for, by address and whether anybody has it or not, so that what the page
 * says of the next mail is true and tells nothing about who is on a roster. A browser that was let in before asks on its
 * own account alone: what others ask in its person's name does not count against it.
 */
export function createAsks() {
  const asked = createRecent(QUARTER)
  return {
    /**
     * Notes an ask.
     * @param fresh whether the browser came without a cookie and got its first
     * @param trusted whether that browser was let in as this person before
     * @returns when the next one can send a mail, where this one sends none; null where it does
     */
    note(
      email: string,
      { browser, network, fresh }: NewAsker,
      trusted: boolean,
      now: Instant,
    ): Instant | null {
      const own = { name: `${browser} ${email}`, most: ASKS_OF_BROWSER }
      // Who keeps no cookie is told apart by network alone.
      const bare = { name: `without a cookie ${network} ${email}`, most: ASKS_OF_BROWSER }
      const others = [
        { name: `${network} ${email}`, most: ASKS_OF_NETWORK },
        { name: email, most: ASKS_OF_ALL },
      ]
      const counted = trusted ? [own] : [own, ...(fresh ? [bare] : []), ...others]
      const spent = counted.find(({ name, most }) => asked.count(name, now) >= most)
      if (spent) return asked.firstEnds(spent.name, now)
      for (const { name } of counted) asked.note(name, now)
      return null
    },
  }
}
