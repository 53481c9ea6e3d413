import { drawStream } from '../lot.ts'
import type { PlanInput } from '../plan/types.ts'
import type { Work } from '../plan/work.ts'
import { compareCosts, levelsIn, type WishRules } from './rules.ts'
import type { WishInput } from './types.ts'
import { seatWithin, type WithinOutcome } from './within.ts'

type MateSet = NonNullable<NonNullable<PlanInput['wished']>['mates']>[number]

/** A seating with mates, and which of them it seats together. */
export interface MatesOutcome {
  outcome: WithinOutcome
  rules: WishRules
}

/**
 * Seats people by their wishes, and together those who have named each other, as they chose: where being together comes
 * first, it may cost wishes, but nothing that counts before them; where topics come first, nobody of them comes to a worse
 * wish for it and the whole to nothing worse. What cannot be is dropped. All are tried at once, then, where that is too
 * much, one after the other in an order that the lot draws.
 */
export function seatWithMates(
  input: WishInput,
  rules: WishRules,
  mates: readonly MateSet[] | undefined,
  work: Work,
  onBetter?: (found: MatesOutcome) => void,
): MatesOutcome {
  const seat = (own: WishRules, told?: (outcome: WithinOutcome) => void): MatesOutcome => ({
    rules: own,
    outcome: seatWithin(input, own, work, told),
  })
  const base = seat(rules, (outcome) => onBetter?.({ outcome, rules }))
  const seeking = new Set(input.wishers.map(({ key }) => key))
  const kept = new Set([...rules.together, ...rules.apart].flat())
  // Whom a rule of the course names, or who has a seat, is not asked about.
  const sets = (mates ?? []).filter(({ people }) => people.every((one) => seeking.has(one) && !kept.has(one)))
  if (sets.length === 0) return base
  const levels = levelsIn(input, rules)
  const before = levels.findIndex(({ part }) => part === 'wishes')
  const isFine = (now: MatesOutcome, than: MatesOutcome, added: readonly MateSet[]): boolean => {
    const [a, b] = [now.outcome, than.outcome]
    const part = before < 0 ? a.cost.length : before
    if (compareCosts(a.cost.slice(0, part), b.cost.slice(0, part)) > 0) return false
    if (added.every(({ first }) => first)) return true
    const rank = ({ outcome }: MatesOutcome, person: string) => {
      const own = outcome.seats.find((one) => one.person === person)
      return own?.rank ?? (own?.group == null ? Number.POSITIVE_INFINITY : Number.MAX_SAFE_INTEGER)
    }
    const worse = added.some(
      ({ first, people }) => !first && people.some((person) => rank(now, person) > rank(than, person)),
    )
    return !worse && compareCosts(a.cost, b.cost) <= 0
  }
  const withSets = (own: MatesOutcome, added: readonly MateSet[]): WishRules => ({
    ...own.rules,
    together: [...own.rules.together, ...added.map(({ people }) => [...people])],
  })
  let found = base
  for (const kind of [true, false]) {
    const drawn = drawStream(input.lotNumber, 'wishes: mates').shuffle(
      sets
        .filter(({ first }) => first === kind)
        .toSorted((a, b) => (a.people.join() < b.people.join() ? -1 : 1)),
    )
    if (drawn.length === 0) continue
    const all = seat(withSets(found, drawn))
    if (isFine(all, found, drawn)) {
      found = all
      continue
    }
    for (const set of drawn) {
      const next = seat(withSets(found, [set]))
      if (isFine(next, found, [set])) found = next
    }
  }
  return found
}

/** Rules for people with mates among them who sit together. */
export function withMates(rules: WishRules, together: readonly (readonly string[])[]): WishRules {
  return together.length === 0 ? rules : { ...rules, together: [...rules.together, ...together] }
}
