import { afterAll, beforeAll } from 'vitest'
import type { ComposeView } from '../../src/contract/sheets.ts'
import type { WorkView } from '../../src/contract/tasks.ts'
import {
  type Client,
  type Harness,
  must,
  type School,
  setUpSchool,
  startHarness,
  studentEmail,
} from './harness.ts'

/** A server with a course of a few students for all random histories of a file, each on a sheet of its own. */
export function historiesOf(students: readonly number[], topics: readonly string[]) {
  let harness: Harness
  let school: School
  let clients: Client[]
  let codes: string[]
  beforeAll(async () => {
    harness = await startHarness()
    school = await setUpSchool(harness, { students: { '': students.length }, topics: ['Unused'] })
    clients = students.map((n) => harness.as(studentEmail('', n)))
    const { course_id } = harness.stores.sheets.byCode(school.sheet)!
    codes = students.map((n) => {
      const person = harness.stores.roster.personByEmail(studentEmail('', n))!
      return harness.stores.roster.enrolmentIn(course_id, person.id)!.code
    })
  })
  afterAll(() => harness.end())
  return {
    school: () => school,
    /** Each student signed in, and their codes. */
    client: (n: number) => clients[n]!,
    code: (n: number) => codes[n]!,
    /** A sheet of its own, with one task for every group. */
    async freshSheet(
      title: string,
      task: object,
    ): Promise<{ at: string; task: string; groups: Record<string, string> }> {
      const { code } = await must<ComposeView>(
        school.owner.post(`/api/courses/${school.course}/sheets`, { title }),
      )
      const at = `/api/sheets/${code}`
      await must(school.owner.patch(at, { seats: 3, floor: 1, closesAt: '2026-05-13T17:00' }))
      await must(school.owner.post(`${at}/topics/several`, { topics: topics.map((one) => ({ title: one })) }))
      const published = await must<ComposeView>(school.owner.post(`${at}/publish`))
      const work = await must<WorkView>(school.owner.post(`${at}/tasks`, { out: true, ...task }))
      return {
        at,
        task: work.tasks[0]!.code,
        groups: Object.fromEntries(published.topics.map(({ title, groups }) => [title, groups[0]!.code])),
      }
    },
  }
}
