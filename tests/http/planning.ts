import { afterEach, beforeEach, expect } from 'vitest'
import type { PlanContent, SettleView } from '../../src/contract/plans.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { RunView } from '../../src/contract/seats.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import type { PlanInput } from '../../src/core/plan/types.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { type Answer, must, studentEmail } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

/** Short ways to plan on the labs' sheet, as the Settle page does. */
function planningIn(labs: () => Labs) {
  let keys = 0
  const settle = () => must<SettleView>(labs().school.owner.get(`${labs().at}/settle`))
  const plan = async (more: Partial<PlanInput> = {}): Promise<PlanContent> => {
    const { basis, lotNumber } = await settle()
    const settings = {
      method: 'evenly' as const,
      floorsFirst: true,
      mayDissolve: false,
      release: 'none' as const,
      lotNumber,
      made: null,
      wishes: null,
    }
    const made = makePlan({ ...basis, ...settings, pins: [], ...more })
    const { moves, left, conflicts, dissolved, before, after, gap, evenChances, mix, wishes } = made
    return { settings, moves, left, conflicts, dissolved, before, after, gap, evenChances, mix, wishes }
  }
  return {
    settle,
    runView: () => must<RunView>(labs().school.owner.get(`${labs().at}/run`)),
    plan,
    apply: (
      content: PlanContent,
      key = `plan-key-${++keys}`,
      tell = false,
    ): Promise<Answer<Problem & SettleView>> =>
      labs().school.owner.post(`${labs().at}/plans/apply`, { key, title: 'Evenly', content, tell }),
    mailsTo: (section: string, n: number) =>
      labs()
        .harness.stores.mail.newest(100)
        .filter(({ recipient }) => recipient === studentEmail(section, n)),
    /** A plan that makes these groups and moves nobody, to be filled by a test. */
    async emptyPlan(made: PlanContent['settings']['made']): Promise<PlanContent> {
      const content = await plan({ people: [] })
      return { ...content, settings: { ...content.settings, made } }
    },
    /** What the ledger says and what the seats say agree. */
    agree(): void {
      const { stores } = labs().harness
      const sheet = stores.sheets.byCode(labs().school.sheet)!
      expect(seatsByLedger(stores.ledger.since(sheet.id, 0))).toEqual(
        seatsAsKept(stores.seats.ofSheet(sheet.id)),
      )
    },
  }
}

/** New labs for each test of a file, handed on by `set`; after each, what the ledger says and the seats say agree. */
export function labsEach(set: (started: Labs) => void) {
  let labs: Labs
  const helpers = planningIn(() => labs)
  beforeEach(async () => {
    labs = await startLabs()
    set(labs)
  })
  afterEach(async () => {
    helpers.agree()
    await labs.harness.end()
  })
  return helpers
}
