import fc from 'fast-check'
import { expect, it } from 'vitest'
import { makePlan } from '../../src/core/plan/plan.ts'
import { seatsAfter } from '../../src/core/plan/seatsAfter.ts'
import type { Plan, PlanInput } from '../../src/core/plan/types.ts'
import { smallInput } from './cases.ts'
import { type Cost, exactCost } from './exactPlan.ts'
import { KEPT } from './kept.ts'

/** What a plan of ours costs, counted from who sits where when it is applied. */
function costOf(input: PlanInput, plan: Plan): Cost {
  const after = seatsAfter(input, plan.moves, plan.left)
  const sizes = input.groups.map(({ key }) => after.filter(({ group }) => group === key).length)
  const seated = new Set(after.map(({ person }) => person))
  const counts = (floor: number) => (input.floorsFirst ? floor : 1)
  return {
    left: input.people.filter(({ key }) => !seated.has(key)).length,
    under: input.groups.filter(({ floor }, g) => (sizes[g] ?? 0) > 0 && (sizes[g] ?? 0) < counts(floor))
      .length,
    moved:
      input.release === 'afresh'
        ? plan.moves.filter(({ reason }) => reason.code === 'dissolved').length
        : plan.moved,
    squares: sizes.reduce((sum, size) => sum + size * size, 0),
  }
}

const comparable = ({ method }: PlanInput, { left, under, moved, squares }: Cost) =>
  method === 'lot' ? { left, under, moved } : { left, under, moved, squares }

it('is as good as an exact solver’s answer, on hundreds of small cases', { timeout: 240_000 }, async () => {
  let compared = 0
  await fc.assert(
    fc.asyncProperty(smallInput({ people: 9, groups: 4 }), async (input) => {
      const plan = makePlan(input)
      // Keepings that contradict each other are dropped and reported; the solver would find no answer at all.
      fc.pre(plan.conflicts.every(({ code }) => code === 'no-room'))
      fc.pre(input.release !== 'afresh' || !input.mayDissolve)
      expect(plan.proven).toBe(true)
      expect(comparable(input, costOf(input, plan))).toEqual(comparable(input, await exactCost(input)))
      compared += 1
    }),
    { numRuns: Number(process.env.PLAN_RUNS ?? 300) },
  )
  expect(compared).toBeGreaterThanOrEqual(300)
})

it.each(Object.entries(KEPT))('is as good in a case that was found once: %s', async (_, input) => {
  const plan = makePlan(input)
  // What cannot hold is left out, as in our plan.
  const refused = plan.conflicts.filter(({ code }) => code !== 'no-room').map(({ keeping }) => keeping)
  const held = { ...input, keepings: input.keepings.filter(({ key }) => !refused.includes(key)) }
  expect(comparable(input, costOf(input, plan))).toEqual(comparable(input, await exactCost(held)))
})
