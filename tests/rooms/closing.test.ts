import { pino } from 'pino'
import { describe, expect, it } from 'vitest'
import type { PlanContent } from '../../src/contract/plans.ts'
import { DAY, HOUR, MINUTE, shift } from '../../src/core/instant.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import type { Plan, PlanInput } from '../../src/core/plan/types.ts'
import { createClosing } from '../../src/server/plans/closing.ts'
import { lateOn, tellOfLate } from '../../src/server/plans/late.ts'
import { CLOSES, OPENS, stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.enrol(['Ina'], { role: 'instructor' })
  s.enrol(['Ada', 'Bo', 'Cleo', 'Dai'])
  for (const title of ['Tempeh', 'Miso']) s.addTopic(title)
  s.rule({ at_close: 'seat' })
})

/** The rules for the close, with plans made at once in this thread; counted, and broken where a test says so. */
function closing({ broken = null as Error | null, meanwhile = () => {} } = {}) {
  const { stores, unit, mailer, now } = stage()
  const inputs: PlanInput[] = []
  const planner = {
    broken,
    plan: async (input: PlanInput): Promise<Plan> => {
      inputs.push(input)
      if (planner.broken) throw planner.broken
      const plan = makePlan(input)
      meanwhile()
      return plan
    },
    close: async () => {},
  }
  const rules = createClosing({ log: pino({ level: 'silent' }), stores, unit, mailer, planner })
  return { inputs, planner, run: () => rules.carryOut(now()), stop: rules.stop }
}
const everybody = () => [...stage().seated('Tempeh'), ...stage().seated('Miso')].toSorted()
const mailsTo = (name: string) =>
  stage()
    .mails()
    .filter(({ recipient }) => recipient === `${name.toLowerCase()}@haplon.example`)
const planOf = (code: string) => {
  const { stores, sheet } = stage()
  const row = stores.plans.byCode(sheet().id, code)
  return row && { ...row, content: JSON.parse(row.content) as PlanContent }
}
const closeCode = () => `close-${stage().sheet().code}-${CLOSES.replace(/\D/g, '')}`
const troubles = () => stage().stores.plans.troubles(stage().sheet().id)

