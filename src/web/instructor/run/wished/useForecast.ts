import { useEffect, useMemo, useState } from 'react'
import { settle } from '../../../../contract/plans.ts'
import type { PlanInput } from '../../../../core/plan/types.ts'
import type { Help } from '../../../../core/wishes/help.ts'
import { useAnswer } from '../../../data/answers.ts'
import { useSame } from '../../../data/useSame.ts'
import { firstChoices, inputOf } from '../../settle/input.ts'
import type { AimTold, PlannerAsk, PlannerSays } from '../../settle/planner.worker.ts'
import { newPlanner } from '../../settle/usePlanner.ts'

/** Milliseconds after which what people wish for is looked at again. */
export const LOOK_AGAIN = 10_000

/** What a plan by wishes would be made from now; null until it is known. */
export function useWishInput(code: string): { input: PlanInput | null; fault: string | null } {
  const { data, error } = useAnswer(settle, { sheet: code }, { refreshInterval: LOOK_AGAIN })
  const made = useMemo(() => data && inputOf(data, firstChoices(data)), [data])
  return { input: useSame(made ?? null), fault: error?.message ?? null }
}

/** What it would come to if it closed now, by the sheet’s aim; what was told before stands until the next is there. */
export function useForecast(input: PlanInput | null): { told: AimTold | null; fault: string | null } {
  const [told, setTold] = useState<AimTold | null>(null)
  const [fault, setFault] = useState<string | null>(null)
  useEffect(() => {
    if (!input?.byWishes) return
    const worker = newPlanner()
    worker.onmessage = ({ data }: MessageEvent<PlannerSays>) => {
      if (data.kind === 'aim') setTold(data.told)
      if (data.kind === 'broken') setFault(data.message)
    }
    worker.onerror = () => setFault('It could not be computed in this browser.')
    worker.postMessage({ kind: 'aims', input, aims: [input.byWishes.aim] } satisfies PlannerAsk)
    return () => worker.terminate()
  }, [input])
  return { told, fault }
}

/** What would help at a group, the best first; null while it is tried. */
export function useHelp(
  input: PlanInput | null,
  group: string,
): { helps: Help[] | null; fault: string | null } {
  const [helps, setHelps] = useState<Help[] | null>(null)
  const [fault, setFault] = useState<string | null>(null)
  useEffect(() => {
    if (!input) return
    setHelps(null)
    setFault(null)
    const worker = newPlanner()
    worker.onmessage = ({ data }: MessageEvent<PlannerSays>) => {
      if (data.kind === 'help') setHelps(data.helps)
      if (data.kind === 'broken') setFault(data.message)
    }
    worker.onerror = () => setFault('It could not be computed in this browser.')
    worker.postMessage({ kind: 'help', input, group } satisfies PlannerAsk)
    return () => worker.terminate()
  }, [input, group])
  return { helps, fault }
}
