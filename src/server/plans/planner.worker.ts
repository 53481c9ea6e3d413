import { parentPort } from 'node:worker_threads'
import { makePlan } from '../../core/plan/plan.ts'
import type { Plan, PlanInput } from '../../core/plan/types.ts'

/** What the worker says: the best plan so far, the last one, or that it broke. */
export type PlannerSays = { kind: 'plan'; plan: Plan; last: boolean } | { kind: 'broken'; message: string }

const port = parentPort
port?.on('message', (input: PlanInput) => {
  const say = (said: PlannerSays) => port.postMessage(said)
  try {
    const plan = makePlan(input, {
      onBetter: (better) => say({ kind: 'plan', plan: better(), last: false }),
    })
    say({ kind: 'plan', plan, last: true })
  } catch (error) {
    say({ kind: 'broken', message: error instanceof Error ? error.message : String(error) })
  }
})
