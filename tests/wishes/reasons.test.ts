import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { workOf } from '../../src/core/plan/work.ts'
import { whyNotBetter } from '../../src/core/wishes/reasons.ts'
import { USUAL_ORDER, type WishRules } from '../../src/core/wishes/rules.ts'
import { seatByWishes } from '../../src/core/wishes/seat.ts'
import type { WishInput } from '../../src/core/wishes/types.ts'
import { seatWithin } from '../../src/core/wishes/within.ts'
import { smallClass } from './classes.ts'
import { everySeating, isLess, placed, vectorOf } from './every.ts'

describe('why not a better wish', () => {
  const groups = [
    { key: 'k', topic: 'kimchi', section: null, seats: 1 },
    { key: 'm', topic: 'miso', section: 'wed', seats: 1 },
    { key: 't', topic: 'tempeh', section: null, seats: 3 },
  ]
  const wishers = ['a', 'b', 'c'].map((key) => ({
    key,
    section: 'tue',
    ranks: [['miso'], ['kimchi'], ['tempeh']],
    cannot: [],
  }))
  const input: WishInput = { wishers, groups, aim: 'most-first', offers: 'section', lotNumber: 5 }

  it('is told with seats, how many wanted it, and the place in the lot', () => {
    const outcome = seatByWishes(input)
    const lucky = outcome.seats.find(({ rank }) => rank === 2)?.person ?? ''
    const other = outcome.seats.find(({ rank }) => rank === 3)?.person ?? ''
    expect(whyNotBetter(input, outcome, lucky)).toMatchObject([
      { topic: 'miso', rank: 1, code: 'not-open', seats: 0 },
    ])
    expect(whyNotBetter(input, outcome, other)).toEqual([
      {
        topic: 'miso',
        rank: 1,
        code: 'not-open',
        seats: 0,
        wanted: 3,
        place: expect.any(Number),
        instead: null,
      },
      {
        topic: 'kimchi',
        rank: 2,
        code: 'lot',
        seats: 1,
        wanted: 3,
        place: expect.any(Number),
        instead: null,
      },
    ])
    const places = ['a', 'b', 'c'].map((key) => whyNotBetter(input, outcome, key)[0]?.place)
    expect([...places].sort()).toEqual([1, 2, 3])
    expect(places['abc'.indexOf(lucky)]).toBe(1)
    expect(whyNotBetter(input, outcome, 'nobody')).toEqual([])
  })

  it('is the turn of others, in turn', () => {
    const turns: WishInput = { ...input, aim: 'in-turn' }
    const outcome = seatByWishes(turns)
    const other = outcome.seats.find(({ rank }) => rank === 3)?.person ?? ''
    expect(whyNotBetter(turns, outcome, other).map(({ code }) => code)).toEqual(['not-open', 'turn'])
  })

  it('counts a seat that is kept for them towards the floor of its group', () => {
    const four: WishInput = {
      ...input,
      wishers: ['a', 'b', 'c', 'd'].map((key) => ({
        key,
        section: 'tue',
        ranks: [['tempeh'], ['kimchi']],
        cannot: [],
      })),
      groups: [
        { key: 'k', topic: 'kimchi', section: null, seats: 2 },
        { key: 't', topic: 'tempeh', section: null, seats: 3 },
      ],
    }
    const rules: WishRules = {
      together: [],
      apart: [],
      floors: new Map([['t', { floor: 3, fixed: 0 }]]),
      order: USUAL_ORDER,
    }
    const outcome = seatWithin(four, rules, workOf(50_000_000))
    const last = outcome.seats.find(({ rank }) => rank === 2)?.person ?? ''
    // Three at tempeh and one at kimchi: with the seat kept for them there, two more are as many as its floor asks for.
    expect(whyNotBetter(four, outcome, last, rules)).toMatchObject([{ topic: 'tempeh', code: 'lot' }])
  })

  it.each(['most-first', 'nobody-far-down', 'least-total'] as const)(
    '%s: is the lot where a seating as good gives it, and the aim where every one that does is worse',
    (aim) => {
      fc.assert(
        fc.property(smallClass, (drawn) => {
          const input: WishInput = { ...drawn, aim }
          const outcome = seatByWishes(input)
          const best = vectorOf(input, placed(input, outcome.seats))
          const all = [...everySeating(input)].map((at) => ({ at, vector: vectorOf(input, at) }))
          for (const [i, { key }] of input.wishers.entries()) {
            for (const { topic, code } of whyNotBetter(input, outcome, key)) {
              const having = all.filter(({ at }) => input.groups[at[i] ?? -1]?.topic === topic)
              const asGood = having.some(({ vector }) => !isLess(best, vector))
              expect(code).toBe(
                having.length === 0 && code === 'not-open' ? 'not-open' : asGood ? 'lot' : 'aim',
              )
            }
          }
        }),
        { numRuns: 300 },
      )
    },
  )
})
