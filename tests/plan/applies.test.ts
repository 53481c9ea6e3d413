import fc from 'fast-check'
import { expect, it } from 'vitest'
import { NO_LIMIT } from '../../src/core/limit.ts'
import { basisFrom } from '../../src/core/plan/basis.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import { PLAN_METHODS } from '../../src/core/plan/types.ts'
import { CHOICES } from '../../src/core/rules.ts'
import { checkSeatings, inOrderOfSeating, type SeatingFacts } from '../../src/core/seating.ts'

/** Facts of every kind: held seats for anybody, lowered limits, extra seats, paused people, bound and closed groups. */
const facts: fc.Arbitrary<SeatingFacts> = fc
  .record({
    sections: fc.integer({ min: 0, max: 2 }),
    offers: fc.constantFrom('section' as const, 'course' as const),
    seatsEach: fc.constantFrom(1, 1, 2),
    people: fc.array(fc.record({ section: fc.nat(2), active: fc.constantFrom(true, true, true, false) }), {
      minLength: 1,
      maxLength: 14,
    }),
    groups: fc.array(
      fc.record({
        // One in four or so is for all sections.
        section: fc.constantFrom(0, 1, 1, null),
        seats: fc.constantFrom(NO_LIMIT, 1, 2, 3, 4),
        offered: fc.constantFrom(true, true, true, true, false),
        bound: fc.constantFrom(false, false, false, true),
        held: fc.array(fc.option(fc.nat(13)), { maxLength: 2 }),
        // Hours of one day at which it begins, an hour and a half each; null without a date.
        begins: fc.constantFrom(null, null, 8, 9, 10),
      }),
      { minLength: 1, maxLength: 5 },
    ),
    seats: fc.array(fc.record({ person: fc.nat(13), group: fc.nat(4) }), { maxLength: 16 }),
    keepings: fc.array(
      fc.record({
        kind: fc.constantFrom('apart' as const, 'together' as const),
        people: fc.uniqueArray(fc.nat(13), { minLength: 2, maxLength: 3 }),
      }),
      { maxLength: 3 },
    ),
  })
  .map(({ sections, offers, seatsEach, people, groups, seats, keepings }) => {
    const section = (n: number) => (sections === 0 || n === 2 ? null : `s${n % sections}`)
    const sits = new Map<string, string[]>()
    for (const { person, group } of seats) {
      const [who, at] = [`p${person % people.length}`, `g${group % groups.length}`]
      const own = sits.get(who) ?? []
      if (own.length < seatsEach && !own.includes(at)) sits.set(who, [...own, at])
    }
    return {
      people: people.map((person, i) => ({
        key: `p${i}`,
        section: section(person.section),
        active: person.active,
      })),
      groups: groups.map((group, i) => ({
        key: `g${i}`,
        section: sections === 0 || group.section === null ? null : `s${group.section % sections}`,
        seats: group.seats,
        offered: group.offered,
        bound: group.bound,
        heldFor: group.held.map((n) => (n === null || n >= people.length ? null : `p${n}`)),
        startsAt:
          group.begins === null ? null : `2026-05-05T${String(group.begins).padStart(2, '0')}:00:00.000Z`,
        endsAt:
          group.begins === null ? null : `2026-05-05T${group.begins + 1}:30:00.000Z`.replace('T9', 'T09'),
      })),
      seats: [...sits].flatMap(([person, own]) => own.map((group) => ({ person, group }))),
      rules: { seatsEach, offers },
      keepings: keepings
        .map(({ kind, people: who }, i) => ({
          key: `k${i}`,
          kind,
          people: who.filter((n) => people[n]?.active).map((n) => `p${n}`),
        }))
        .filter(({ people: who }) => who.length > 1),
    }
  })

it('any plan for any facts applies at once, without a fault, and without a concern but for rules it reports', () => {
  fc.assert(
    fc.property(
      facts,
      fc.constantFrom(...PLAN_METHODS),
      fc.constantFrom('none' as const, 'all' as const, 'afresh' as const),
      fc.boolean(),
      fc.array(fc.integer({ min: 1, max: 4 }), { minLength: 5, maxLength: 5 }),
      fc.array(fc.uniqueArray(fc.nat(4), { maxLength: 3 }), { maxLength: 14 }),
      fc.constantFrom(...CHOICES.aim),
      fc.constantFrom(1, 2),
      (own, method, release, mayDissolve, floors, orders, aim, round) => {
        const names = new Map(own.people.map(({ key }, i) => [key, { name: `Given Sur${(i * 7) % 5}` }]))
        const basis = basisFrom(own, names, new Map(floors.map((floor, i) => [`g${i}`, floor])))
        const plan = makePlan({
          ...basis,
          method,
          lotNumber: 7,
          floorsFirst: true,
          mayDissolve,
          release,
          pins: [],
          byWishes: {
            aim,
            order: ['floors', 'moved', 'wishes'],
            round: Math.min(round, own.rules.seatsEach),
          },
          wished: {
            topics: Object.fromEntries(basis.groups.map(({ key }) => [key, key])),
            codes: {},
            lists: orders.map((order, i) => ({
              person: `p${i}`,
              ranks: order.map((n) => [`g${n}`]),
              cannot: i % 5 === 0 ? ['g4'] : [],
            })),
            mates: [{ people: ['p0', 'p1'], first: true }],
          },
        })
        const changes = [
          ...plan.moves.map(({ person, from, to }) => ({ person, from, to })),
          ...plan.left.flatMap(({ person, from }) => (from === null ? [] : [{ person, from, to: null }])),
        ]
        const { faults, concerns } = checkSeatings(inOrderOfSeating(changes, own), own)
        expect(faults).toEqual([])
        const reported = new Set(plan.conflicts.flatMap(({ keeping }) => keeping))
        const known = (code: string, people: readonly string[]) =>
          (code === 'kept-apart' || code === 'not-together') &&
          own.keepings.some(
            ({ key, people: who }) => reported.has(key) && people.every((person) => who.includes(person)),
          )
        expect(concerns.filter(({ code, person, others }) => !known(code, [person, ...others]))).toEqual([])
      },
    ),
    { numRuns: Number(process.env.RULE_RUNS ?? 1_000) },
  )
})
