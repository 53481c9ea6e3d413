import { makePlan } from '../../../core/plan/plan.ts'
import type { Plan, PlanInput } from '../../../core/plan/types.ts'

/** What the worker says: how far it has come, the plan, or that it broke. */
export type PlannerSays =
  | { kind: 'progress'; share: number }
  | { kind: 'plan'; plan: Plan }
  | { kind: 'broken'; message: string }

const say = (said: PlannerSays) => postMessage(said)

addEventListener('message', ({ data }: MessageEvent<PlanInput>) => {
  try {
    say({ kind: 'plan', plan: makePlan(data, (share) => say({ kind: 'progress', share })) })
  } catch (error) {
    say({ kind: 'broken', message: error instanceof Error ? error.message : String(error) })
  }
})
