import { NO_LIMIT } from '../../src/core/limit.ts'
import { drawLots } from '../../src/core/lot.ts'
import type { Keeping, PlanGroup, PlanInput } from '../../src/core/plan/types.ts'

/**
 * A random hard case, the same for the same number: up to 600 students in up to five sections, up to 160 groups with
 * floors, limits or none, seats taken, one rule of up to 40 who keep apart and up to 30 pairs, apart or together.
 */
export function hardCase(number: number): PlanInput {
  const lot = drawLots(number * 7919 + 1)
  const between = (low: number, high: number) => low + lot.below(high - low + 1)
  const n = between(30, 600)
  const sections = Array.from({ length: between(0, 5) }, (_, i) => `section ${i}`)
  const share = between(3, 10)
  const count = Math.max(2, Math.min(160, Math.round((n / share) * (0.8 + lot.next() * 0.5))))
  const endless = lot.below(4) === 0
  const floor = between(1, share)
  const sectionOf = (i: number) => (sections.length === 0 ? null : (sections[i % sections.length] ?? null))
  const groups = Array.from(
    { length: count },
    (_, i): PlanGroup => ({
      key: `group ${i}`,
      section: sectionOf(i),
      seats: endless ? NO_LIMIT : Math.max(1, share + between(-1, 2)),
      blocked: lot.below(12) === 0 ? 1 : 0,
      floor: Math.max(1, floor - lot.below(2)),
    }),
  )
  const people = Array.from({ length: n }, (_, i) => ({
    key: `person ${i}`,
    name: `Given ${lot.below(500)} Surname ${lot.below(2_000)}`,
    section: sectionOf(i),
  }))
  const seated = lot.next() * 0.8
  const room = new Map(
    groups.map(({ key, seats, blocked }) => [key, seats === NO_LIMIT ? share + 2 : seats - blocked]),
  )
  const seats = people.flatMap(({ key, section }) => {
    const own = groups.filter((group) => group.section === section)
    const at = own[lot.below(Math.max(1, own.length))]
    if (!at || lot.next() > seated || (room.get(at.key) ?? 0) <= 0) return []
    room.set(at.key, (room.get(at.key) ?? 0) - 1)
    return [{ person: key, group: at.key }]
  })
  const pick = (of: readonly { key: string }[]) => of[lot.below(of.length)]?.key ?? ''
  const keepings: Keeping[] = [
    {
      key: 'many',
      kind: 'apart',
      people: [...new Set(Array.from({ length: between(2, 40) }, () => pick(people)))],
    },
  ]
  for (let i = between(0, 30); i > 0; i--) {
    const one = people[lot.below(n)]
    const others = people.filter(({ key, section }) => section === one?.section && key !== one?.key)
    if (!one || others.length === 0) continue
    keepings.push({
      key: `pair ${i}`,
      kind: lot.below(2) === 0 ? 'apart' : 'together',
      people: [one.key, pick(others)],
    })
  }
  return {
    people,
    groups,
    seats,
    heldFor: [],
    offers: 'section',
    keepings: keepings.filter(({ people: who }) => who.length > 1),
    method: (['evenly', 'lot', 'surname'] as const)[lot.below(3)] ?? 'evenly',
    lotNumber: number,
    floorsFirst: lot.below(5) > 0,
    mayDissolve: lot.below(2) === 0,
    release: (['none', 'none', 'all', 'afresh'] as const)[lot.below(4)] ?? 'none',
    pins: [],
  }
}
