import { afterEach, expect, it } from 'vitest'
import type { ClaimAnswer } from '../../src/contract/seats.ts'
import { DAY, instantFromMs } from '../../src/core/instant.ts'
import { openDb } from '../../src/server/db/open.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { createStores } from '../../src/server/stores.ts'
import { type Client, setUpSchool, startHarness, studentEmail } from '../http/harness.ts'
import { createCrashServer } from './server.ts'

/** How often the server is killed: a few times here, twenty times by `npm run test:crash`. */
const ROUNDS = Number(process.env.CRASH_ROUNDS ?? 3)
const STUDENTS = 40
const TOPICS = ['Tempeh', 'Kefir', 'Miso']
const SEATS = 8

const server = createCrashServer(4860)
afterEach(() => server.kill())

/** What a student was told last, and what was asked but never answered. */
interface Known {
  /** Group by its code, null for none. */
  seat: string | null
  unanswered: { kind: string; to?: string } | null
}

it(
  'keeps every answered claim and no half one, however often the server is killed',
  async () => {
    const harness = await startHarness()
    const school = await setUpSchool(harness, { students: { '': STUDENTS }, topics: TOPICS, seats: SEATS })
    // From here on in real time, which the killed server goes by.
    harness.clock.set(instantFromMs(Date.now()))
    const file = harness.db.name
    const sheet = harness.stores.sheets.byCode(school.sheet)!
    const window = { opens_at: instantFromMs(Date.now() - DAY), closes_at: instantFromMs(Date.now() + DAY) }
    harness.stores.sheets.change(sheet.id, { ...sheet, ...window })
    const clients: Client[] = Array.from({ length: STUDENTS }, (_, n) => harness.as(studentEmail('', n)))
    const enrolments = clients.map((_, n) => {
      const person = harness.stores.roster.personByEmail(studentEmail('', n))!
      return harness.stores.roster.enrolmentIn(sheet.course_id, person.id)!.id
    })
    const codes = TOPICS.map((title) => school.groups[title]!)
    await harness.stop()

    const known: Known[] = clients.map(() => ({ seat: null, unanswered: null }))
    let answered = 0
    let heard = () => {}
    for (let round = 0; round < ROUNDS; round++) {
      const address = await server.start(file)
      let killed = false
      // Killed after so many answers, not after so long: a busy machine gives few in a while.
      const enough = answered + 25 + ((round * 137) % 200)
      const poured = new Promise<void>((resolve) => {
        heard = () => answered >= enough && resolve()
      })
      /** One student asks again and again for other seats until the server is gone. */
      const pour = async (n: number) => {
        for (let i = 0; !killed; i++) {
          const me = known[n]!
          const to = codes[(n + i + round) % codes.length]!
          const leaving = i % 5 === 4 && me.seat !== null
          if (me.seat === to && !leaving) continue
          const ask =
            me.seat === null
              ? { kind: 'take', to }
              : leaving
                ? { kind: 'give-up', from: me.seat }
                : { kind: 'move', from: me.seat, to }
          me.unanswered = ask
          try {
            const answer = await fetch(`${address}/api/sheets/${school.sheet}/claims`, {
              method: 'POST',
              headers: { Origin: address, Cookie: clients[n]!.cookie, 'Content-Type': 'application/json' },
              body: JSON.stringify({ key: `crash-${round}-${n}-${i}`, ...ask }),
            })
            const body = (await answer.json()) as ClaimAnswer
            if (answer.ok) me.seat = body.seats[0]?.group ?? null
            me.unanswered = null
            answered += 1
            heard()
          } catch {
            return
          }
        }
      }
      const pouring = clients.map((_, n) => pour(n))
      await poured
      killed = true
      server.kill()
      await Promise.all(pouring)

      const db = openDb(file)
      const stores = createStores(db)
      const kept = stores.seats.ofSheet(sheet.id)
      expect(db.pragma('integrity_check', { simple: true })).toBe('ok')
      expect(seatsByLedger(stores.ledger.since(sheet.id, 0))).toEqual(seatsAsKept(kept))
      for (const { id, seats } of stores.sheets.groups(sheet.id)) {
        expect(kept.filter(({ group_id }) => group_id === id).length).toBeLessThanOrEqual(seats)
      }
      const codeOf = stores.sheets.groupCodes(sheet.id)
      known.forEach((me, n) => {
        const seats = kept.filter(({ enrolment_id }) => enrolment_id === enrolments[n])
        expect(seats.length).toBeLessThanOrEqual(1)
        const there = seats[0] ? codeOf.get(seats[0].group_id)! : null
        // What was never answered may have happened wholly or not at all; everything else is as it was told.
        const possible = [me.seat, ...(me.unanswered ? [me.unanswered.to ?? null] : [])]
        expect(possible).toContain(there)
        me.seat = there
        me.unanswered = null
      })
      db.close()
    }
    expect(answered).toBeGreaterThan(ROUNDS * 20)
    await harness.end().catch(() => undefined)
  },
  120_000 + ROUNDS * 20_000,
)
