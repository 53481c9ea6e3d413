import { afterEach, expect, it } from 'vitest'
import type { StudentSheet } from '../../src/contract/seats.ts'
import { DAY, instantFromMs } from '../../src/core/instant.ts'
import { openDb } from '../../src/server/db/open.ts'
import { placesAsKept, placesByLedger, seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { createStores, type Stores } from '../../src/server/stores.ts'
import { must, setUpSchool, startHarness, studentEmail } from '../http/harness.ts'
import { createCrashServer } from './server.ts'

/** How often the server is killed: a few times here, twenty times by `npm run test:crash`. */
const ROUNDS = Number(process.env.CRASH_ROUNDS ?? 3)
const STUDENTS = 24
const TOPICS = ['Tempeh', 'Kefir', 'Miso']
/** Fewer seats than students, so that there are lines. */
const SEATS = 5

const server = createCrashServer(4864)
afterEach(() => server.kill())

/** What has to be true of what follows from one another, whenever the server ends. */
function check(stores: Stores, sheetId: number): { lines: number; requests: number } {
  const entries = stores.ledger.since(sheetId, 0)
  expect(seatsByLedger(entries)).toEqual(seatsAsKept(stores.seats.ofSheet(sheetId)))
  expect(placesByLedger(entries)).toEqual(placesAsKept(stores.seats.lines(sheetId)))
  const mails = stores.mail.newest(1_000_000)
  const because = (wanted: string) =>
    entries.filter(({ detail }) => (JSON.parse(detail) as { because?: string }).because === wanted)
  const states = (wanted: string) =>
    entries.filter(
      ({ kind, detail }) =>
        kind === 'request-answered' && (JSON.parse(detail) as { state: string }).state === wanted,
    ).length
  // Whoever a line seated has the mail that says so, and nobody else has one.
  const seated = because('waiting-line').map(
    ({ enrolment_id }) => stores.roster.enrolment(enrolment_id!)!.email,
  )
  const told = mails.filter(({ subject }) => /: you sit at /.test(subject)).map(({ recipient }) => recipient)
  expect(told.toSorted()).toEqual(seated.toSorted())
  // A request that was granted moved somebody, and each that was answered is told once.
  const requestMails = (state: string) =>
    mails.filter(({ subject }) => subject.endsWith(`your request was ${state}`)).length
  for (const state of ['granted', 'declined']) expect(requestMails(state), state).toBe(states(state))
  expect(because('request')).toHaveLength(states('granted'))
  return { lines: seated.length, requests: states('granted') + states('declined') }
}

it(
  'what follows from a claim is there with it, or neither is: lines, requests, mails, however often the server is killed',
  async () => {
    const harness = await startHarness()
    const school = await setUpSchool(harness, { students: { '': STUDENTS }, topics: TOPICS, seats: SEATS })
    const at = `/api/sheets/${school.sheet}`
    await must(school.owner.patch(at, { fullGroups: 'line', changing: 'by-asking' }))
    harness.clock.set(instantFromMs(Date.now()))
    const file = harness.db.name
    const sheet = harness.stores.sheets.byCode(school.sheet)!
    const window = { opens_at: instantFromMs(Date.now() - DAY), closes_at: instantFromMs(Date.now() + DAY) }
    harness.stores.sheets.change(sheet.id, { ...sheet, ...window })
    const cookies = Array.from({ length: STUDENTS }, (_, n) => harness.as(studentEmail('', n)).cookie)
    const owner = harness.as('owner@school.example').cookie
    const codes = TOPICS.map((title) => school.groups[title]!)
    await harness.stop()

    const seen = { lines: 0, requests: 0 }
    for (let round = 0; round < ROUNDS; round++) {
      const address = await server.start(file)
      let killed = false
      let decided = 0
      const ask = async <T>(
        cookie: string,
        method: string,
        path: string,
        body?: object,
      ): Promise<T | null> => {
        const answer = await fetch(`${address}${at}${path}`, {
          method,
          headers: { Origin: address, Cookie: cookie, 'Content-Type': 'application/json' },
          ...(body && { body: JSON.stringify(body) }),
        })
        const text = await answer.text()
        if (answer.ok && path.endsWith('/answer')) decided += 1
        return answer.ok ? (JSON.parse(text) as T) : null
      }
      const student = async (n: number) => {
        for (let i = 0; !killed; i++) {
          const view = await ask<StudentSheet>(cookies[n]!, 'GET', '/student')
          const own = view?.seats[0]?.group
          const to = codes[(n + i) % codes.length]!
          const key = `follows-${round}-${n}-${i}`
          if (own && view?.request?.state !== 'open') {
            const wanted = i % 2 === 0 ? null : to === own ? codes[(n + i + 1) % codes.length]! : to
            await ask(cookies[n]!, 'POST', '/requests', { from: own, to: wanted, reason: 'A lecture.' })
          } else if (!own) {
            const full = view?.groups.find(({ code }) => code === to)
            const kind = full && full.seats !== 0 && full.taken >= full.seats ? 'wait' : 'take'
            await ask(cookies[n]!, 'POST', '/claims', { key, kind, to })
          }
        }
      }
      const instructor = async () => {
        for (let i = 0; !killed; i++) {
          const open = await ask<{ requests: { code: string; to: string | null }[] }>(
            owner,
            'GET',
            '/requests',
          )
          // What cannot be granted, as the seat is not free, is declined the next time.
          for (const { code, to } of open?.requests.slice(0, 4) ?? [])
            await ask(owner, 'POST', `/requests/${code}/answer`, { granted: to === null || i % 2 === 0 })
        }
      }
      const busy = [...cookies.map((_, n) => student(n)), instructor(), instructor()].map((one) =>
        one.catch(() => {}),
      )
      // In the middle of it, wherever that is: after some dozens of requests were answered.
      const enough = 24 + ((round * 7) % 20)
      while (decided < enough) await new Promise((resolve) => setTimeout(resolve, 5))
      killed = true
      server.kill()
      await Promise.all(busy)

      const db = openDb(file)
      expect(db.pragma('integrity_check', { simple: true })).toBe('ok')
      const { lines, requests } = check(createStores(db), sheet.id)
      seen.lines = lines
      seen.requests = requests
      db.close()
    }
    expect(seen.lines).toBeGreaterThan(0)
    expect(seen.requests).toBeGreaterThan(0)
    await harness.end().catch(() => undefined)
  },
  120_000 + ROUNDS * 20_000,
)
