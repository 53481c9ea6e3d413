import { afterEach, expect, it } from 'vitest'
import { MINUTE } from '../../src/core/instant.ts'
import { placesAsKept, placesByLedger, seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { createChance } from '../fuzz/shapes.ts'
import {
  type Client,
  type Harness,
  must,
  type School,
  setUpSchool,
  startHarness,
  studentEmail,
} from '../http/harness.ts'

/** Things that are done in all; `npm run storm` does many more. */
const DEEDS = Number(process.env.STORM ?? 1_200)
const SEED = Number(process.env.STORM_SEED ?? Date.now() % 1_000_000_007)
const STUDENTS = 30
const TOPICS = ['Tempeh', 'Kefir', 'Miso', 'Rye']
/** Things under way at the same moment. */
const AT_ONCE = 12

let harness: Harness
afterEach(() => harness.end())

/** What has to be true whenever nothing is under way. */
function check(school: School): void {
  const { stores } = harness
  const sheet = stores.sheets.byCode(school.sheet)!
  const entries = stores.ledger.since(sheet.id, 0)
  const seats = stores.seats.ofSheet(sheet.id)
  expect(seatsByLedger(entries)).toEqual(seatsAsKept(seats))
  expect(placesByLedger(entries)).toEqual(placesAsKept(stores.seats.lines(sheet.id)))
  for (const { id, seats: limit } of stores.sheets.groups(sheet.id)) {
    const ordinary = seats.filter(({ group_id, extra }) => group_id === id && extra === 0)
    if (limit > 0) expect(ordinary.length).toBeLessThanOrEqual(limit)
  }
  // Whoever a line seated has one mail of it.
  const seated = entries.filter(({ detail }) => detail.includes('"waiting-line"'))
  const told = stores.mail.newest(1_000_000).filter(({ body }) => body.startsWith('A seat came free'))
  expect(told).toHaveLength(seated.length)
}

it(`${DEEDS} deeds of students and instructors at once leave a sheet that agrees with itself`, async () => {
  console.log(`seed of the storm: ${SEED}`)
  const chance = createChance(SEED)
  const pick = <T>(list: readonly T[]): T => list[Math.floor(chance() * list.length)] as T
  harness = await startHarness()
  const school = await setUpSchool(harness, { students: { '': STUDENTS }, topics: TOPICS, seats: 4 })
  const at = `/api/sheets/${school.sheet}`
  const { owner } = school
  await must(owner.patch(at, { fullGroups: 'line', seatsEach: 1 }))
  const students: Client[] = Array.from({ length: STUDENTS }, (_, n) => harness.as(studentEmail('', n)))
  const groups = Object.values(school.groups)
  const roster = `/api/courses/${school.course}/roster`
  const { people } = await must<{ people: { code: string; role: string }[] }>(owner.get(roster))
  const codes = people.filter(({ role }) => role === 'student').map(({ code }) => code)
  const { topics } = await must<{ topics: { code: string }[] }>(owner.get(`${at}/compose`))
  let key = 0
  const claim = (kind: string) => {
    const [from, to] = [pick(groups), pick(groups)]
    const body = {
      key: `storm-key-${++key}`,
      kind,
      ...(kind !== 'give-up' && { to }),
      ...(kind !== 'take' && kind !== 'wait' && { from }),
    }
    return pick(students).post(`${at}/claims`, body)
  }
  const deeds: (() => Promise<{ status: number }>)[] = [
    ...['take', 'take', 'move', 'give-up', 'wait', 'wait'].map((kind) => () => claim(kind)),
    ...['take', 'move', 'wait'].map((kind) => () => claim(kind)),
    () => owner.patch(`${at}/topics/${pick(topics).code}`, { seats: pick([2, 3, 4, 6]), confirmed: true }),
    () =>
      owner.post(`${at}/seatings`, {
        changes: [{ person: pick(codes), from: null, to: pick(groups) }],
        confirmed: chance() < 0.5,
      }),
    () =>
      owner.patch(`${roster}/people/${pick(codes)}`, {
        status: pick(['active', 'active', 'paused', 'left']),
        freeSeats: chance() < 0.5,
      }),
    () => owner.post(`${roster}/undo`),
    () => owner.patch(at, { fullGroups: pick(['line', 'line', 'full']), confirmed: true }),
    () => owner.patch(at, { seatsEach: pick([1, 2]), confirmed: true }),
    () => owner.post(`${at}/archive`, { archived: chance() < 0.3 }),
    () => owner.post(`${at}/topics/${pick(topics).code}/remove`, { confirmed: true }),
    () => owner.post(`${at}/topics/${pick(topics).code}/restore`),
    () => owner.post(`${at}/topics/${pick(topics).code}/restore`),
  ]
  const seen = new Map<number, number>()
  for (let done = 0; done < DEEDS; done += AT_ONCE) {
    const answers = await Promise.all(Array.from({ length: AT_ONCE }, () => pick(deeds)()))
    for (const { status } of answers) seen.set(status, (seen.get(status) ?? 0) + 1)
    harness.clock.advance(MINUTE / 60)
    check(school)
  }
  expect([...seen.keys()].filter((status) => status >= 500)).toEqual([])
  expect(seen.get(200) ?? 0).toBeGreaterThan(DEEDS / 10)
}, 3_600_000)
