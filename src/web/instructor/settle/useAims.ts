import { useEffect, useState } from 'react'
import { AIMS } from '../../../contract/wishWords.ts'
import type { PlanInput } from '../../../core/plan/types.ts'
import type { WishAim } from '../../../core/wishes/types.ts'
import { useSame } from '../../data/useSame.ts'
import type { AimTold, PlannerAsk, PlannerSays } from './planner.worker.ts'
import { newPlanner } from './usePlanner.ts'

export interface AimsTold {
  told: ReadonlyMap<WishAim, AimTold>
  searching: boolean
  fault: string | null
}

/**
 * What each aim would come to for this very class, computed in a worker one after the other, anew whenever anything but
 * the aim changes.
 * @param input null for nothing
 */
export function useAims(input: PlanInput | null): AimsTold {
  // Which aim is chosen makes no difference to what each would come to.
  const asked = useSame(
    input && { ...input, byWishes: input.byWishes && { ...input.byWishes, aim: 'most-first' } },
  )
  const [told, setTold] = useState<ReadonlyMap<WishAim, AimTold>>(new Map())
  const [searching, setSearching] = useState(false)
  const [fault, setFault] = useState<string | null>(null)
  useEffect(() => {
    if (!asked) return
    setTold(new Map())
    setFault(null)
    setSearching(true)
    const worker = newPlanner()
    worker.onmessage = ({ data }: MessageEvent<PlannerSays>) => {
      if (data.kind === 'aim') {
        setTold((before) => new Map([...before, [data.told.aim, data.told]]))
        if (data.last) setSearching(false)
      }
      if (data.kind === 'broken') {
        setFault(data.message)
        setSearching(false)
      }
    }
    worker.onerror = () => setFault('The aims could not be compared in this browser.')
    worker.postMessage({
      kind: 'aims',
      input: asked as PlanInput,
      aims: AIMS.map(({ aim }) => aim),
    } satisfies PlannerAsk)
    return () => worker.terminate()
  }, [asked])
  return { told, searching, fault }
}
