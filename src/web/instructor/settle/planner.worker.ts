import { chancesOf } from '../../../core/plan/chances.ts'
import { makePlan } from '../../../core/plan/plan.ts'
import type { Plan, PlanInput } from '../../../core/plan/types.ts'

/** What is asked of the worker: a plan, or what chances the lot gave. */
export type PlannerAsk = { kind: 'plan'; input: PlanInput } | { kind: 'chances'; input: PlanInput }

/**
 * What the worker says: how far it has come; a plan, the first soon and then better ones, and whether it is the last;
 * the chances; or that it broke.
 */
export type PlannerSays =
  | { kind: 'progress'; share: number }
  | { kind: 'plan'; plan: Plan; last: boolean }
  | { kind: 'chances'; chances: ReturnType<typeof chancesOf> }
  | { kind: 'broken'; message: string }

const say = (said: PlannerSays) => postMessage(said)

/** Milliseconds between two plans that are told while a search goes on. */
const PAUSE = 250

addEventListener('message', ({ data }: MessageEvent<PlannerAsk>) => {
  try {
    const onProgress = (share: number) => say({ kind: 'progress', share })
    if (data.kind === 'chances') return say({ kind: 'chances', chances: chancesOf(data.input, onProgress) })
    let told = Number.NEGATIVE_INFINITY
    const onBetter = (plan: () => Plan) => {
      if (performance.now() - told < PAUSE) return
      say({ kind: 'plan', plan: plan(), last: false })
      told = performance.now()
    }
    say({ kind: 'plan', plan: makePlan(data.input, { onProgress, onBetter }), last: true })
  } catch (error) {
    say({ kind: 'broken', message: error instanceof Error ? error.message : String(error) })
  }
})
