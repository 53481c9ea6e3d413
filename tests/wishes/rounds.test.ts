import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkWishes } from '../../scripts/lib/checkWishes.mjs'
import { groundOf } from '../../src/core/plan/byWishes.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import type { PlanInput } from '../../src/core/plan/types.ts'
import { recordOf } from '../../src/core/wishes/record.ts'
import { peopleByLot } from '../../src/core/wishes/seat.ts'
import type { WishAim } from '../../src/core/wishes/types.ts'
import { seatsGiven } from '../../src/core/wishes/why.ts'

const AIMS = ['most-first', 'nobody-far-down', 'least-total', 'in-turn'] as const

/** A class on a sheet on which everybody may hold two seats: up to seven people on up to five topics, some dated. */
const classes = fc.record({
  lotNumber: fc.nat(),
  lists: fc.array(fc.uniqueArray(fc.nat(4), { maxLength: 5 }), { minLength: 1, maxLength: 7 }),
  groups: fc.array(
    fc.record({ seats: fc.integer({ min: 1, max: 4 }), begins: fc.constantFrom(null, null, 8, 9) }),
    { minLength: 2, maxLength: 5 },
  ),
})
type Class = typeof classes extends fc.Arbitrary<infer One> ? One : never

function inputOf({ lotNumber, lists, groups }: Class, aim: WishAim): PlanInput {
  const hour = (n: number) => `2026-05-05T${String(n).padStart(2, '0')}:00:00.000Z`
  return {
    people: lists.map((_, i) => ({ key: `p${i}`, name: `Ada ${i}`, section: null })),
    groups: groups.map(({ seats, begins }, i) => ({
      key: `g${i}`,
      section: null,
      seats,
      blocked: 0,
      floor: 1,
      ...(begins !== null && { slot: { startsAt: hour(begins), endsAt: hour(begins + 2) } }),
    })),
    seats: [],
    heldFor: [],
    offers: 'course',
    keepings: [],
    method: 'wishes',
    lotNumber,
    floorsFirst: true,
    mayDissolve: false,
    release: 'none',
    pins: [],
    byWishes: { aim, order: ['floors', 'moved', 'wishes'] },
    wished: {
      topics: {},
      codes: {},
      lists: lists.map((list, i) => ({
        person: `p${i}`,
        ranks: list.filter((n) => n < groups.length).map((n) => [`g${n}`]),
        cannot: [],
      })),
    },
  }
}

/** The same once a plan is applied, in its second round. */
const second = (input: PlanInput, seats: PlanInput['seats']): PlanInput => ({
  ...input,
  seats,
  byWishes: { ...input.byWishes!, round: 2 },
})
const given = (input: PlanInput) => {
  const plan = makePlan(input)
  return { plan, seats: [...input.seats, ...plan.moves.map(({ person, to }) => ({ person, group: to }))] }
}

describe('a second round', () => {
  it.each(AIMS)(
    '%s: gives everybody another seat, past no limit, not at one time, and moves nobody',
    (aim) => {
      fc.assert(
        fc.property(classes, (drawn) => {
          const input = inputOf(drawn, aim)
          const first = given(input)
          const { plan, seats } = given(second(input, first.seats))
          expect(plan.moves.every(({ from }) => from === null)).toBe(true)
          expect(plan.moved).toBe(0)
          for (const { key, seats: limit } of input.groups)
            expect(seats.filter(({ group }) => group === key).length).toBeLessThanOrEqual(limit)
          for (const { key } of input.people) {
            const own = seats.filter(({ person }) => person === key).map(({ group }) => group)
            expect(new Set(own).size).toBe(own.length)
            expect(own.length).toBeLessThanOrEqual(2)
            const [a, b] = own.map((at) => input.groups.find((group) => group.key === at)?.slot?.startsAt)
            // All are two hours long, and begin at eight or at nine.
            expect(a !== undefined && b !== undefined).toBe(false)
          }
          expect(plan.after.left).toBe(
            input.people.filter(({ key }) => seats.filter(({ person }) => person === key).length < 2).length,
          )
          expect(plan.left.length).toBe(plan.after.left)
        }),
        { numRuns: 400 },
      )
    },
  )

  it('in turn: goes through the lot from its end, and each takes the best that is left for them', () => {
    fc.assert(
      fc.property(classes, (drawn) => {
        const input = inputOf(drawn, 'in-turn')
        const first = given(input)
        const { input: question } = groundOf(input)
        const again = second(input, first.seats)
        const { plan } = given(again)
        const order = peopleByLot(question)
          .map(({ key }) => key)
          .reverse()
        expect(peopleByLot(groundOf(again).input).map(({ key }) => key)).toEqual(order)
        const free = new Map(
          input.groups.map(({ key, seats }) => [
            key,
            seats - first.seats.filter(({ group }) => group === key).length,
          ]),
        )
        const wishes = new Map(input.wished!.lists.map(({ person, ranks }) => [person, ranks.flat()]))
        for (const person of order.filter((one) => wishes.get(one)!.length > 0)) {
          const own = first.seats.find((seat) => seat.person === person)?.group
          const dated = (at: string | undefined) =>
            input.groups.find(({ key }) => key === at)?.slot !== undefined
          const best = wishes
            .get(person)!
            .find((group) => group !== own && (free.get(group) ?? 0) > 0 && !(dated(own) && dated(group)))
          const got = plan.moves.find((move) => move.person === person)?.to
          if (best !== undefined) expect(got).toBe(best)
          if (got !== undefined) free.set(got, (free.get(got) ?? 0) - 1)
        }
      }),
      { numRuns: 1_000 },
    )
  })

  it.each(AIMS)('%s: leaves a record that a reader of another hand finds right', (aim) => {
    fc.assert(
      fc.property(classes, (drawn) => {
        const input = inputOf(drawn, aim)
        const again = second(input, given(input).seats)
        const plan = makePlan(again)
        const { input: question, rules } = groundOf(again)
        const record = recordOf(question, { seats: seatsGiven(again, plan) }, { rules, proven: plan.proven })
        expect(record.reversed).toBe(true)
        expect(checkWishes(JSON.parse(JSON.stringify(record)))).toEqual([])
      }),
      { numRuns: 300 },
    )
  })

  it('seats those first who had none, beside those who have one, and counts who sits there for a floor', () => {
    const input = inputOf(
      {
        lotNumber: 3,
        lists: [[0, 1], [0, 1], [1]],
        groups: [
          { seats: 1, begins: null },
          { seats: 3, begins: null },
        ],
      },
      'most-first',
    )
    const floored = {
      ...input,
      groups: input.groups.map((group) => ({ ...group, floor: group.key === 'g1' ? 3 : 1 })),
    }
    const seats = [
      { person: 'p0', group: 'g0' },
      { person: 'p2', group: 'g1' },
    ]
    const { plan } = given(second(floored, seats))
    expect(plan.moves.map(({ person, to }) => `${person} ${to}`)).toEqual(['p0 g1', 'p1 g1'])
    expect(plan.after).toMatchObject({ under: 0, left: 2 })
    expect(plan.wishes?.round).toBe(2)
  })
})
