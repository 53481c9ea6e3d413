import type { Calm } from '../calm.ts'
import { ProblemError } from '../http/problem.ts'
import type { Db } from './open.ts'

/** A job that was done. */
interface Done<Outcome> {
  outcome: Outcome
}

/** A job that broke, with what broke it. */
interface Broken {
  error: unknown
}

interface Waiting<Job, Outcome> {
  job: Job
  resolve: (outcome: Outcome) => void
  reject: (error: unknown) => void
}

/** Jobs done in one transaction at most, and milliseconds that they take at most; the rest wait for the next. */
const BATCH = 256
const TURN = 8

/** Jobs that may wait for their turn; more are sent away at once, to come again, instead of making all wait. */
const MOST_WAITING = 4_096

export interface BatchParts<Job, Outcome> {
  db: Db
  calm: Calm
  /** Does one job, in a transaction that may hold others. */
  one: (job: Job) => Outcome
  /** What is done once a batch is on disk, whatever became of each. */
  after: (jobs: readonly Job[]) => void
  /** What is said in the log where a job broke. */
  words: string
  /** Jobs that may wait for their turn at once. */
  mostWaiting?: number
  /** Does something in one of the next rounds of the event loop. */
  whenQuiet?: (work: () => void) => void
  /** Milliseconds, for the length of a turn. */
  time?: () => number
}

/**
 * Takes jobs in order of arrival, does those that came together in one immediate transaction, and answers each after its
 * commit: one flush to the disk for many. A job that breaks is undone alone; when the commit fails, none of its batch
 * happened and each of them hears so.
 */
export function createBatches<Job, Outcome>(parts: BatchParts<Job, Outcome>) {
  const { mostWaiting = MOST_WAITING, whenQuiet = setImmediate, time = () => performance.now() } = parts
  const queue: Waiting<Job, Outcome>[] = []
  let planned = false

  const doOne = (job: Job): Done<Outcome> => ({ outcome: parts.one(job) })
  /**
   * Does jobs one after the other for as long as a turn lasts, one at least: between two turns whoever else asks the
   * server something is heard, however many jobs wait.
   */
  const forOneTurn = (
    batch: readonly Waiting<Job, Outcome>[],
    one: (job: Job) => Done<Outcome> | Broken,
  ): (Done<Outcome> | Broken)[] => {
    const ends = time() + TURN
    const done: (Done<Outcome> | Broken)[] = []
    for (const { job } of batch) {
      done.push(one(job))
      if (time() >= ends) break
    }
    return done
  }
  const doAll = parts.db.transaction((batch: readonly Waiting<Job, Outcome>[]) =>
    forOneTurn(batch, doOne),
  ).immediate
  // Nested in a transaction this is a savepoint: a job that breaks takes only its own writes back.
  const doApart = parts.db.transaction(doOne)
  const doEach = parts.db.transaction((batch: readonly Waiting<Job, Outcome>[]) =>
    forOneTurn(batch, (job) => {
      try {
        return doApart(job)
      } catch (error) {
        if (!parts.db.inTransaction) throw error
        return { error }
      }
    }),
  ).immediate
  /** Jobs break seldom: only then, with all of the batch undone, is each done anew in a savepoint of its own. */
  const doBatch = (batch: readonly Waiting<Job, Outcome>[]) => {
    try {
      return doAll(batch)
    } catch {
      return doEach(batch)
    }
  }

  const flush = (): void => {
    planned = false
    const batch = queue.splice(0, BATCH)
    let results: ReturnType<typeof doBatch>
    try {
      results = doBatch(batch)
    } catch (error) {
      if (queue.length > 0) plan()
      for (const { reject } of batch) reject(error)
      return
    }
    queue.unshift(...batch.splice(results.length))
    if (queue.length > 0) plan()
    results.forEach((result, i) => {
      const { resolve, reject } = batch[i] as Waiting<Job, Outcome>
      if ('outcome' in result) resolve(result.outcome)
      else {
        if (!(result.error instanceof ProblemError)) parts.calm(result.error, parts.words)
        reject(result.error)
      }
    })
    parts.after(batch.map(({ job }) => job))
  }

  const plan = (): void => {
    if (planned) return
    planned = true
    whenQuiet(flush)
  }

  return {
    /**
     * Puts a job in the queue.
     * @returns its outcome, once it is on disk
     * @throws ProblemError `too-busy` when too many wait already
     */
    submit(job: Job): Promise<Outcome> {
      if (queue.length >= mostWaiting) {
        const words = 'Very many ask at this moment. Nothing was changed; it is tried again in a few seconds.'
        return Promise.reject(new ProblemError('too-busy', words))
      }
      return new Promise((resolve, reject) => {
        queue.push({ job, resolve, reject })
        plan()
      })
    },
  }
}
