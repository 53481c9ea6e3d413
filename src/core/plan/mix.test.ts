import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { mix } from './mix.ts'
import { makePlan } from './plan.ts'
import { seatsAfter } from './seatsAfter.ts'
import type { Mixing, PlanInput } from './types.ts'

const inputFor = (people: number, groups: number, more: Partial<PlanInput> = {}): PlanInput => ({
  people: Array.from({ length: people }, (_, i) => ({ key: `p${i}`, name: `Given Sur${i}`, section: null })),
  groups: Array.from({ length: groups }, (_, i) => ({
    key: `g${i}`,
    section: null,
    seats: Math.ceil(people / groups),
    blocked: 0,
    floor: 1,
  })),
  seats: [],
  heldFor: [],
  offers: 'section',
  keepings: [],
  method: 'evenly',
  lotNumber: 7,
  floorsFirst: true,
  mayDissolve: false,
  release: 'none',
  pins: [],
  ...more,
})
/** Everybody of a group who met every other there. */
const metIn = (groups: readonly (readonly string[])[]): Mixing['met'] =>
  groups.flatMap((own) => own.flatMap((a, i) => own.slice(i + 1).map((b) => ({ a, b, times: 1 }))))
const met = (groups: readonly (readonly string[])[]): Mixing => ({ met: metIn(groups), attributes: [] })

