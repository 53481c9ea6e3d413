import { useEffect, useState } from 'react'
import type { Plan, PlanInput } from '../../../core/plan/types.ts'
import type { PlannerSays } from './planner.worker.ts'

export interface Planner {
  /** The plan for the input as it is, or null while it is made. */
  plan: Plan | null
  /** Share that is done, 0 to 1, while a plan is made; null else. */
  progress: number | null
  fault: string | null
  /** Ends the search that is under way. */
  stop: () => void
}

/** Milliseconds to wait for more changes before a plan is made. */
const PATIENCE = 120

/** Makes a plan in a worker, anew whenever the input changes; what was under way before is ended. */
export function usePlanner(input: PlanInput | null): Planner {
  const [made, setMade] = useState<{ input: PlanInput; plan: Plan } | null>(null)
  const [progress, setProgress] = useState<number | null>(null)
  const [fault, setFault] = useState<string | null>(null)
  const [stopped, setStopped] = useState<PlanInput | null>(null)
  useEffect(() => {
    if (!input || stopped === input) return
    let worker: Worker | null = null
    setFault(null)
    setProgress(0)
    const timer = setTimeout(() => {
      worker = new Worker(new URL('./planner.worker.ts', import.meta.url), { type: 'module' })
      worker.onmessage = ({ data }: MessageEvent<PlannerSays>) => {
        if (data.kind === 'progress') return setProgress(data.share)
        setProgress(null)
        if (data.kind === 'plan') setMade({ input, plan: data.plan })
        else setFault(data.message)
      }
      worker.onerror = () => {
        setProgress(null)
        setFault('The plan could not be made in this browser.')
      }
      worker.postMessage(input)
    }, PATIENCE)
    return () => {
      clearTimeout(timer)
      worker?.terminate()
    }
  }, [input, stopped])
  return {
    plan: made && made.input === input ? made.plan : null,
    progress: stopped === input ? null : progress,
    fault: stopped === input ? 'Stopped. Change something to plan again.' : fault,
    stop: () => setStopped(input),
  }
}
