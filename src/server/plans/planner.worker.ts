import { parentPort } from 'node:worker_threads'
import { makePlan } from '../../core/plan/plan.ts'
import type { Plan, PlanInput } from '../../core/plan/types.ts'
import { type Odds, oddsOf } from '../../core/wishes/odds.ts'
import type { WishSeat } from '../../core/wishes/types.ts'
import { type WhyFound, whyOf } from '../../core/wishes/why.ts'

/** What the worker is asked: a plan, or why somebody has no better wish of what seats were given by. */
export type PlannerAsked =
  | { kind: 'plan'; input: PlanInput }
  | { kind: 'odds'; input: PlanInput }
  | { kind: 'why'; input: PlanInput; seats: readonly WishSeat[]; together: string[][]; person: string }

/** How often everybody came to which wish, over so many lots. */
export interface OddsFound {
  draws: number
  of: Map<string, Odds>
}

/** What the worker says: the best plan so far, the last one, why, or that it broke. */
export type PlannerSays =
  | { kind: 'plan'; plan: Plan; last: boolean }
  | { kind: 'why'; found: WhyFound }
  | { kind: 'odds'; found: OddsFound }
  | { kind: 'broken'; message: string }

const port = parentPort
port?.on('message', (asked: PlannerAsked) => {
  const say = (said: PlannerSays) => port.postMessage(said)
  try {
    if (asked.kind === 'odds') return say({ kind: 'odds', found: drawOdds(asked.input) })
    if (asked.kind === 'why') {
      const { input, seats, together, person } = asked
      return say({ kind: 'why', found: whyOf(input, seats, together, person) })
    }
    const plan = makePlan(asked.input, {
      onBetter: (better) => say({ kind: 'plan', plan: better(), last: false }),
    })
    say({ kind: 'plan', plan, last: true })
  } catch (error) {
    say({ kind: 'broken', message: error instanceof Error ? error.message : String(error) })
  }
})

/** How many lots are drawn at most, and for how many milliseconds. */
const MOST_DRAWS = 400
const DRAWING = 8_000

function drawOdds(input: PlanInput): OddsFound {
  const start = performance.now()
  return oddsOf(input, MOST_DRAWS, (drawn) => drawn > 0 && performance.now() - start > DRAWING)
}
