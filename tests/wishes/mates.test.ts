import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { workOf } from '../../src/core/plan/work.ts'
import { matesFault, mutualMates } from '../../src/core/wishes/list.ts'
import { seatWithMates } from '../../src/core/wishes/mates.ts'
import { brokenBy, compareCosts, costOf, levelsIn } from '../../src/core/wishes/rules.ts'
import type { WishInput, WishSeat } from '../../src/core/wishes/types.ts'
import { seatWithin } from '../../src/core/wishes/within.ts'
import { withRules } from './classes.ts'

const AIMS = ['most-first', 'nobody-far-down', 'least-total', 'in-turn'] as const
const STEPS = 50_000_000

describe('mates', () => {
  const of = (named: Record<string, string[]>, first: string[] = []) =>
    new Map(
      Object.entries(named).map(([key, people]) => [
        key,
        {
          address: `${key}@x`,
          mates: { people: people.map((one) => `${one}@x`), first: first.includes(key) },
        },
      ]),
    )

  it('count once each has named all the others, and nobody else', () => {
    expect(mutualMates(of({ a: ['b'], b: ['a'] }))).toEqual([{ people: ['a', 'b'], first: false }])
    expect(mutualMates(of({ a: ['b', 'c'], b: ['a', 'c'], c: ['b', 'a'] }, ['a', 'b', 'c']))).toEqual([
      { people: ['a', 'b', 'c'], first: true },
    ])
    expect(mutualMates(of({ a: ['b'], b: ['a', 'c'], c: ['b'] }))).toEqual([])
    expect(mutualMates(of({ a: ['b'], b: [] }))).toEqual([])
    expect(mutualMates(of({ a: ['nobody'] }))).toEqual([])
    // Being together comes first only where all of them say so.
    expect(mutualMates(of({ a: ['b'], b: ['a'] }, ['a']))[0]?.first).toBe(false)
  })

  it('are not oneself, not twice, and not too many', () => {
    const fault = (people: string[]) => matesFault({ people, first: false }, 'me@x', 2)?.code ?? null
    expect(fault(['a@x', 'b@x'])).toBeNull()
    expect(fault(['a@x', 'b@x', 'c@x'])).toBe('too-many-mates')
    expect(fault(['a@x', 'a@x'])).toBe('mate-twice')
    expect(fault(['me@x'])).toBe('mate-self')
  })

  it.each(AIMS)('%s: are seated together as they chose, and nothing that counts before suffers', (aim) => {
    fc.assert(
      fc.property(withRules, fc.boolean(), fc.nat(4), fc.nat(4), ({ input: given, rules }, first, i, j) => {
        const input: WishInput = { ...given, aim }
        const [a, b] = [input.wishers[i]?.key, input.wishers[j]?.key]
        if (a === undefined || b === undefined || a === b) return
        const alone = seatWithin(input, rules, workOf(STEPS))
        const found = seatWithMates(input, rules, [{ people: [a, b], first }], workOf(STEPS))
        const { seats, cost } = found.outcome
        expect(brokenBy(rules, seats).filter(({ what }) => what !== 'floor')).toEqual([])
        expect(costOf(input, found.rules, seats)).toEqual(cost)
        const before = levelsIn(input, rules).findIndex(({ part }) => part === 'wishes')
        const part = before < 0 ? cost.length : before
        expect(compareCosts(cost.slice(0, part), alone.cost.slice(0, part))).toBeLessThanOrEqual(0)
        const at = (all: readonly WishSeat[], who: string) => all.find(({ person }) => person === who)
        const together = found.rules.together.length > rules.together.length
        if (together) expect(at(seats, a)?.group).toBe(at(seats, b)?.group)
        else expect(seats).toEqual(alone.seats)
        if (together && !first) {
          expect(compareCosts(cost, alone.cost)).toBeLessThanOrEqual(0)
          for (const who of [a, b])
            expect(at(seats, who)?.rank ?? 99).toBeLessThanOrEqual(at(alone.seats, who)?.rank ?? 99)
        }
      }),
      { numRuns: 300 },
    )
  })
})
