import { useEffect, useState } from 'react'
import type { Chances } from '../../../core/plan/chances.ts'
import type { PlanInput } from '../../../core/plan/types.ts'
import type { PlannerAsk, PlannerSays } from './planner.worker.ts'
import { newPlanner } from './usePlanner.ts'

/** The chances that each person had in a plan, counted in a worker while they are looked at. */
export function useChances(input: PlanInput): {
  chances: Chances | null
  progress: number
  fault: string | null
} {
  const [chances, setChances] = useState<Chances | null>(null)
  const [progress, setProgress] = useState(0)
  const [fault, setFault] = useState<string | null>(null)
  useEffect(() => {
    setChances(null)
    setProgress(0)
    setFault(null)
    const worker = newPlanner()
    worker.onmessage = ({ data }: MessageEvent<PlannerSays>) => {
      if (data.kind === 'progress') setProgress(data.share)
      if (data.kind === 'chances') setChances(data.chances)
      if (data.kind === 'broken') setFault(data.message)
    }
    worker.onerror = () => setFault('The chances could not be counted in this browser.')
    worker.postMessage({ kind: 'chances', input } satisfies PlannerAsk)
    return () => worker.terminate()
  }, [input])
  return { chances, progress, fault }
}
