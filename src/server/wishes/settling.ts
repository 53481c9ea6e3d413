import type { PlanContent } from '../../contract/plans.ts'
import type { OwnWhy } from '../../contract/wishes.ts'
import type { PlanBasis } from '../../core/plan/basis.ts'
import { groundOf } from '../../core/plan/byWishes.ts'
import type { PlanInput } from '../../core/plan/types.ts'
import { withMates } from '../../core/wishes/mates.ts'
import { recordOf, type WishRecord } from '../../core/wishes/record.ts'
import { USUAL_ORDER } from '../../core/wishes/rules.ts'
import type { WishFigures, WishSeat } from '../../core/wishes/types.ts'
import { seatsGiven, type WhyFound } from '../../core/wishes/why.ts'
import { ProblemError } from '../http/problem.ts'
import type { KeptPlanRow } from '../plans/store.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import type { WishSettlingRow } from './store.ts'

/** What seats by wishes were given from, and what came of it. */
export interface Settled {
  input: PlanInput
  seats: WishSeat[]
  /** Whether it is proven that nothing would have been better. */
  proven: boolean
  /** Mates who sit together since they wished it. */
  together: string[][]
}

/** The input of a plan that is applied: the sheet as it stands before, and what the plan says was chosen. */
export function inputOfPlan(basis: PlanBasis, { settings, moves, left }: PlanContent): PlanInput {
  const { method, lotNumber, floorsFirst, mayDissolve, release, wishes } = settings
  const pins = [
    ...moves.flatMap(({ person, to, reason }) => (reason.code === 'by-hand' ? [{ person, group: to }] : [])),
    ...left.flatMap(({ person, reason }) => (reason.code === 'by-hand' ? [{ person, group: null }] : [])),
  ]
  return {
    ...basis,
    method,
    lotNumber,
    floorsFirst,
    mayDissolve,
    release,
    pins,
    byWishes: wishes ?? { aim: 'most-first', order: [...USUAL_ORDER] },
  }
}

/** Seats by wishes that were given and stand. */
export interface StandingSettling {
  round: number
  row: WishSettlingRow
  plan: KeptPlanRow
  content: PlanContent
}

/** For each round of a sheet the newest settling whose plan stands, the first round first. */
export function standingSettlings(
  { id }: Pick<Sheet, 'id'>,
  { wishes, plans }: Pick<Stores, 'wishes' | 'plans'>,
): StandingSettling[] {
  const found = new Map<number, StandingSettling>()
  for (const row of wishes.settlings(id)) {
    const plan = plans.byId(row.plan_id)
    if (!plan?.applied_at || plan.undone_at) continue
    const content = JSON.parse(plan.content) as PlanContent
    const round = content.settings.wishes?.round ?? 1
    if (!found.has(round)) found.set(round, { round, row, plan, content })
  }
  return [...found.values()].sort((a, b) => a.round - b.round)
}

/** Whether seats of a sheet were given by wishes, and stand. */
export const isSettled = (
  { id }: Pick<Sheet, 'id'>,
  { wishes, plans }: Pick<Stores, 'wishes' | 'plans'>,
): boolean =>
  wishes.settlings(id).some(({ plan_id }) => {
    const plan = plans.byId(plan_id)
    return plan?.applied_at != null && plan.undone_at === null
  })

/**
 * What the newest seats by wishes of a round were given from.
 * @throws ProblemError where there are none
 */
export function settledOn(
  sheet: Sheet,
  round: number,
  stores: Stores,
): Settled & { planId: number; handedOut: boolean } {
  const found = standingSettlings(sheet, stores).find((one) => one.round === round)
  if (!found)
    throw new ProblemError('wishes-not-settled', 'No seats were given by wishes on this sheet so far.')
  const { row, content } = found
  const input = JSON.parse(row.input) as PlanInput
  return {
    input,
    seats: seatsGiven(input, content),
    proven: content.gap === null,
    together: content.wishes?.together ?? [],
    planId: row.plan_id,
    handedOut: row.handed_out === 1,
  }
}

/** The record of a settling: people as the codes of their lists, which nobody else knows. */
export function wishRecordOf({ input, seats, proven, together }: Settled): WishRecord {
  const { input: question, rules } = groundOf(input)
  return recordOf(question, { seats }, { rules: withMates(rules, together), proven })
}

const figures = ({ byRank, none, left }: WishFigures) => ({ byRank, none, left })

/** Why a student has what they have, from what was computed beside the server’s thread. */
export function ownWhyOf(
  sheet: Pick<Sheet, 'id'>,
  student: Enrolment,
  settled: Settled & { handedOut: boolean },
  found: WhyFound,
  stores: Stores,
): OwnWhy {
  const { input, seats, handedOut } = settled
  const seat = seats.find(({ person }) => person === student.code)
  const titles = new Map(stores.sheets.topics(sheet.id).map(({ code, title }) => [code, title]))
  const titleOf = (code: string | undefined) => (code === undefined ? null : (titles.get(code) ?? code))
  return {
    aim: input.byWishes?.aim ?? 'most-first',
    lotNumber: input.lotNumber,
    place: found.place,
    of: found.of,
    code: input.wished?.codes[student.code] ?? '',
    rank: seat?.rank ?? null,
    topic: titleOf(seat?.group == null ? undefined : input.wished?.topics[seat.group]),
    whyNot: found.whyNot.map(({ instead, ...why }) => ({
      ...why,
      seats: Number.isFinite(why.seats) ? why.seats : 0,
      title: titleOf(why.topic) ?? '',
      instead: instead && figures(instead),
    })),
    now: figures(found.now),
    record: handedOut,
  }
}
