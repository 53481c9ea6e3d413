import { afterAll, beforeAll, expect, it } from 'vitest'
import type { Route } from '../../src/contract/route.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { EVERY_ROUTE } from '../http/everyRoute.ts'
import {
  type Client,
  type Harness,
  type School,
  setUpSchool,
  startHarness,
  studentEmail,
} from '../http/harness.ts'
import { bodyFor, createChance } from './shapes.ts'

/** Requests that are sent; `npm run fuzz` sends many more. */
const REQUESTS = Number(process.env.FUZZ ?? 12_000)
/** Requests after which there is something new to break. */
const STAGE = 500
const SEED = Number(process.env.FUZZ_SEED ?? Date.now() % 1_000_000_007)

// A stream is not read to its end, and goes on for as long as it is listened to.
const ROUTES = EVERY_ROUTE.filter(({ path }) => !path.endsWith('/live'))

let harness: Harness
beforeAll(async () => {
  harness = await startHarness()
})
afterAll(() => harness.end())

interface Stage {
  school: School
  people: Client[]
  codes: string[]
}

async function setStage(): Promise<Stage> {
  const plan = {
    sections: ['Tue lab', 'Wed lab'],
    students: { 'Tue lab': 4, 'Wed lab': 2 },
    topics: ['Tempeh', 'Kefir'],
  }
  const school = await setUpSchool(harness, plan)
  const at = `/api/sheets/${school.sheet}`
  const { owner } = school
  await owner.send('PUT', `${at}/extras`, { talk: true, files: true, meeting: true, name: true })
  await owner.post(`${at}/tasks`, { title: 'Report', out: true, takesFiles: true })
  const students = [0, 1, 2].map((n) => harness.as(studentEmail('Tue lab', n)))
  const group = school.groups['Tempeh/Tue lab']!
  for (const [n, student] of students.entries())
    await student.post(`${at}/claims`, { key: `stage-${n}-${Math.random()}`, kind: 'take', to: group })
  await students[0]!.post(`${at}/groups/${group}/talk`, { title: 'Plan', text: 'Who brings the soy?' })
  const page = await owner.get<unknown>(`${at}/groups/${group}`)
  const roster = await owner.get<unknown>(`/api/courses/${school.course}/roster`)
  const compose = await owner.get<unknown>(`${at}/compose`)
  const work = await owner.get<unknown>(`${at}/work`)
  const codes = new Set<string>()
  for (const found of JSON.stringify([page.body, roster.body, compose.body, work.body]).matchAll(
    /"(?:code|group|section|person|topic)":"([\w-]{6,})"/g,
  ))
    if (found[1]) codes.add(found[1])
  const people = [harness.stranger, ...students, harness.as('tutor@school.example'), owner, owner, owner]
  return { school, people, codes: [...codes] }
}

it(`sends every route ${REQUESTS} bodies of its own shape, mostly well formed, and no answer is a fault of ours`, async () => {
  console.log(`seed of the fuzz: ${SEED}`)
  const chance = createChance(SEED)
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)] as T
  const seen = new Map<number, number>()
  const faults: string[] = []
  let stage = await setStage()
  const pathOf = ({ path }: Route): string => {
    const known: Record<string, string> = {
      sheet: stage.school.sheet,
      course: stage.school.course,
      held: 'none',
    }
    return path.replace(/:(\w+)/g, (_, name: string) =>
      encodeURIComponent(
        chance() < 0.03 ? pick(['none', '0', '..', '%', '__proto__']) : (known[name] ?? pick(stage.codes)),
      ),
    )
  }
  for (let n = 0; n < REQUESTS; n++) {
    if (n > 0 && n % STAGE === 0) stage = await setStage()
    const route = pick(ROUTES)
    const person = pick(stage.people)
    const url = pathOf(route)
    const body = route.body ? bodyFor(route.body, { chance, codes: stage.codes }) : undefined
    const text = JSON.stringify(body)
    const answer = await fetch(`${harness.address}${url}`, {
      method: route.method,
      headers: {
        Origin: harness.address,
        ...(person.cookie && { Cookie: person.cookie }),
        ...(text !== undefined && { 'Content-Type': 'application/json' }),
      },
      ...(route.method !== 'GET' && text !== undefined && { body: text }),
    })
    const said = await answer.text()
    seen.set(answer.status, (seen.get(answer.status) ?? 0) + 1)
    const stack = answer.status >= 400 && /\n\s+at |node_modules|SQLITE/.test(said)
    if (answer.status >= 500 || stack)
      faults.push(`${answer.status} ${route.method} ${url} ${text?.slice(0, 400)}: ${said.slice(0, 200)}`)
  }
  expect(faults).toEqual([])
  // It went past the door: changes were made, and refused for what was in them.
  for (const status of [200, 401, 404, 422]) expect(seen.get(status) ?? 0, `${status}`).toBeGreaterThan(0)
  for (const course of harness.stores.courses.all())
    for (const { id } of harness.stores.sheets.ofCourse(course.id))
      expect(seatsByLedger(harness.stores.ledger.since(id, 0))).toEqual(
        seatsAsKept(harness.stores.seats.ofSheet(id)),
      )
}, 3_600_000)
