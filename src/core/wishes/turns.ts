import { openTo } from './network.ts'
import { apartFrom, rankOf, type WishRules } from './rules.ts'
import { seatDrawn } from './seat.ts'
import type { Wisher, WishGroup, WishInput, WishSeat } from './types.ts'

/**
 * One after the other by lot, within rules: those who keep together choose at the turn of the first of them, nobody
 * chooses a group with somebody from whom they keep apart. As long as a group stays below its floor, the one with the
 * fewest is closed and all choose again; a group is closed only where nobody more is left without a seat for it.
 *
 * People and groups are in the order of the lot. Wishes that are equal are told apart by that order.
 */
export function turnsWithin(drawn: WishInput, rules: WishRules): WishSeat[] {
  const plain = rules.together.length === 0 && rules.apart.length === 0
  const seat = (groups: readonly WishGroup[]) =>
    plain ? seatDrawn({ ...drawn, groups }) : oneByOne({ ...drawn, groups }, rules)
  let groups = drawn.groups
  let seats = seat(groups)
  const left = (all: readonly WishSeat[]) => all.filter(({ group }) => group === null).length
  for (const kept = new Set<string>(); ; ) {
    const sizes = new Map<string, number>()
    for (const { group } of seats) if (group !== null) sizes.set(group, (sizes.get(group) ?? 0) + 1)
    const [low] = groups
      .filter(({ key }) => {
        const { floor = 0, fixed = 0 } = rules.floors.get(key) ?? {}
        return fixed === 0 && !kept.has(key) && (sizes.get(key) ?? 0) > 0 && (sizes.get(key) ?? 0) < floor
      })
      .sort((a, b) => (sizes.get(a.key) ?? 0) - (sizes.get(b.key) ?? 0))
    if (!low) return seats
    const without = groups.map((group) => (group === low ? { ...group, seats: 0 } : group))
    const next = seat(without)
    if (left(next) > left(seats)) kept.add(low.key)
    else [groups, seats] = [without, next]
  }
}

function oneByOne(drawn: WishInput, rules: WishRules): WishSeat[] {
  const { wishers, groups } = drawn
  const apart = apartFrom(rules)
  const byKey = new Map(wishers.map((one) => [one.key, one]))
  const unitOf = new Map(rules.together.flatMap((unit) => unit.map((person) => [person, unit] as const)))
  const free = groups.map(({ seats }) => seats)
  const at = new Map<string, number | null>()
  const choose = (person: Wisher) => {
    if (at.has(person.key)) return
    const unit = (unitOf.get(person.key) ?? [person.key]).flatMap((key) => byKey.get(key) ?? [])
    const opens = unit.map((one) => new Set(openTo(one, drawn)))
    const may = (g: number) =>
      (free[g] as number) >= unit.length &&
      opens.every((open) => open.has(g)) &&
      unit.every(({ key }) => !(apart.get(key) ?? []).some((other) => at.get(other) === g))
    const rank = (one: Wisher, g: number) => rankOf(one, groups[g]?.topic) ?? Number.MAX_SAFE_INTEGER
    const others = unit.filter((one) => one !== person)
    const sum = (g: number) =>
      others.reduce((total, one) => total + Math.min(rank(one, g), wishers.length), 0)
    const [best = null] = groups
      .flatMap((_, g) => (may(g) ? [g] : []))
      .sort((a, b) => rank(person, a) - rank(person, b) || sum(a) - sum(b) || a - b)
    for (const one of unit) at.set(one.key, best)
    if (best !== null) free[best] = (free[best] as number) - unit.length
  }
  for (const one of wishers) if (one.ranks.length > 0) choose(one)
  for (const one of wishers) choose(one)
  return wishers.map((one) => {
    const g = at.get(one.key) ?? null
    return {
      person: one.key,
      group: g === null ? null : (groups[g]?.key ?? null),
      rank: g === null ? null : rankOf(one, groups[g]?.topic),
    }
  })
}
