import { afterAll, beforeAll, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { ClaimAnswer, RunView } from '../../src/contract/seats.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import {
  claim,
  type Harness,
  must,
  outcome,
  type School,
  setUpSchool,
  startHarness,
  studentEmail,
} from './harness.ts'

const STUDENTS = 300
const TOPICS = ['Tempeh', 'Kefir', 'Miso', 'Kombucha']
const SEATS = 40

let harness: Harness
let school: School
beforeAll(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, { students: { '': STUDENTS }, topics: TOPICS, seats: SEATS })
})
afterAll(() => harness.end())

it('gives the last seats of several groups to 300 students who claim at once, and to nobody twice', async () => {
  const clients = Array.from({ length: STUDENTS }, (_, n) => harness.as(studentEmail('', n)))
  const wanted = clients.map((_, n) => school.groups[TOPICS[n % TOPICS.length]!]!)
  const answers = await Promise.all(
    clients.map((client, n) => claim(client, school.sheet, { kind: 'take', to: wanted[n] })),
  )

  const granted = answers.filter(({ status }) => status === 200)
  expect(granted).toHaveLength(TOPICS.length * SEATS)
  for (const answer of answers) {
    if (answer.status === 200) continue
    expect(outcome(answer)).toBe('group-full')
    expect((answer.body as Problem).detail).toMatch(/taken a moment ago/)
  }

  const view = await must<RunView>(school.owner.get(`/api/sheets/${school.sheet}/run`))
  for (const { code, seats } of view.groups) {
    expect(view.seats.filter(({ group }) => group === code)).toHaveLength(seats)
  }
  const sitting = new Map(view.seats.map(({ person, group }) => [person, group]))
  expect(sitting.size).toBe(view.seats.length)
  const codes = new Map(view.people.map(({ name, code }) => [name.split(' ')[1], code]))
  answers.forEach((answer, n) => {
    const told = answer.status === 200 ? (answer.body as ClaimAnswer).seats[0]?.group : undefined
    expect(sitting.get(codes.get(String(n))!)).toBe(told)
  })

  const sheet = harness.stores.sheets.byCode(school.sheet)!
  expect(seatsByLedger(harness.stores.ledger.since(sheet.id, 0))).toEqual(
    seatsAsKept(harness.stores.seats.ofSheet(sheet.id)),
  )
})
