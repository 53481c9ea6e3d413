import { existsSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import type { Plan, PlanInput } from '../../core/plan/types.ts'
import type { PlannerSays } from './planner.worker.ts'

/** Milliseconds that a plan may take; then the best one so far is taken. */
export const PLAN_TIME = 20_000

/** Makes plans for house rules beside the server's own thread, so that nobody waits for one. */
export interface Planner {
  /**
   * The best plan that can be found in time. One is made after the other.
   * @throws Error when there was none in time, or the input cannot be planned for
   */
  plan: (input: PlanInput) => Promise<Plan>
  /** Ends what is under way; its plan is not to be had any more. */
  close: () => Promise<void>
}

/** @param time milliseconds that one plan may take */
export function createPlanner(time = PLAN_TIME): Planner {
  let worker: Worker | null = null
  let closed = false
  let before: Promise<unknown> = Promise.resolve()
  const end = async () => {
    const ended = worker
    worker = null
    await ended?.terminate()
  }
  const planNow = (input: PlanInput) =>
    new Promise<Plan>((resolve, reject) => {
      if (closed) return reject(new Error('The server is stopping.'))
      worker ??= newWorker()
      const own = worker
      let best: Plan | null = null
      const done = (plan: Plan | null, why: string) => {
        clearTimeout(patience)
        own.off('message', onMessage).off('error', onError).off('exit', onExit)
        if (plan) resolve(plan)
        else reject(new Error(why))
      }
      const onMessage = (said: PlannerSays) => {
        if (said.kind === 'broken') return done(null, said.message)
        best = said.plan
        if (said.last) done(best, '')
      }
      const onError = (error: unknown) => {
        worker = null
        done(best, error instanceof Error ? error.message : String(error))
      }
      const onExit = () => {
        if (worker === own) worker = null
        done(null, 'The planner ended before it had a plan.')
      }
      const patience = setTimeout(() => {
        void end()
        done(best, `No plan was found within ${Math.round(time / 1_000)} seconds.`)
      }, time)
      own.on('message', onMessage).on('error', onError).on('exit', onExit)
      own.postMessage(input)
    })
  return {
    plan: (input) => {
      const next = before.then(() => planNow(input))
      before = next.catch(() => undefined)
      return next
    },
    close: async () => {
      closed = true
      await end()
    },
  }
}

/** The worker as it was built, or from its source where the server runs from there. */
function newWorker(): Worker {
  const built = fileURLToPath(new URL('./planner.worker.js', import.meta.url))
  const worker = existsSync(built) ? new Worker(built) : new Worker(FROM_SOURCE, { eval: true })
  worker.unref()
  return worker
}

const FROM_SOURCE = `import('tsx/esm/api').then(({ tsImport }) =>
  tsImport('./planner.worker.ts', ${JSON.stringify(import.meta.url)}))`
