import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { placesAsKept, placesByLedger, seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
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

let harness: Harness
let school: School
beforeEach(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, { students: { '': N }, topics: ['Tempeh', 'Kefir'], seats: 2 })
})
afterEach(() => harness.end())

const N = 8
const step = fc.oneof(
  {
    weight: 4,
    arbitrary: fc.record({ kind: fc.constant('take' as const), who: fc.nat(N - 1), to: fc.nat(1) }),
  },
  {
    weight: 3,
    arbitrary: fc.record({
      kind: fc.constant('move' as const),
      who: fc.nat(N - 1),
      from: fc.nat(1),
      to: fc.nat(1),
    }),
  },
  {
    weight: 3,
    arbitrary: fc.record({ kind: fc.constant('give-up' as const), who: fc.nat(N - 1), from: fc.nat(1) }),
  },
  {
    weight: 4,
    arbitrary: fc.record({ kind: fc.constant('wait' as const), who: fc.nat(N - 1), to: fc.nat(1) }),
  },
  {
    weight: 1,
    arbitrary: fc.record({ kind: fc.constant('leave-line' as const), who: fc.nat(N - 1), from: fc.nat(1) }),
  },
)

/** Two groups of two seats with a line each, in the plainest words. */
class NaiveLines {
  sits = new Map<number, number>()
  constructor(readonly otherLines: 'leave' | 'keep') {}
  lines: number[][] = [[], []]
  free(g: number) {
    return 2 - [...this.sits.values()].filter((where) => where === g).length
  }
  ask(s: { kind: string; who: number; from?: number; to?: number }): boolean {
    const { who, from = -1, to = -1 } = s
    const held = this.sits.get(who)
    if (s.kind === 'leave-line') {
      if (!this.lines[from]!.includes(who)) return false
      this.lines[from] = this.lines[from]!.filter((one) => one !== who)
      return true
    }
    if (s.kind === 'give-up' || s.kind === 'move') if (held !== from) return false
    if (s.kind === 'give-up') this.sits.delete(who)
    else {
      if (held === to || (s.kind === 'take' && held !== undefined)) return false
      if (s.kind === 'wait') {
        if (this.lines[to]!.includes(who) || (this.free(to) > 0 && this.lines[to]!.length === 0)) return false
        this.lines[to]!.push(who)
      } else {
        if (this.free(to) === 0 || this.lines[to]!.some((one) => one !== who)) return false
        this.sits.set(who, to)
      }
    }
    this.serve()
    return true
  }
  serve() {
    for (let again = true; again; ) {
      again = false
      for (const g of [0, 1]) {
        const first = this.lines[g]!.find((one) => this.sits.get(one) !== g)
        this.lines[g] = this.lines[g]!.filter((one) => this.sits.get(one) !== g)
        if (first === undefined || this.free(g) === 0) continue
        this.sits.set(first, g)
        this.lines = this.lines.map((line, l) =>
          line.filter((one) => one !== first || (this.otherLines === 'keep' && l !== g)),
        )
        again = true
      }
    }
  }
}

describe('any history with lines', () => {
  it.each(['leave', 'keep'] as const)(
    'agrees with the naive model where other lines are: %s',
    async (otherLines) => {
      await must(school.owner.patch(`/api/sheets/${school.sheet}`, { fullGroups: 'line', otherLines }))
      const { stores } = harness
      const sheet = stores.sheets.byCode(school.sheet)!
      const codes = ['Tempeh', 'Kefir'].map((title) => school.groups[title]!)
      const clients = Array.from({ length: N }, (_, n) => harness.as(studentEmail('', n)))
      const ids = clients.map(
        (_, n) =>
          stores.roster.enrolmentIn(sheet.course_id, stores.roster.personByEmail(studentEmail('', n))!.id)!
            .id,
      )
      const model = new NaiveLines(otherLines)
      await fc.assert(
        fc.asyncProperty(fc.array(step, { minLength: 5, maxLength: 30 }), async (steps) => {
          for (const s of steps) {
            const ask = {
              kind: s.kind,
              ...('from' in s && { from: codes[s.from] }),
              ...('to' in s && { to: codes[s.to] }),
            }
            const answer = await claim(clients[s.who]!, school.sheet, ask)
            expect(answer.status === 200, `${JSON.stringify(s)} → ${outcome(answer)}`).toBe(model.ask(s))
          }
          const kept = stores.seats.ofSheet(sheet.id)
          codes.forEach((code, g) => {
            const group = stores.sheets.group(code)!
            const there = kept
              .filter(({ group_id }) => group_id === group.id)
              .map(({ enrolment_id }) => ids.indexOf(enrolment_id))
            expect(there.sort()).toEqual(
              [...model.sits]
                .filter(([, where]) => where === g)
                .map(([n]) => n)
                .sort(),
            )
            expect(
              stores.seats.lineOf(group.id).map(({ enrolment_id }) => ids.indexOf(enrolment_id)),
            ).toEqual(model.lines[g])
          })
          const entries = stores.ledger.since(sheet.id, 0)
          expect(seatsByLedger(entries)).toEqual(seatsAsKept(kept))
          expect(placesByLedger(entries)).toEqual(placesAsKept(stores.seats.lines(sheet.id)))
        }),
        { numRuns: 25 },
      )
    },
  )
})
