import type { PlanContent } from '../../src/contract/plans.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import { basisOf } from '../../src/server/plans/basis.ts'
import type { Stage } from './stage.ts'

const SETTINGS = {
  method: 'evenly',
  lotNumber: 7,
  floorsFirst: true,
  mayDissolve: false,
  release: 'none',
  made: null,
  wishes: null,
} as const

/** A plan for the sheet as it stands, with what a test says otherwise. */
export function plannedOn(
  { sheet, now, stores }: Stage,
  otherwise: (content: PlanContent) => Partial<PlanContent> = () => ({}),
): PlanContent {
  const { made: _, wishes: __, ...how } = SETTINGS
  const plan = makePlan({ ...basisOf(sheet(), now(), stores), ...how, pins: [] })
  const { moves, left, conflicts, dissolved, before, after, gap, evenChances, mix } = plan
  const content: PlanContent = {
    settings: SETTINGS,
    moves,
    left,
    conflicts,
    dissolved,
    before,
    after,
    gap,
    evenChances,
    mix,
    wishes: null,
  }
  return { ...content, ...otherwise(content) }
}
