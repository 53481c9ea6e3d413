import { planByWishes } from './byWishes.ts'
import { gapBetween } from './cost.ts'
import { type Drafted, draft } from './drafted.ts'
import { explain, plainReasons } from './explain.ts'
import { figuresOf } from './figures.ts'
import { mix } from './mix.ts'
import type { Plan, PlanInput } from './types.ts'
import { PLAN_STEPS, type PlanOptions, type Work, workOf } from './work.ts'

/**
 * The best plan for those who have no seat, or for more people, as far as seats are released: fewest left, then fewest
 * groups under their floor, then fewest seated people moved, then most even sizes (by lot: sizes as drawn).
 *
 * Pure: the same input and lot number give the same plan. Among plans that are as good, the lot decides: see `draw.ts`.
 * By wishes another order counts, and what is wished for: see `byWishes.ts`.
 * @throws RangeError when there are too many people and groups to count with
 */
export function makePlan(input: PlanInput, options: PlanOptions = {}): Plan {
  if (input.method === 'wishes') return planByWishes(input, options)
  const { steps = PLAN_STEPS, onProgress, onBetter } = options
  const work = workOf(steps)
  const told = () => onProgress?.(Math.min(1, work.spent / work.most))
  const drafted = draft(input, work, (better) => {
    told()
    onBetter?.(() => planOf(input, better, plainReasons(input, better)))
  })
  told()
  onBetter?.(() => planOf(input, drafted, plainReasons(input, drafted)))
  const plan = planOf(input, drafted, explain(input, drafted, explaining(work)))
  const mixed = input.mixing ? mix(input, plan, input.mixing).plan : plan
  onProgress?.(1)
  return mixed
}

/** Reasons are checked by planning again, for half of what the search may spend. */
function explaining({ most }: Work): Work {
  return workOf(most / 2)
}

/** A plan put together from who sits where and why. */
function planOf(
  input: PlanInput,
  drafted: Drafted,
  { reasons, leftReasons, conflicts }: ReturnType<typeof explain>,
): Plan {
  const order = new Map(input.people.map(({ key }, i) => [key, i]))
  const inOrder = (a: { person: string }, b: { person: string }) =>
    (order.get(a.person) ?? 0) - (order.get(b.person) ?? 0)
  const moves = [
    ...drafted.settled,
    ...drafted.moves.map(({ person, from, to }) => ({
      person,
      from,
      to,
      reason: reasons.get(person) ?? { code: 'lot' as const, among: null },
    })),
  ].sort(inOrder)
  const left = [
    ...drafted.leftBefore,
    ...drafted.left.map(({ person, from }) => ({
      person,
      from,
      reason: leftReasons.get(person) ?? { code: 'no-room' as const },
    })),
  ].sort(inOrder)
  return {
    moves,
    left,
    conflicts: [...conflicts],
    dissolved: drafted.dissolved,
    before: figuresOf(input, input.seats),
    after: figuresOf(input, drafted.seats),
    moved: [...moves, ...left].filter(({ from }) => from !== null).length,
    proven: gapBetween(drafted.cost, drafted.bound) === null,
    gap: gapBetween(drafted.cost, drafted.bound),
    evenChances: drafted.exact,
    mix: null,
    wishes: null,
  }
}
