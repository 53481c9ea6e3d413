import { afterEach, beforeEach } from 'vitest'
import type { DeskView, MarksPreview } from '../../src/contract/marks.ts'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { WorkView } from '../../src/contract/tasks.ts'
import { type Answer, type Client, must, studentEmail } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

type Reply = Answer<OwnWork & Problem>

/** Criteria of five points each. */
export const criteria = [
  { id: 'seen', title: 'What was seen', points: 5, levels: ['thin', 'strong'] },
  { id: 'said', title: 'Plain writing', points: 5, levels: ['thin', 'strong'] },
]

/** New labs for each test of a file, and short ways to set a task there, hand work in and mark it. */
export function markingEach() {
  let started: Labs
  beforeEach(async () => {
    started = await startLabs()
  })
  afterEach(() => started.harness.end())
  const labs = () => started
  const tempeh = () => labs().school.groups['Tempeh/Tue lab']!
  const look = (csv: string) =>
    must<MarksPreview>(labs().school.owner.post(`${labs().at}/marks/preview`, { csv }))
  return {
    labs,
    tempeh,
    own: (client: Client) => must<OwnWork>(client.get(`${labs().at}/own-work`)),
    async setTask(body: object): Promise<string> {
      const view = await must<WorkView>(
        labs().school.owner.post(`${labs().at}/tasks`, { title: 'Report', out: true, ...body }),
      )
      return view.tasks.at(-1)!.code
    },
    handIn: (client: Client, task: string, more: object = {}): Promise<Reply> =>
      client.post(`${labs().at}/tasks/${task}/hand-ins`, {
        group: tempeh(),
        text: 'Our report',
        after: 0,
        ...more,
      }),
    mails: (n: number) =>
      labs()
        .harness.stores.mail.newest(100)
        .filter(({ recipient }) => recipient === studentEmail('Tue lab', n)),
    desk: (task: string) => must<DeskView>(labs().school.owner.get(`${labs().at}/tasks/${task}/desk`)),
    mark: (task: string, body: object, who = labs().school.owner): Promise<Answer<DeskView & Problem>> =>
      who.send('PUT', `${labs().at}/tasks/${task}/marks`, {
        owner: tempeh(),
        apart: null,
        version: 0,
        placements: {},
        points: null,
        feedback: '',
        ...body,
      }),
    release: (task: string, released = true): Promise<Answer<DeskView & Problem>> =>
      labs().school.owner.post(`${labs().at}/tasks/${task}/release`, { owners: null, released }),
    /** Marks as a file has them; what a file of marks would do; and takes one up, wrong lines left out. */
    async file(name: string): Promise<string> {
      const headers = { Cookie: labs().school.owner.cookie }
      return (await fetch(`${labs().harness.address}${labs().at}/marks/${name}`, { headers })).text()
    },
    look,
    async take(csv: string): Promise<void> {
      const { fingerprint } = await look(csv)
      await must(
        labs().school.owner.post(`${labs().at}/marks/import`, { csv, fingerprint, skipFaults: true }),
      )
    },
    /** The first two students of the Tuesday lab sit down in one group. */
    async both(): Promise<void> {
      for (const n of [0, 1]) await labs().take(labs().tue(n), 'Tempeh/Tue lab')
    },
  }
}
