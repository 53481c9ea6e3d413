import fc from 'fast-check'
import { PLAN_METHODS, type PlanInput } from '../../src/core/plan/types.ts'

/** Small inputs of every kind: sections or none, limits or none, floors, seats taken, released or not, keepings. */
export const smallInput = (most: { people: number; groups: number }): fc.Arbitrary<PlanInput> =>
  fc
    .record({
      sections: fc.integer({ min: 0, max: 2 }),
      people: fc.array(fc.record({ section: fc.nat(1), seat: fc.nat(9), released: fc.boolean() }), {
        minLength: 1,
        maxLength: most.people,
      }),
      groups: fc.array(
        fc.record({
          section: fc.nat(1),
          seats: fc.oneof({ weight: 5, arbitrary: fc.integer({ min: 1, max: 5 }) }, fc.constant(0)),
          blocked: fc.oneof({ weight: 4, arbitrary: fc.constant(0) }, fc.constant(1)),
          floor: fc.integer({ min: 1, max: 4 }),
          closed: fc.oneof({ weight: 6, arbitrary: fc.constant(false) }, fc.constant(true)),
        }),
        { minLength: 1, maxLength: most.groups },
      ),
      offers: fc.constantFrom('section' as const, 'course' as const),
      keepings: fc.array(
        fc.record({
          kind: fc.constantFrom('apart' as const, 'apart' as const, 'together' as const),
          people: fc.uniqueArray(fc.nat(most.people - 1), { minLength: 2, maxLength: 3 }),
        }),
        { maxLength: 4 },
      ),
      // By wishes another order counts: `tests/wishes/` has its own cases.
      method: fc.constantFrom(...PLAN_METHODS.filter((one) => one !== 'wishes')),
      lotNumber: fc.nat(99_999),
      floorsFirst: fc.boolean(),
      mayDissolve: fc.boolean(),
      release: fc.constantFrom('none' as const, 'all' as const, 'afresh' as const, 'some' as const),
    })
    .map(({ sections, people, groups, keepings, release, ...rest }) => {
      const section = (n: number) => (sections === 0 ? null : `s${n % sections}`)
      const made = people.map((person, i) => ({
        key: `p${i}`,
        name: `Name${(i * 7) % 10} Sur${(i * 3) % 10}`,
        section: section(person.section),
      }))
      const places = groups.map((group, i) => ({ ...group, key: `g${i}`, section: section(group.section) }))
      const room = new Map(
        places.map(({ key, seats, blocked }) => [key, seats === 0 ? 99 : Math.max(0, seats - blocked)]),
      )
      const seats: { person: string; group: string }[] = []
      people.forEach(({ seat }, i) => {
        const own = places.filter((group) => rest.offers === 'course' || group.section === made[i]?.section)
        const at = seat < own.length ? own[seat] : undefined
        if (!at || (room.get(at.key) ?? 0) === 0) return
        room.set(at.key, (room.get(at.key) ?? 0) - 1)
        seats.push({ person: `p${i}`, group: at.key })
      })
      return {
        ...rest,
        people: made,
        groups: places,
        seats,
        heldFor: [],
        pins: [],
        keepings: keepings
          .map((keeping, i) => ({
            key: `k${i}`,
            kind: keeping.kind,
            people: keeping.people.filter((n) => n < made.length).map((n) => `p${n}`),
          }))
          .filter((keeping) => keeping.people.length >= 2),
        release:
          release === 'some' ? people.flatMap(({ released }, i) => (released ? [`p${i}`] : [])) : release,
      }
    })
