import { existsSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import type { Plan, PlanInput } from '../../core/plan/types.ts'
import type { WishSeat } from '../../core/wishes/types.ts'
import type { WhyFound } from '../../core/wishes/why.ts'
import type { OddsFound, PlannerAsked, PlannerSays } from './planner.worker.ts'

/** Milliseconds that a plan may take; then the best one so far is taken. */
export const PLAN_TIME = 20_000

/** Makes plans for house rules beside the server's own thread, so that nobody waits for one. */
export interface Planner {
  /**
   * The best plan that can be found in time. One is made after the other.
   * @throws Error when there was none in time, or the input cannot be planned for
   */
  plan: (input: PlanInput) => Promise<Plan>
  /**
   * Why somebody has none of the wishes that they like better.
   * @param seats that were given
   * @throws Error as above
   */
  why: (
    of: { input: PlanInput; seats: readonly WishSeat[]; together: string[][] },
    person: string,
  ) => Promise<WhyFound>
  /**
   * How often everybody would come to which wish, over many lots.
   * @throws Error as above
   */
  odds: (input: PlanInput) => Promise<OddsFound>
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
  /** @param answerOf what a message says; undefined for nothing yet */
  const askNow = <Answer>(
    asked: PlannerAsked,
    answerOf: (said: PlannerSays) => { answer: Answer; last: boolean } | undefined,
  ) =>
    new Promise<Answer>((resolve, reject) => {
      if (closed) return reject(new Error('The server is stopping.'))
      worker ??= newWorker()
      const own = worker
      let best: { answer: Answer } | null = null
      const done = (found: { answer: Answer } | null, why: string) => {
        clearTimeout(patience)
        own.off('message', onMessage).off('error', onError).off('exit', onExit)
        if (found) resolve(found.answer)
        else reject(new Error(why))
      }
      const onMessage = (said: PlannerSays) => {
        if (said.kind === 'broken') return done(null, said.message)
        const told = answerOf(said)
        if (!told) return
        best = told
        if (told.last) done(best, '')
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
      own.postMessage(asked)
    })
  const inTurn = <Answer>(work: () => Promise<Answer>): Promise<Answer> => {
    const next = before.then(work)
    before = next.catch(() => undefined)
    return next
  }
  return {
    plan: (input) =>
      inTurn(() =>
        askNow({ kind: 'plan', input }, (said) =>
          said.kind === 'plan' ? { answer: said.plan, last: said.last } : undefined,
        ),
      ),
    why: ({ input, seats, together }, person) =>
      inTurn(() =>
        askNow({ kind: 'why', input, seats, together, person }, (said) =>
          said.kind === 'why' ? { answer: said.found, last: true } : undefined,
        ),
      ),
    odds: (input) =>
      inTurn(() =>
        askNow({ kind: 'odds', input }, (said) =>
          said.kind === 'odds' ? { answer: said.found, last: true } : undefined,
        ),
      ),
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
