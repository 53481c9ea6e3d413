import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { type Benches, startBenches } from './benches.ts'
import { type Client, claim, type Harness, outcome, START, studentEmail } from './harness.ts'

let harness: Harness
let small: Benches['small']
let tue: Benches['tue']
beforeEach(async () => {
  ;({ harness, small, tue } = await startBenches())
})
afterEach(() => harness.end())

describe('the database', () => {
  it('refuses by itself what the engine should never write', async () => {
    const { sheet, groups } = await small()
    const { db, stores } = harness
    const id = stores.sheets.byCode(sheet)!.id
    const group = (name: string) => stores.sheets.group(groups[name]!)!.id
    const enrolment = (n: number) =>
      stores.roster.enrolmentIn(
        stores.sheets.byId(id)!.course_id,
        stores.roster.personByEmail(studentEmail('Tue lab', n))!.id,
      )!.id
    const take = (n: number, name: string) => stores.seats.seat(id, group(name), enrolment(n), false, START)
    take(0, 'Tempeh/Tue lab')
    expect(() => take(0, 'Tempeh/Tue lab')).toThrow()
    expect(() => take(0, 'Kefir/Tue lab')).toThrow(/more seats than a student may hold/)
    take(1, 'Tempeh/Tue lab')
    expect(() => take(2, 'Tempeh/Tue lab')).toThrow(/past its limit/)
    expect(() => db.exec('UPDATE topic SET seats = 1')).toThrow(/limit below/)
    expect(() => db.exec('UPDATE sheet SET seats = 1')).toThrow(/limit below/)
    expect(() => db.exec(`UPDATE seat SET group_id = ${group('Kefir/Tue lab')}`)).toThrow(
      /never turned into another/,
    )
    const other = await small()
    expect(() =>
      stores.seats.seat(
        id,
        stores.sheets.group(other.groups['Kefir/Tue lab']!)!.id,
        enrolment(2),
        false,
        START,
      ),
    ).toThrow(/outside/)
    expect(() => db.exec('DELETE FROM ledger')).toThrow(/only added to/)
    expect(() => db.exec("UPDATE ledger SET kind = 'seat-taken'")).toThrow(/only added to/)
  })

  it('that is full gives a clear refusal and no seat, and goes on once there is room', async () => {
    const { sheet, groups } = await small()
    const { db, stores } = harness
    const id = stores.sheets.byCode(sheet)!.id
    const to = groups['Tempeh/Tue lab']
    // Not one page more than there is: what SQLite says then is what it says when the disk is full.
    const pages = db.pragma('page_count', { simple: true }) as number
    db.pragma(`max_page_count = ${pages}`)
    // What fits into pages that are not full yet is granted and kept; sooner or later one does not fit.
    let refused: Awaited<ReturnType<typeof claim>> | null = null
    for (let i = 0; i < 200 && refused === null; i++) {
      const held = stores.seats.ofSheet(id).length
      const before = stores.ledger.newest(id)
      const ask = held === 0 ? { kind: 'take', to } : { kind: 'give-up', from: to }
      const answer = await claim(tueBefore, sheet, ask)
      if (answer.status === 200) continue
      refused = answer
      expect(stores.seats.ofSheet(id)).toHaveLength(held)
      expect(stores.ledger.newest(id)).toBe(before)
    }
    expect(refused).toMatchObject({ status: 503, body: { code: 'store-unavailable' } })
    expect(JSON.stringify(refused)).toContain('Nothing was changed')
    db.pragma(`max_page_count = ${pages * 100}`)
    const seated = stores.seats.ofSheet(id).length === 1
    const ask = seated ? { kind: 'give-up', from: to } : { kind: 'take', to }
    expect(outcome(await claim(tueBefore, sheet, ask))).toBe('granted')
    expect(seatsByLedger(stores.ledger.since(id, 0))).toEqual(seatsAsKept(stores.seats.ofSheet(id)))
  })

  it('that takes no writes gives a clear refusal and no seat', async () => {
    const { sheet, groups } = await small()
    harness.db.pragma('query_only = ON')
    const answer = await claim(tueBefore, sheet, { kind: 'take', to: groups['Tempeh/Tue lab'] })
    harness.db.pragma('query_only = OFF')
    expect(answer.status).toBe(503)
    expect(answer.headers.get('retry-after')).toBe('2')
    expect((answer.body as Problem).detail).toMatch(/Nothing was changed/)
    expect(outcome(await claim(tueBefore, sheet, { kind: 'take', to: groups['Tempeh/Tue lab'] }))).toBe(
      'granted',
    )
  })
  let tueBefore: Client
  beforeEach(() => {
    tueBefore = tue(0)
  })
})
