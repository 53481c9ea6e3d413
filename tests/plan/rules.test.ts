import fc from 'fast-check'
import { expect, it } from 'vitest'
import { NO_LIMIT } from '../../src/core/limit.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import { seatsAfter } from '../../src/core/plan/seatsAfter.ts'
import { smallInput } from './cases.ts'

it('holds limits, sections and keepings, or reports what it cannot hold', () => {
  fc.assert(
    fc.property(smallInput({ people: 24, groups: 7 }), (input) => {
      const plan = makePlan(input)
      const before = new Map(input.seats.map(({ person, group }) => [person, group]))
      const after = seatsAfter(input, plan.moves, plan.left)
      const sits = new Map(after.map(({ person, group }) => [person, group]))
      // One seat each, and everybody is accounted for.
      expect(sits.size).toBe(after.length)
      for (const { key } of input.people) {
        const left = plan.left.some(({ person }) => person === key)
        expect(sits.has(key)).toBe(!left)
      }
      for (const { key, seats, blocked, closed } of input.groups) {
        const size = after.filter(({ group }) => group === key).length
        const was = input.seats.filter(({ group }) => group === key).length
        if (seats !== NO_LIMIT) expect(size).toBeLessThanOrEqual(Math.max(seats - blocked, was))
        if (closed)
          expect(after.filter(({ person, group }) => group === key && before.get(person) !== key)).toEqual([])
      }
      for (const { person, to, from } of plan.moves) {
        expect(from).toBe(before.get(person) ?? null)
        if (input.offers === 'course') continue
        const section = input.people.find(({ key }) => key === person)?.section
        expect(input.groups.find(({ key }) => key === to)?.section).toBe(section)
      }
      const reported = new Set(plan.conflicts.map(({ keeping }) => keeping))
      for (const { key, kind, people } of input.keepings) {
        const places = people.map((person) => sits.get(person))
        const seated = places.filter((place) => place !== undefined)
        if (kind === 'apart') {
          if (!reported.has(key)) expect(new Set(seated).size).toBe(seated.length)
        } else if (!reported.has(key)) expect(new Set(seated).size).toBeLessThanOrEqual(1)
      }
      if (input.release === 'none' && !input.mayDissolve) expect(plan.moved).toBe(0)
    }),
    { numRuns: Number(process.env.RULE_RUNS ?? 400) },
  )
})
