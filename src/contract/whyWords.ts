import { NO_LIMIT } from '../core/limit.ts'
import { ordinal } from '../core/ordinal.ts'
import type { OwnWhy } from './wishes.ts'
import { rankWords } from './wishWords.ts'

type Figures = OwnWhy['now']

/**
 * Why somebody does not have a topic that they like better, in a sentence that goes on from its title.
 * @param told to whom: the student, or staff about them
 */
export function whyWords(
  { code, rank, seats, wanted, instead, place }: OwnWhy['whyNot'][number],
  { now, of }: Pick<OwnWhy, 'now' | 'of'>,
  told: 'you' | 'staff' = 'you',
): string {
  const [you, yours] = told === 'you' ? ['you', 'yours'] : ['them', 'theirs']
  const asMuch = told === 'you' ? 'as you' : 'as they'
  const room = seats === NO_LIMIT ? 'had no limit' : `had ${seats === 1 ? '1 seat' : `${seats} seats`}`
  const wishes = rank === 1 ? `${wanted} first wishes` : `${wanted} who wanted it as much ${asMuch} or more`
  switch (code) {
    case 'not-open':
      return `had no group that was open to ${you}.`
    case 'lot':
      return `${room} and ${wishes}; lots decided, and ${yours} was ${ordinal(place)} of ${of}.`
    case 'turn':
      return `${room} and ${wishes}; it was full when ${told === 'you' ? 'your' : 'their'} turn came, ${ordinal(place)} of ${of}.`
    case 'rules':
      return `${room} and ${wishes}; with ${you} there, a group would have had too few people, or somebody would have lost what the rules keep.`
    case 'unchecked':
      return `${room} and ${wishes}; too much hangs together to say in short what decided.`
    case 'aim':
      return `${room} and ${wishes}; with ${you} there, ${instead ? worseWords(now, instead) : 'others would have come off worse'}.`
  }
}

/** What would be worse, in the first figure that differs. */
function worseWords(now: Figures, instead: Figures): string {
  if (instead.left > now.left) {
    const more = instead.left - now.left
    return more === 1 ? 'one more would be without a seat' : `${more} more would be without a seat`
  }
  const worst = instead.byRank.findLastIndex((n, i) => n > (now.byRank[i] ?? 0))
  const fewer = now.byRank.findIndex((n, i) => n > (instead.byRank[i] ?? 0))
  const none = instead.none - now.none
  if (none > 0) return `${none === 1 ? 'one more' : `${none} more`} would have none of their wishes`
  const gains = worst >= 0 ? (instead.byRank[worst] ?? 0) - (now.byRank[worst] ?? 0) : 0
  const loses = fewer >= 0 ? (now.byRank[fewer] ?? 0) - (instead.byRank[fewer] ?? 0) : 0
  if (fewer >= 0 && worst > fewer)
    return `${loses === 1 ? 'one' : loses} fewer would have a ${rankWords(fewer + 1)} wish, and ${gains === 1 ? 'one' : gains} more only a ${rankWords(worst + 1)}`
  return 'others would have come off worse'
}
