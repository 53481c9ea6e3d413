import type { Problem } from '../../src/contract/problems.ts'
import type { ClaimAnswer, StudentSheet } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import {
  type Answer,
  type Client,
  claim,
  type Harness,
  must,
  type School,
  setUpSchool,
  startHarness,
  studentEmail,
} from './harness.ts'

/** A course of two lab sections with a sheet of three topics, and short ways to act in it. */
export interface Labs {
  harness: Harness
  school: School
  /** The sheet's path. */
  at: string
  tue(n: number): Client
  wed(n: number): Client
  /** Changes the sheet as its instructor, confirmed. */
  rule(changes: object): Promise<ComposeView>
  take(client: Client, group: string): Promise<Answer<ClaimAnswer | Problem>>
  move(client: Client, from: string, to: string): Promise<Answer<ClaimAnswer | Problem>>
  giveUp(client: Client, from: string): Promise<Answer<ClaimAnswer | Problem>>
  sheetOf(client: Client): Promise<StudentSheet>
  topic(title: string): Promise<ComposeView['topics'][number]>
}

export async function startLabs(): Promise<Labs> {
  const harness = await startHarness()
  const school = await setUpSchool(harness, {
    sections: ['Tue lab', 'Wed lab'],
    students: { 'Tue lab': 5, 'Wed lab': 2 },
    topics: ['Tempeh', 'Kefir', 'Miso'],
    seats: 3,
  })
  const at = `/api/sheets/${school.sheet}`
  const group = (name: string) => school.groups[name]
  return {
    harness,
    school,
    at,
    tue: (n) => harness.as(studentEmail('Tue lab', n)),
    wed: (n) => harness.as(studentEmail('Wed lab', n)),
    rule: (changes) => must<ComposeView>(school.owner.patch(at, { ...changes, confirmed: true })),
    take: (client, to) => claim(client, school.sheet, { kind: 'take', to: group(to) }),
    move: (client, from, to) =>
      claim(client, school.sheet, { kind: 'move', from: group(from), to: group(to) }),
    giveUp: (client, from) => claim(client, school.sheet, { kind: 'give-up', from: group(from) }),
    sheetOf: (client) => must<StudentSheet>(client.get(`${at}/student`)),
    topic: async (title) => {
      const { topics } = await must<ComposeView>(school.owner.get(`${at}/compose`))
      const found = topics.find((one) => one.title === title)
      if (!found) throw new Error(`no topic ${title}`)
      return found
    },
  }
}
