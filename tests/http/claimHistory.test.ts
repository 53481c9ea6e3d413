import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { type Benches, startBenches } from './benches.ts'
import { claim, type Harness, must, outcome, START } from './harness.ts'

let harness: Harness
let small: Benches['small']
let tue: Benches['tue']
beforeEach(async () => {
  ;({ harness, small, tue } = await startBenches())
})
afterEach(() => harness.end())

/** A student's step, or the instructor's, in a random history. */
const step = fc.oneof(
  { weight: 5, arbitrary: fc.record({ kind: fc.constant('take' as const), who: fc.nat(5), to: fc.nat(1) }) },
  {
    weight: 4,
    arbitrary: fc.record({
      kind: fc.constant('move' as const),
      who: fc.nat(5),
      from: fc.nat(1),
      to: fc.nat(1),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({ kind: fc.constant('give-up' as const), who: fc.nat(5), from: fc.nat(1) }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('limit' as const),
      topic: fc.nat(1),
      seats: fc.integer({ min: 1, max: 4 }),
    }),
  },
  { weight: 1, arbitrary: fc.record({ kind: fc.constant('close' as const), closed: fc.boolean() }) },
)

describe('any history', () => {
  it('leaves seats, ledger and a naive model in agreement', async () => {
    const school = await small()
    const compose = await must<ComposeView>(school.owner.get(`/api/sheets/${school.sheet}/compose`))
    const students = Array.from({ length: 6 }, (_, n) => tue(n))
    const topics = compose.topics.map(({ code }) => code)
    const codes = ['Tempeh/Tue lab', 'Kefir/Tue lab'].map((name) => school.groups[name]!)
    const { stores } = harness
    const sheet = stores.sheets.byCode(school.sheet)!
    // The model goes on over all histories: who sits where, the limits, and whether the window is open.
    const sits = new Map<number, number>()
    const limit = [2, 2]
    let open = true
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 5, maxLength: 25 }), async (steps) => {
        for (const s of steps) {
          const inGroup = (g: number) => [...sits.values()].filter((where) => where === g).length
          if (s.kind === 'limit') {
            await must(
              school.owner.patch(`/api/sheets/${school.sheet}/topics/${topics[s.topic]}`, {
                seats: s.seats,
                confirmed: true,
              }),
            )
            limit[s.topic] = s.seats
          } else if (s.kind === 'close') {
            open = !s.closed
            harness.clock.set(open ? START : '2026-05-14T00:00:00.000Z')
          } else {
            const held = sits.get(s.who)
            const room = 'to' in s && inGroup(s.to) < limit[s.to]!
            const allowed =
              open &&
              (s.kind === 'take'
                ? held === undefined && room
                : s.kind === 'move'
                  ? held === s.from && s.to !== s.from && room
                  : held === s.from)
            const ask = {
              kind: s.kind,
              ...('from' in s && { from: codes[s.from] }),
              ...('to' in s && { to: codes[s.to] }),
            }
            const answer = await claim(students[s.who]!, school.sheet, ask)
            expect(answer.status === 200, `${JSON.stringify(s)} → ${outcome(answer)}`).toBe(allowed)
            if (allowed) {
              if ('to' in s) sits.set(s.who, s.to)
              else sits.delete(s.who)
            }
          }
        }
        const kept = stores.seats.ofSheet(sheet.id)
        expect(seatsByLedger(stores.ledger.since(sheet.id, 0))).toEqual(seatsAsKept(kept))
        expect(kept).toHaveLength(sits.size)
        codes.forEach((code, g) => {
          const group = stores.sheets.group(code)!
          const there = kept.filter(({ group_id }) => group_id === group.id)
          expect(there).toHaveLength([...sits.values()].filter((where) => where === g).length)
          expect(there.filter(({ extra }) => extra === 1)).toHaveLength(
            Math.max(0, there.length - group.seats),
          )
        })
      }),
      { numRuns: 25 },
    )
  })
})
