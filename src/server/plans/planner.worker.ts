import { parentPort } from 'node:worker_threads'
import { groundOf } from '../../core/plan/byWishes.ts'
import { makePlan } from '../../core/plan/plan.ts'
import type { Plan, PlanInput } from '../../core/plan/types.ts'
import { withMates } from '../../core/wishes/mates.ts'
import { type Odds, oddsOf } from '../../core/wishes/odds.ts'
import { type WhyNot, whyNotBetter } from '../../core/wishes/reasons.ts'
import { figuresOf, lotOrder } from '../../core/wishes/seat.ts'
import type { WishFigures, WishSeat } from '../../core/wishes/types.ts'

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

/** Why somebody has no better wish, their place in the lot, and what everybody came to. */
export interface WhyFound {
  whyNot: WhyNot[]
  place: number
  of: number
  now: WishFigures
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
    if (asked.kind === 'why') return say({ kind: 'why', found: whyOf(asked) })
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

function whyOf({ input, seats, together, person }: Extract<PlannerAsked, { kind: 'why' }>): WhyFound {
  const { input: question, rules } = groundOf(input)
  const order = lotOrder(question.wishers, question.lotNumber, 'people')
  return {
    whyNot: whyNotBetter(question, { seats: [...seats] }, person, withMates(rules, together)),
    place: 1 + order.findIndex(({ key }) => key === person),
    of: order.length,
    now: figuresOf(question, seats),
  }
}
