import type { Fault } from './call.ts'

/** What is known of a step besides how it is undone. */
export interface StepWords {
  /** What was said when it was done. */
  words: string
  /** What is to be said once it is undone; empty where its own words do. */
  saidUndone: () => string
}

/** One thing that somebody did, which can be undone and done again. */
export interface Step extends StepWords {
  readonly id: number
  /** Does it again; null when that worked. */
  readonly redo: () => Promise<Fault | null>
  /** Takes it back; null when that worked. */
  readonly undo: () => Promise<Fault | null>
}

export type History = ReturnType<typeof createHistory>

/** What came of an undo or a redo: it worked, there was nothing to it, or why it did not work. */
export type Outcome = 'done' | 'nothing' | Fault

/** Steps that are remembered; older ones can no longer be undone. */
const MOST = 200

/**
 * What was done on a page, step by step, each with an identity: an undo names its step and undoes that one, in
 * whatever order. A step whose undo fails stays, so that it can be tried again.
 */
export function createHistory() {
  let next = 1
  let done: Step[] = []
  let undone: Step[] = []
  const running = new Set<number>()
  const run = async (step: Step, way: 'undo' | 'redo'): Promise<Outcome> => {
    // Pressed twice, it happens once.
    if (running.has(step.id)) return 'nothing'
    running.add(step.id)
    try {
      const fault = await step[way]()
      if (fault) return fault
      if (way === 'undo') {
        done = done.filter(({ id }) => id !== step.id)
        undone = [...undone, step]
      } else {
        undone = undone.filter(({ id }) => id !== step.id)
        done = [...done, step]
      }
      return 'done'
    } finally {
      running.delete(step.id)
    }
  }
  const named = (id?: number): Step | undefined =>
    id === undefined ? done.findLast((one) => !running.has(one.id)) : done.find((one) => one.id === id)
  return {
    /** Remembers something that was done; what was undone before cannot be done again then. Gives its identity. */
    add(
      undo: Step['undo'],
      redo: Step['redo'],
      { words, saidUndone }: StepWords = { words: '', saidUndone: () => '' },
    ): number {
      const id = next++
      done = [...done, { id, undo, redo, words, saidUndone }].slice(-MOST)
      undone = []
      return id
    },
    /** Undoes a step, or the last one that is not being undone already. */
    undo(id?: number): Promise<Outcome> {
      const step = named(id)
      return step ? run(step, 'undo') : Promise.resolve('nothing')
    },
    /** Does the step again that was undone last. */
    redo(): Promise<Outcome> {
      const step = undone.at(-1)
      return step ? run(step, 'redo') : Promise.resolve('nothing')
    },
    /** The step that would be undone: one by its identity, or the last. */
    step: named,
  }
}