describe('the rule at the close', () => {
  it('seats who is left, once, tells them where and the instructors what was done', async () => {
    const s = stage()
    s.seat('Tempeh', 'Ada')
    const { run, inputs } = closing()
    await run()
    expect([everybody(), inputs]).toEqual([['Ada'], []])
    s.set(CLOSES)
    const before = s.position()
    await run()
    expect(everybody()).toEqual(['Ada', 'Bo', 'Cleo', 'Dai'])
    expect(inputs).toMatchObject([
      {
        method: 'evenly',
        floorsFirst: true,
        mayDissolve: false,
        release: 'none',
        lotNumber: s.sheet().lot_number,
      },
    ])
    expect(planOf(closeCode())).toMatchObject({ title: 'At the close', applied_at: CLOSES })
    expect(s.entries(before)).toHaveLength(3)
    expect(s.entries(before)[0]).toContain(`plan=${closeCode()}`)
    expect(mailsTo('Bo').map(({ subject }) => subject)).toEqual([
      expect.stringMatching(/^Benches: you sit at/),
    ])
    expect(mailsTo('Ada')).toEqual([])
    expect(mailsTo('Ina').map(({ body }) => body)).toEqual([
      expect.stringMatching(/has closed and 3 were seated by plan\. Nobody is left\./),
    ])
    s.advance(HOUR)
    await run()
    expect([inputs.length, mailsTo('Ina').length]).toEqual([1, 1])
  })

  it('drafts a plan and seats nobody where that is the rule; says so where there is nobody to seat', async () => {
    const s = stage()
    s.rule({ at_close: 'draft' })
    s.set(CLOSES)
    await closing().run()
    expect(everybody()).toEqual([])
    expect(planOf(closeCode())).toMatchObject({ applied_at: null, content: { moves: { length: 4 } } })
    expect(mailsTo('Ina')[0]!.body).toContain('A plan for 4 waits for you under Settle; nothing was applied.')
    s.rule({ closes_at: '2026-05-14T08:00:00.000Z' })
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo', 'Dai')
    s.set('2026-05-14T08:00:00.000Z')
    await closing().run()
    expect(mailsTo('Ina')[0]!.body).toContain('There was nobody to seat. Nobody is left.')
    expect(s.stores.plans.ofSheet(s.sheet().id)).toHaveLength(1)
  })

  it('carries nothing out that is not due any more once it was planned: opened again, or another close', async () => {
    const s = stage()
    s.set(CLOSES)
    const later = shift(CLOSES, HOUR)
    await closing({ meanwhile: () => s.rule({ closes_at: later }) }).run()
    expect([everybody(), s.stores.plans.closed(s.sheet().id, CLOSES)]).toEqual([[], false])
    s.set(later)
    const earlier = shift(later, -MINUTE)
    await closing({ meanwhile: () => s.rule({ closes_at: earlier }) }).run()
    expect([everybody(), s.stores.plans.closed(s.sheet().id, later)]).toEqual([[], false])
    await closing({ meanwhile: () => s.stores.sheets.archive(s.sheet().id, s.now()) }).run()
    expect(everybody()).toEqual([])
    expect(s.stores.plans.closed(s.sheet().id, earlier)).toBe(false)
  })

  it('notes what breaks on a sheet that is put away meanwhile, too', async () => {
    const s = stage()
    s.set(CLOSES)
    const { run, planner } = closing()
    planner.plan = async () => {
      s.stores.sheets.archive(s.sheet().id, s.now())
      throw new Error('It broke.')
    }
    await run()
    expect(troubles()).toMatchObject([{ why: 'It broke.' }])
  })

  it('does nothing where it is to be left, on a draft, put away or deleted', async () => {
    const s = stage()
    s.set(CLOSES)
    const { run, inputs } = closing()
    s.rule({ at_close: 'leave' })
    await run()
    s.rule({ at_close: 'seat' })
    s.stores.sheets.archive(s.sheet().id, s.now())
    await run()
    s.stores.sheets.archive(s.sheet().id, null)
    s.stores.sheets.withdraw(s.sheet().id)
    await run()
    expect([inputs, everybody()]).toEqual([[], []])
  })

  it('counts who has no seat, and says of each who is left why', async () => {
    const s = stage()
    s.rule({ seats: 1 })
    s.set(CLOSES)
    await closing().run()
    expect(everybody()).toHaveLength(2)
    expect(mailsTo('Ina')[0]!.body).toContain('2 could not be seated; Settle says why.')
  })

  it('plans anew where the sheet changed while it planned', async () => {
    const s = stage()
    s.set(CLOSES)
    let changed = false
    const { run, inputs } = closing({
      meanwhile: () => {
        if (!changed) s.addTopic('Kefir')
        changed = true
      },
    })
    await run()
    expect([everybody(), s.seated('Kefir'), troubles()]).toEqual([[], [], []])
    await run()
    expect(inputs).toHaveLength(2)
    expect(everybody().length + s.seated('Kefir').length).toBe(4)
  })

  it('that breaks is told once, tried again after five minutes or a change, and its trouble ends when it works', async () => {
    const s = stage()
    s.set(CLOSES)
    const { run, inputs, planner } = closing({ broken: new Error('No plan was found in time.') })
    await run()
    expect(troubles()).toMatchObject([
      { rule: 'close', closes_at: CLOSES, why: 'No plan was found in time.', since: CLOSES },
    ])
    expect(mailsTo('Ina').map(({ subject }) => subject)).toEqual([
      'FERM 1: a rule of Benches could not be carried out',
    ])
    s.advance(5 * MINUTE - 1)
    await run()
    expect(inputs).toHaveLength(1)
    s.advance(1)
    await run()
    expect([inputs.length, mailsTo('Ina').length]).toEqual([2, 1])
    expect(await s.unit.onSheet(s.sheet(), s.now(), () => s.stores.ledger.newest(s.sheet().id))).toBe(0)
    s.stores.ledger.note({ sheetId: s.sheet().id, at: s.now(), actorId: null, kind: 'sheet-changed' })
    planner.broken = null
    await run()
    expect([inputs.length, everybody().length, troubles()]).toEqual([3, 4, []])
  })

  it('leaves no trace of what was under way when the server stops', async () => {
    const s = stage()
    s.set(CLOSES)
    const rules = closing({ meanwhile: () => void rules.stop() })
    await rules.run()
    await rules.stop()
    await rules.run()
    expect([everybody(), troubles(), rules.inputs.length]).toEqual([[], [], 1])
  })
})

