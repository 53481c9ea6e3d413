import { chancesOf } from '../../../core/plan/chances.ts'
import { makePlan } from '../../../core/plan/plan.ts'
import type { Plan, PlanFigures, PlanInput, PlanMove, WishReport } from '../../../core/plan/types.ts'
import { type Help, helpFor } from '../../../core/wishes/help.ts'
import { USUAL_ORDER } from '../../../core/wishes/rules.ts'
import type { WishAim } from '../../../core/wishes/types.ts'
import { seatsGiven, type WhyFound, whyOf } from '../../../core/wishes/why.ts'

/** What is asked of the worker: a plan, what chances the lot gave, or what each of several aims would come to. */
export type PlannerAsk =
  | { kind: 'plan'; input: PlanInput }
  | { kind: 'chances'; input: PlanInput }
  | { kind: 'aims'; input: PlanInput; aims: readonly WishAim[] }
  | { kind: 'help'; input: PlanInput; group: string }
  | { kind: 'why'; input: PlanInput; moves: readonly PlanMove[]; together: string[][]; person: string }

/** What one aim would come to. */
export interface AimTold {
  aim: WishAim
  figures: WishReport['figures']
  after: PlanFigures
  proven: boolean
}

/**
 * What the worker says: how far it has come; a plan, the first soon and then better ones, and whether it is the last;
 * the chances; or that it broke.
 */
export type PlannerSays =
  | { kind: 'progress'; share: number }
  | { kind: 'plan'; plan: Plan; last: boolean }
  | { kind: 'chances'; chances: ReturnType<typeof chancesOf> }
  | { kind: 'aim'; told: AimTold; last: boolean }
  | { kind: 'help'; helps: Help[] }
  | { kind: 'why'; found: WhyFound }
  | { kind: 'broken'; message: string }

const say = (said: PlannerSays) => postMessage(said)

/** Milliseconds between two plans that are told while a search goes on. */
const PAUSE = 250

addEventListener('message', ({ data }: MessageEvent<PlannerAsk>) => {
  try {
    const onProgress = (share: number) => say({ kind: 'progress', share })
    if (data.kind === 'chances') return say({ kind: 'chances', chances: chancesOf(data.input, onProgress) })
    if (data.kind === 'why') {
      const { input, moves, together, person } = data
      return say({ kind: 'why', found: whyOf(input, seatsGiven(input, { moves }), together, person) })
    }
    if (data.kind === 'help') return say({ kind: 'help', helps: helpFor(data.input, data.group) })
    if (data.kind === 'aims') return tellAims(data.input, data.aims)
    let told = Number.NEGATIVE_INFINITY
    const onBetter = (plan: () => Plan) => {
      if (performance.now() - told < PAUSE) return
      say({ kind: 'plan', plan: plan(), last: false })
      told = performance.now()
    }
    say({ kind: 'plan', plan: makePlan(data.input, { onProgress, onBetter }), last: true })
  } catch (error) {
    say({ kind: 'broken', message: error instanceof Error ? error.message : String(error) })
  }
})

/** Steps that one aim may take to be compared with the others. */
const AIM_STEPS = 60_000_000

function tellAims(input: PlanInput, aims: readonly WishAim[]): void {
  for (const [i, aim] of aims.entries()) {
    const order = input.byWishes?.order ?? [...USUAL_ORDER]
    const { wishes, after, proven } = makePlan(
      { ...input, method: 'wishes', byWishes: { aim, order } },
      { steps: AIM_STEPS },
    )
    if (wishes)
      say({ kind: 'aim', told: { aim, figures: wishes.figures, after, proven }, last: i === aims.length - 1 })
  }
}