describe('mixing', () => {
  it('finds partners of whom nobody has met another, where there are such, and says that it is proven', () => {
    const input = inputFor(12, 4)
    const old = [0, 1, 2, 3].map((g) => [0, 1, 2].map((i) => `p${g * 3 + i}`))
    const {
      plan,
      report: { after, proven },
    } = mix(input, makePlan(input), met(old))
    expect(after.again).toBe(0)
    expect(proven).toBe(true)
    expect(plan.moves).toHaveLength(12)
    expect(plan.after.sizes).toEqual({ least: 3, most: 3 })
  })

  it('says how many meet again where they must, and claims no proof', () => {
    // Four people in two groups of two, of whom everybody has met everybody.
    const input = inputFor(4, 2)
    const {
      report: { after, proven },
    } = mix(input, makePlan(input), met([['p0', 'p1', 'p2', 'p3']]))
    expect(after.again).toBe(2)
    expect(proven).toBe(false)
  })

  it('spreads an attribute over the groups, or gathers it in them, the weightier first', () => {
    const input = inputFor(12, 3)
    const level = new Map(input.people.map(({ key }, i) => [key, i < 3 ? 'high' : i < 6 ? 'middle' : 'low']))
    const spread = mix(input, makePlan(input), {
      met: [],
      attributes: [{ name: 'Level', how: 'mix', of: level }],
    })
    expect(spread.report.after.spread).toEqual([{ name: 'Level', off: 0 }])
    expect(spread.report.proven).toBe(true)
    const halves = new Map(input.people.map(({ key }, i) => [key, i < 4 ? 'a' : i < 8 ? 'b' : 'c']))
    const alike = mix(input, makePlan(input), {
      met: [],
      attributes: [{ name: 'Language', how: 'alike', of: halves }],
    })
    expect(alike.report.after.spread).toEqual([{ name: 'Language', off: 0 }])
    const both = mix(input, makePlan(input), {
      met: [],
      attributes: [
        { name: 'Level', how: 'mix', of: level },
        { name: 'Language', how: 'alike', of: halves },
      ],
    })
    expect(both.report.after.spread[0]).toEqual({ name: 'Level', off: 0 })
  })

  it('leaves those alone who are set by hand, kept apart or together, or sit already', () => {
    const input = inputFor(9, 3, {
      seats: [{ person: 'p0', group: 'g0' }],
      pins: [{ person: 'p1', group: 'g0' }],
      keepings: [{ key: 'k', kind: 'together', people: ['p2', 'p3'] }],
    })
    const plain = makePlan(input)
    const { plan } = mix(input, plain, met([['p0', 'p1', 'p2', 'p3', 'p4', 'p5', 'p6', 'p7', 'p8']]))
    const to = (key: string, of: typeof plan) => of.moves.find(({ person }) => person === key)?.to
    for (const person of ['p1', 'p2', 'p3']) expect(to(person, plan)).toBe(to(person, plain))
    expect(plan.moves.some(({ person }) => person === 'p0')).toBe(false)
  })

  it('gives the same for the same lot number', () => {
    const input = inputFor(20, 5)
    const old = [0, 1, 2, 3, 4].map((g) => [0, 1, 2, 3].map((i) => `p${g * 4 + i}`))
    expect(mix(input, makePlan(input), met(old)).plan.moves).toEqual(
      mix(input, makePlan(input), met(old)).plan.moves,
    )
  })

  it('finds what trying every seating finds, in small classes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 4, max: 7 }),
        fc.integer({ min: 2, max: 3 }),
        fc.array(fc.tuple(fc.nat(6), fc.nat(6)), { maxLength: 12 }),
        fc.array(fc.constantFrom('a', 'b', 'c'), { minLength: 7, maxLength: 7 }),
        (people, groups, pairs, values) => {
          const input = inputFor(people, groups)
          const known = new Set(pairs.filter(([a, b]) => a < b && b < people).map(([a, b]) => `${a} ${b}`))
          const mixing: Mixing = {
            met: [...known].map((pair) => {
              const [a, b] = pair.split(' ')
              return { a: `p${a}`, b: `p${b}`, times: 1 }
            }),
            attributes: [
              {
                name: 'Level',
                how: 'mix',
                of: new Map(input.people.map(({ key }, i) => [key, values[i] ?? ''])),
              },
            ],
          }
          const { plan, report } = mix(input, makePlan(input), mixing)
          const sizes = input.groups.map(({ key }) => plan.moves.filter(({ to }) => to === key).length)
          let best = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY]
          const all = (i: number, at: number[]) => {
            if (i === people) {
              const together = (a: number, b: number) => at[a] === at[b]
              const again = [...known].filter((pair) => {
                const [a, b] = pair.split(' ').map(Number)
                return together(a!, b!)
              }).length
              let squares = 0
              for (let g = 0; g < groups; g++)
                for (const value of ['a', 'b', 'c'])
                  squares += at.filter((own, person) => own === g && values[person] === value).length ** 2
              if (again < best[0]! || (again === best[0] && squares < best[1]!)) best = [again, squares]
              return
            }
            for (let g = 0; g < groups; g++)
              if (at.filter((own) => own === g).length < (sizes[g] ?? 0)) all(i + 1, [...at, g])
          }
          all(0, [])
          let squares = 0
          for (const { key } of input.groups)
            for (const value of ['a', 'b', 'c'])
              squares +=
                plan.moves.filter(({ person, to }) => to === key && values[Number(person.slice(1))] === value)
                  .length ** 2
          expect([report.after.again, squares]).toEqual(best)
        },
      ),
      { numRuns: 60 },
    )
  })

  it('never seats anybody where they may not sit, loses nobody, keeps every size, and is never mixed worse', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 16 }),
        fc.integer({ min: 1, max: 5 }),
        fc.array(fc.constantFrom('tue', 'wed', null), { minLength: 5, maxLength: 5 }),
        fc.array(fc.tuple(fc.nat(15), fc.nat(15)), { maxLength: 20 }),
        fc.boolean(),
        (people, groups, sections, pairs, byLevel) => {
          const base = inputFor(people, groups)
          const input: PlanInput = {
            ...base,
            people: base.people.map((one, i) => ({ ...one, section: i % 2 === 0 ? 'tue' : 'wed' })),
            groups: base.groups.map((one, i) => ({ ...one, section: sections[i] ?? null })),
          }
          const plain = makePlan(input)
          const mixing: Mixing = {
            met: pairs
              .filter(([a, b]) => a < b && b < people)
              .map(([a, b]) => ({ a: `p${a}`, b: `p${b}`, times: 1 })),
            attributes: byLevel
              ? [
                  {
                    name: 'Level',
                    how: 'mix',
                    of: new Map(base.people.map(({ key }, i) => [key, `${i % 3}`])),
                  },
                ]
              : [],
          }
          const {
            plan,
            report: { before, after, proven },
          } = mix(input, plain, mixing)
          const place = new Map(input.groups.map(({ key, section }) => [key, section]))
          const own = new Map(input.people.map(({ key, section }) => [key, section]))
          for (const { person, to } of plan.moves)
            expect([null, own.get(person)]).toContain(place.get(to) ?? null)
          const sizes = (of: typeof plan) =>
            [...input.groups.map(({ key }) => of.moves.filter(({ to }) => to === key).length)].join()
          expect(sizes(plan)).toBe(sizes(plain))
          expect(new Set(plan.moves.map(({ person }) => person)).size).toBe(plain.moves.length)
          expect(seatsAfter(input, plan.moves, plan.left)).toHaveLength(plan.moves.length)
          expect(after.again).toBeLessThanOrEqual(before.again)
          if (proven && mixing.met.length > 0 && !byLevel) expect(after.again).toBe(0)
        },
      ),
      { numRuns: 150 },
    )
  })
})