describe('the rule for late enrolments', () => {
  const late = () =>
    lateOn(stage().sheet(), stage().stores).map((code) => {
      const { stores, course } = stage()
      return stores.roster.everybody(course.id).find((one) => one.code === code)?.name
    })

  it('is for active students without a seat who came or came back after the close', () => {
    const s = stage()
    expect(late()).toEqual([])
    s.set(shift(CLOSES, HOUR))
    s.status('Bo', 'paused')
    s.enrol(['Eve', 'Fritz'])
    s.rule({ seats: 5 })
    s.seat('Tempeh', 'Fritz')
    expect(late()).toEqual(['Eve'])
    s.status('Bo', 'active')
    expect(late()).toEqual(['Bo', 'Eve'])
    s.rule({ closes_at: null })
    expect(late()).toEqual([])
  })

  it('is for who came after the opening where it says so, but not for who gave up a seat while it is open', async () => {
    const s = stage()
    s.rule({ late_from: 'opening' })
    expect(late()).toEqual(['Ada', 'Bo', 'Cleo', 'Dai'])
    expect(await s.claim('Ada', 'take', 'Tempeh')).toBe('yes')
    expect(late()).toEqual(['Bo', 'Cleo', 'Dai'])
    expect(await s.claim('Ada', 'give-up', 'Tempeh')).toBe('yes')
    expect(late()).toEqual(['Bo', 'Cleo', 'Dai'])
    s.rule({ opens_at: null })
    expect(late()).toEqual([])
    s.rule({ opens_at: OPENS, closes_at: shift(OPENS, HOUR) })
    expect(late()).toContain('Ada')
  })

  it('seats them in what is free, and tells the instructors of them once a day', async () => {
    const s = stage()
    s.rule({ at_close: 'leave', late: 'seat', seats: 3 })
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo', 'Dai')
    s.set(shift(CLOSES, HOUR))
    s.enrol(['Eve'])
    const { run } = closing()
    await run()
    expect(everybody()).toContain('Eve')
    expect(mailsTo('Eve')).toHaveLength(1)
    const tell = () => tellOfLate(s.unit, s.stores, s.mailer, s.now())
    tell()
    const topic = s.seated('Tempeh').includes('Eve') ? 'Tempeh' : 'Miso'
    expect(mailsTo('Ina').map(({ subject, body }) => [subject, body.includes(`Eve: ${topic}`)])).toEqual([
      ['FERM 1: somebody new was seated on Benches', true],
    ])
    s.enrol(['Fritz'])
    await run()
    s.advance(DAY - HOUR)
    tell()
    expect(mailsTo('Ina')).toHaveLength(1)
    s.advance(HOUR)
    tell()
    tell()
    expect(mailsTo('Ina')).toHaveLength(2)
    // Nobody was seated since, and something else was written: nothing is told, today or later.
    s.advance(2 * DAY)
    s.stores.ledger.note({ sheetId: s.sheet().id, at: s.now(), actorId: null, kind: 'sheet-changed' })
    tell()
    expect(mailsTo('Ina')).toHaveLength(2)
    expect(mailsTo('Ina')[0]!.body).toContain('Fritz: ')
    expect(mailsTo('Ina')[0]!.body).not.toContain('Eve: ')
  })

  it('leaves who has no room, says why, and looks again once something changed', async () => {
    const s = stage()
    s.rule({ at_close: 'leave', late: 'seat' })
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo', 'Dai')
    s.set(shift(CLOSES, HOUR))
    s.enrol(['Eve'])
    const { run, inputs } = closing()
    await run()
    await run()
    expect(inputs).toHaveLength(1)
    expect(troubles()).toMatchObject([{ rule: 'late', why: 'Eve: no seat is left.' }])
    s.rule({ seats: 3 })
    s.stores.ledger.note({ sheetId: s.sheet().id, at: s.now(), actorId: null, kind: 'sheet-changed' })
    await run()
    expect([inputs.length, troubles(), everybody().includes('Eve')]).toEqual([2, [], true])
  })

  it('seats nobody who was left at the close itself, and says of at most five why they are left', async () => {
    const s = stage()
    s.rule({ at_close: 'leave', late: 'seat', seats: 3 })
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo')
    s.set(shift(CLOSES, HOUR))
    s.enrol(['Eve'])
    await closing().run()
    expect(everybody()).toEqual(['Ada', 'Bo', 'Cleo', 'Eve'])
    const many = ['Fay', 'Gus', 'Hal', 'Ike', 'Jo', 'Kim', 'Lou', 'Mia', 'Noa']
    s.enrol(many)
    await closing().run()
    expect(everybody()).not.toContain('Dai')
    const [{ why = '' } = {}] = troubles()
    expect(why).toMatch(/^(\w+: no seat is left\. ){5}And 2 more\.$/)
  })

  it('tells nobody of it once that is not the rule any more', async () => {
    const s = stage()
    s.rule({ late: 'seat', seats: 3 })
    s.set(CLOSES)
    await closing().run()
    s.advance(HOUR)
    s.enrol(['Eve'])
    await closing().run()
    expect(everybody()).toContain('Eve')
    s.rule({ late: 'leave' })
    tellOfLate(s.unit, s.stores, s.mailer, s.now())
    expect(mailsTo('Ina').filter(({ subject }) => subject.includes('new was seated'))).toEqual([])
  })

  it('gives one more seat in the smallest group that is for them, where the rule says so', async () => {
    const s = stage()
    s.rule({ at_close: 'leave', late: 'seat', late_full: 'extra' })
    s.addSections('Tue')
    s.addTopic('Koji', { seats: 1 }, ['Tue'])
    s.enrol(['Gus'])
    s.seat('Koji', 'Gus')
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo', 'Dai')
    s.set(shift(CLOSES, HOUR))
    s.enrol(['Eve', 'Fritz', 'Hal'])
    await closing().run()
    const sizes = ['Tempeh', 'Miso', 'Koji'].map((title) => s.seated(title).length)
    expect([sizes.slice(0, 2).toSorted(), sizes[2]]).toEqual([[3, 4], 1])
    expect(everybody().filter((name) => name.endsWith('+'))).toHaveLength(3)
    expect(troubles()).toEqual([])
  })

  it('begins further groups where the rule says so, each filled before the next', async () => {
    const s = stage()
    s.rule({ at_close: 'leave', late: 'seat', late_full: 'group' })
    s.addTopic('Group 3', { seats: 0 })
    s.except(s.group('Group 3'), { offered: 0 })
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo', 'Dai')
    s.set(shift(CLOSES, HOUR))
    s.enrol(['Eve', 'Fritz', 'Gus'])
    await closing().run()
    expect([s.seated('Group 4').length, s.seated('Group 5').length]).toEqual([2, 1])
    expect([...s.seated('Group 4'), ...s.seated('Group 5')].toSorted()).toEqual(['Eve', 'Fritz', 'Gus'])
  })
})
