import { useEffect, useState } from 'react'
import type { Plan, PlanInput } from '../../../core/plan/types.ts'
import type { PlannerAsk, PlannerSays } from './planner.worker.ts'

export interface Planner {
  /** The best plan so far for the input as it is, or null until there is one. */
  plan: Plan | null
  /** Whether a better plan is still looked for, or why somebody sits where they do. */
  searching: boolean
  /** Share of the search that is done, 0 to 1; null when none is under way. */
  progress: number | null
  fault: string | null
  /** Ends the search that is under way; the best plan so far stays. */
  stop: () => void
}

/** Milliseconds to wait for more changes before a plan is made. */
const PATIENCE = 120

interface Made {
  input: PlanInput
  plan: Plan
  last: boolean
}

/** Makes a plan in a worker, anew whenever the input changes; what was under way before is ended. */
export function usePlanner(input: PlanInput | null): Planner {
  const [made, setMade] = useState<Made | null>(null)
  const [progress, setProgress] = useState<number | null>(null)
  const [fault, setFault] = useState<string | null>(null)
  const [stopped, setStopped] = useState<PlanInput | null>(null)
  useEffect(() => {
    if (!input || stopped === input) return
    let worker: Worker | null = null
    setFault(null)
    setProgress(0)
    const timer = setTimeout(() => {
      worker = newPlanner()
      worker.onmessage = ({ data }: MessageEvent<PlannerSays>) => {
        if (data.kind === 'progress') return setProgress(data.share)
        if (data.kind === 'plan') {
          setMade({ input, plan: data.plan, last: data.last })
          if (data.last) setProgress(null)
        }
        if (data.kind === 'broken') {
          setProgress(null)
          setFault(data.message)
        }
      }
      worker.onerror = () => {
        setProgress(null)
        setFault('The plan could not be made in this browser.')
      }
      worker.postMessage({ kind: 'plan', input } satisfies PlannerAsk)
    }, PATIENCE)
    return () => {
      clearTimeout(timer)
      worker?.terminate()
    }
  }, [input, stopped])
  const current = made && made.input === input ? made : null
  const ended = stopped === input
  return {
    plan: current?.plan ?? null,
    searching: input !== null && !ended && progress !== null && current?.last !== true,
    progress: ended ? null : progress,
    fault: ended && !current ? 'Stopped before there was a plan. Change something to plan again.' : fault,
    stop: () => setStopped(input),
  }
}

/** A worker that plans, apart from the page. */
export function newPlanner(): Worker {
  return new Worker(new URL('./planner.worker.ts', import.meta.url), { type: 'module' })
}
