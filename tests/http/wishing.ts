import type { SettleView } from '../../src/contract/plans.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { OwnList, OwnWishes } from '../../src/contract/wishes.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import type { PlanInput } from '../../src/core/plan/types.ts'
import type { WishAim } from '../../src/core/wishes/types.ts'
import { type Client, must } from './harness.ts'
import type { Labs } from './labs.ts'
import { labsEach } from './planning.ts'

/** New labs for each test of a file, and short ways to rank topics there and to give seats by wishes. */
export function wishingEach() {
  let started: Labs
  const labs = () => started
  const { settle, mailsTo } = labsEach((next) => {
    started = next
  })
  const afterClose = () => labs().harness.clock.set('2026-05-13T15:00:01.000Z')

  const wishes = () => `${labs().at}/wishes`
  const own = async (client: Client): Promise<OwnWishes> => {
    const { wishes } = await labs().sheetOf(client)
    if (!wishes) throw new Error('nobody ranks here')
    return wishes
  }
  const codes = async (...titles: string[]): Promise<string[]> =>
    Promise.all(titles.map(async (title) => (await labs().topic(title)).code))

  /** Ranks topics by their titles, each alone, over what was kept before. */
  const rank = async (client: Client, titles: string[], cannot: { topic: string; reason: string }[] = []) => {
    const ranks = (await codes(...titles)).map((code) => [code])
    const named = await Promise.all(
      cannot.map(async ({ topic, reason }) => ({ topic: (await codes(topic))[0]!, reason })),
    )
    const { version } = await own(client)
    return client.send<OwnList & Problem>('PUT', wishes(), { ranks, cannot: named, over: version })
  }
  const byWishes = (more: object = {}) => labs().rule({ road: 'wished', wishesLeast: 2, floor: 1, ...more })

  /** Seats everybody by wishes, as Settle does. */
  const seatAll = async (
    aim: WishAim = 'most-first',
    pins: PlanInput['pins'] = [],
    { tell = false, round = 1 } = {},
  ) => {
    const { basis, lotNumber } = await settle()
    const how = { aim, order: ['floors' as const, 'moved' as const, 'wishes' as const], round }
    const input = {
      method: 'wishes' as const,
      floorsFirst: true,
      mayDissolve: false,
      release: 'none' as const,
      lotNumber,
    }
    const plan = makePlan({ ...basis, ...input, byWishes: how, pins })
    const { proven: _, moved: __, ...content } = plan
    const body = { key: `wishes-${Math.random()}`.replace('.', '-'), title: 'By wishes', tell }
    await must<SettleView>(
      labs().school.owner.post(`${labs().at}/plans/apply`, {
        ...body,
        content: { ...content, settings: { ...input, made: null, wishes: how } },
      }),
    )
    return plan
  }
  return { labs, settle, afterClose, wishes, own, codes, rank, byWishes, seatAll, mailsTo }
}
