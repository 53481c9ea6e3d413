import { NO_LIMIT } from '../../src/core/limit.ts'
import type { PlanInput } from '../../src/core/plan/types.ts'

/** A way to seat everybody, with how many ways it stands for: by lot those of the seats within groups. */
export interface EveryPlan {
  /** The group of each person, or null for none, as one text. */
  key: string
  weight: number
}

/**
 * Every plan for a small input that no plan is better than, found by trying all, in a model that shares nothing with
 * how ours are found. Nobody is set by hand, and each has one seat at most.
 */
export function everyPlan(input: PlanInput): EveryPlan[] {
  const { people, groups, seats, keepings, release, method } = input
  // Drawn afresh, nobody sits anywhere.
  const now = people.map(({ key }) =>
    release === 'afresh' ? null : (seats.find(({ person }) => person === key)?.group ?? null),
  )
  const loose = people.map(({ key }) =>
    typeof release === 'string' ? release !== 'none' : release.includes(key),
  )
  const heldBy = people.map(({ key }, p) =>
    now[p] === null ? (input.heldFor.find(({ person }) => person === key)?.group ?? null) : null,
  )
  const lowToday = new Set(
    groups
      .filter(({ key, floor }) => {
        const size = now.filter((at) => at === key).length
        return input.mayDissolve && input.floorsFirst && size > 0 && size < floor
      })
      .map(({ key }) => key),
  )
  let best: number[] = []
  let plans: EveryPlan[] = []
  const at: (string | null)[] = []
  const judge = () => {
    const emptied = [...lowToday].filter((key) => !at.includes(key))
    const stays = people.every(
      (_, p) => now[p] === null || loose[p] || at[p] === now[p] || emptied.includes(now[p] ?? ''),
    )
    if (!stays) return
    const sizeOf = (key: string) => at.filter((one) => one === key).length
    for (const { key, seats: limit, blocked } of groups) {
      const kept = input.heldFor.filter(
        ({ person, group }) => group === key && !people.some((one, p) => one.key === person && at[p] === key),
      ).length
      if (limit !== NO_LIMIT && sizeOf(key) > limit - blocked - kept) return
    }
    for (const { kind, people: named } of keepings) {
      const places = named.map((name) => at[people.findIndex(({ key }) => key === name)] ?? null)
      const seated = places.filter((place) => place !== null)
      if (kind === 'apart' && new Set(seated).size < seated.length) return
      if (kind === 'together' && new Set(places).size > 1) return
    }
    const cost = [
      at.filter((one) => one === null).length,
      groups.filter(({ key, floor }) => input.floorsFirst && sizeOf(key) > 0 && sizeOf(key) < floor).length,
      people.filter((_, p) => now[p] !== null && at[p] !== now[p]).length,
      method === 'lot' ? 0 : groups.reduce((sum, { key }) => sum + sizeOf(key) ** 2, 0),
    ]
    const first = cost.findIndex((part, i) => part !== best[i])
    if (plans.length > 0 && first >= 0 && (cost[first] ?? 0) > (best[first] ?? 0)) return
    if (plans.length === 0 || first >= 0) {
      best = cost
      plans = []
    }
    plans.push({ key: at.map((one) => one ?? '-').join(' '), weight: method === 'lot' ? ways() : 1 })
  }
  /** In how many ways newcomers can take the free seats of their groups. */
  const ways = () => {
    const comers = people.filter((_, p) => at[p] !== null && at[p] !== now[p]).length
    return groups.reduce((product, { key, seats: limit, blocked }) => {
      const stay = people.filter((_, p) => at[p] === key && now[p] === key).length
      const come = people.filter((_, p) => at[p] === key && now[p] !== key && heldBy[p] !== key).length
      const heldThere = people.filter((_, p) => at[p] === key && heldBy[p] === key).length
      const kept = input.heldFor.filter(
        ({ person, group }) => group === key && !people.some((one, p) => one.key === person && at[p] === key),
      ).length
      const free = limit === NO_LIMIT ? comers : limit - blocked - kept - stay - heldThere
      let own = product
      for (let i = 0; i < come; i++) own *= free - i
      return own
    }, 1)
  }
  const go = (p: number): void => {
    const person = people[p]
    if (!person) {
      judge()
      return
    }
    const open = groups.filter(
      ({ key, section, closed }) =>
        (input.offers === 'course' || section === person.section) && (!closed || now[p] === key),
    )
    const places = heldBy[p] !== null ? [heldBy[p] ?? null] : [...open.map(({ key }) => key), null]
    for (const place of places) {
      at[p] = place
      go(p + 1)
    }
    at.length = p
  }
  go(0)
  return plans
}
