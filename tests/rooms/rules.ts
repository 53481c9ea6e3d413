import { pino } from 'pino'
import type { PlanContent } from '../../src/contract/plans.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import type { Plan, PlanInput } from '../../src/core/plan/types.ts'
import { createClosing } from '../../src/server/plans/closing.ts'
import { CLOSES, type Stage } from './stage.ts'

/** The rules for the close and for late enrolments on a stage, and what comes of them. */
export function rulesOn(stage: () => Stage) {
  return {
    /** The rules, with plans made at once in this thread; counted, and broken where a test says so. */
    closing({ broken = null as Error | null, meanwhile = () => {} } = {}) {
      const { stores, unit, mailer, now } = stage()
      const inputs: PlanInput[] = []
      const planner = {
        broken,
        plan: async (input: PlanInput): Promise<Plan> => {
          inputs.push(input)
          if (planner.broken) throw planner.broken
          const plan = makePlan(input)
          meanwhile()
          return plan
        },
        close: async () => {},
      }
      const rules = createClosing({ log: pino({ level: 'silent' }), stores, unit, mailer, planner })
      return { inputs, planner, run: () => rules.carryOut(now()), stop: rules.stop }
    },
    everybody: () => [...stage().seated('Tempeh'), ...stage().seated('Miso')].toSorted(),
    mailsTo: (name: string) =>
      stage()
        .mails()
        .filter(({ recipient }) => recipient === `${name.toLowerCase()}@haplon.example`),
    planOf(code: string) {
      const { stores, sheet } = stage()
      const row = stores.plans.byCode(sheet().id, code)
      return row && { ...row, content: JSON.parse(row.content) as PlanContent }
    },
    closeCode: () => `close-${stage().sheet().code}-${CLOSES.replace(/\D/g, '')}`,
    troubles: () => stage().stores.plans.troubles(stage().sheet().id),
  }
}
