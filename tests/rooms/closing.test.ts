import { describe, expect, it } from 'vitest'
import { HOUR, MINUTE, shift } from '../../src/core/instant.ts'
import { rulesOn } from './rules.ts'
import { CLOSES, stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.enrol(['Ina'], { role: 'instructor' })
  s.enrol(['Ada', 'Bo', 'Cleo', 'Dai'])
  for (const title of ['Tempeh', 'Miso']) s.addTopic(title)
  s.rule({ at_close: 'seat' })
})

const { closing, closeCode, everybody, mailsTo, planOf, troubles } = rulesOn(stage)

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

it('never rejects: what is due is found again where the disk failed, while it is read or while a fault is noted', async () => {
  const s = stage()
  s.set(CLOSES)
  const { sheets, ledger, plans } = s.stores
  const failing = () => {
    throw new Error('disk I/O error')
  }
  const { closedWithRules } = sheets
  const { newest } = ledger
  const { addTrouble, closed } = plans
  for (const [store, name, whole] of [
    [sheets, 'closedWithRules', closedWithRules],
    [ledger, 'newest', newest],
    [plans, 'closed', closed],
  ] as const) {
    Object.assign(store, { [name]: failing })
    await expect(closing().run()).resolves.toBeUndefined()
    Object.assign(store, { [name]: whole })
  }
  // A plan that breaks, and then cannot even be noted.
  Object.assign(plans, { addTrouble: failing })
  await expect(closing({ broken: new Error('no plan') }).run()).resolves.toBeUndefined()
  Object.assign(plans, { addTrouble })
  expect(everybody()).toEqual([])
  await closing().run()
  expect(everybody()).toHaveLength(4)
})
