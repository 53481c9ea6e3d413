import { useMemo } from 'react'
import type { RunView } from '../../../../contract/seats.ts'
import { type WishesView, wishes as wishesRoute } from '../../../../contract/wishes.ts'
import type { PlanInput } from '../../../../core/plan/types.ts'
import { useAnswer } from '../../../data/answers.ts'
import type { AimTold } from '../../settle/planner.worker.ts'
import { LOOK_AGAIN, useForecast, useWishInput } from './useForecast.ts'
import { type Wanted, wantedIn } from './wanted.ts'

/** What Run shows of wishes. */
export interface RunWishes {
  wishes: WishesView
  /** How much each group is wanted, by its code. */
  wanted: ReadonlyMap<string, Wanted>
  /** What a plan by wishes would be made from now; null until it is known. */
  input: PlanInput | null
  forecast: AimTold | null
  fault: string | null
}

/** What people wish for on a sheet that is run, looked at again every few seconds; null until it is there. */
export function useRunWishes(view: RunView): { data: RunWishes | null; trouble: string | null } {
  const sheet = { sheet: view.code }
  const { data: wishes, error } = useAnswer(wishesRoute, sheet, { refreshInterval: LOOK_AGAIN })
  const { input, fault } = useWishInput(view.code)
  const forecast = useForecast(input)
  const wanted = useMemo(() => wishes && wantedIn(view, wishes.lists), [view, wishes])
  return {
    data:
      wishes && wanted
        ? { wishes, wanted, input, forecast: forecast.told, fault: forecast.fault ?? fault }
        : null,
    trouble: error?.message ?? null,
  }
}
