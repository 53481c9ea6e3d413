import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { PlanContent, SettleView } from '../../src/contract/plans.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { RunView } from '../../src/contract/seats.ts'
import { DAY, shift } from '../../src/core/instant.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import type { PlanInput } from '../../src/core/plan/types.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { createClosing } from '../../src/server/plans/closing.ts'
import { type Answer, type Harness, must, type School, studentEmail } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
let harness: Harness
let school: School
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
  school = labs.school
})
afterEach(async () => {
  const sheet = harness.stores.sheets.byCode(school.sheet)!
  expect(seatsByLedger(harness.stores.ledger.since(sheet.id, 0))).toEqual(
    seatsAsKept(harness.stores.seats.ofSheet(sheet.id)),
  )
  await harness.end()
})

const settle = () => must<SettleView>(school.owner.get(`${labs.at}/settle`))
const runView = () => must<RunView>(school.owner.get(`${labs.at}/run`))

/** Plans as the Settle page does. */
async function plan(more: Partial<PlanInput> = {}): Promise<PlanContent> {
  const { basis, lotNumber } = await settle()
  const settings = {
    method: 'evenly' as const,
    floorsFirst: true,
    mayDissolve: false,
    release: 'none' as const,
    lotNumber,
    made: null,
  }
  const { moves, left, conflicts, dissolved, before, after } = makePlan({
    ...basis,
    ...settings,
    pins: [],
    ...more,
  })
  return { settings, moves, left, conflicts, dissolved, before, after }
}
let keys = 0
const apply = (
  content: PlanContent,
  key = `plan-key-${++keys}`,
  tell = false,
): Promise<Answer<Problem & SettleView>> =>
  school.owner.post(`${labs.at}/plans/apply`, { key, title: 'Evenly', content, tell })
const mailsTo = (section: string, n: number) =>
  harness.stores.mail.newest(100).filter(({ recipient }) => recipient === studentEmail(section, n))

describe('a plan', () => {
  it('seats all who are left in one step, tells them, and is taken back whole', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const content = await plan()
    expect(content.moves).toHaveLength(6)
    const view = await must(apply(content, 'plan-key-first', true))
    expect(view.basis.seats).toHaveLength(7)
    expect(view.plans[0]).toMatchObject({ title: 'Evenly', undoneAt: null, changedSince: 0 })
    const [mail] = mailsTo('Wed lab', 0)
    expect(mail?.subject).toMatch(/^Culture benches: you sit at /)
    expect(mailsTo('Tue lab', 0)).toEqual([])
    const undone = await must<{ undone: number; kept: string[] }>(
      school.owner.post(`${labs.at}/plans/plan-key-first/undo`),
    )
    expect(undone).toEqual({ undone: 6, kept: [] })
    expect((await runView()).seats).toHaveLength(1)
    const again = await school.owner.post<Problem>(`${labs.at}/plans/plan-key-first/undo`)
    expect(again.body.code).toBe('plan-not-applied')
  })

  it('is applied once, however often it is sent', async () => {
    const content = await plan()
    await must(apply(content, 'plan-key-once'))
    expect((await apply(content, 'plan-key-once')).body.code).toBe('plan-applied-already')
    expect((await runView()).seats).toHaveLength(7)
  })

  it('that no longer fits names what does not, and does nothing', async () => {
    const content = await plan()
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const answer = await apply(content)
    expect(answer.body.code).toBe('plan-does-not-fit')
    expect(answer.body.concerns?.map(({ name }) => name)).toEqual(['Student 0 Tue lab'])
    expect((await runView()).seats).toHaveLength(1)
  })

  it('that would fill a group past its limit by now is refused', async () => {
    const content = await plan({ method: 'lot' })
    const target = content.moves.find(({ to }) => to === school.groups['Tempeh/Tue lab'])
    await must(school.owner.patch(`${labs.at}/groups/${target?.to}`, { seats: 1 }))
    expect((await apply(content)).body.code).toBe('plan-does-not-fit')
  })

  it('leaves people alone who moved on after it was applied, when it is taken back', async () => {
    const content = await plan()
    await must(apply(content, 'plan-key-moved'))
    const own = (await labs.sheetOf(labs.tue(0))).seats[0]!
    const other = (await labs.sheetOf(labs.tue(0))).groups.find(
      (one) => one.code !== own.group && one.taken < 3,
    )!
    await must(
      labs
        .tue(0)
        .post(`${labs.at}/claims`, { key: 'moved-on-1', kind: 'move', from: own.group, to: other.code }),
    )
    const undone = await must<{ undone: number; kept: string[] }>(
      school.owner.post(`${labs.at}/plans/plan-key-moved/undo`),
    )
    expect(undone).toEqual({ undone: 6, kept: ['Student 0 Tue lab'] })
  })

  it('is kept for later, says what changed since, and is dropped', async () => {
    const content = await plan()
    const kept = await must<SettleView>(
      school.owner.post(`${labs.at}/plans`, { key: 'plan-key-kept', title: 'For Friday', content }),
    )
    expect(kept.plans[0]).toMatchObject({ code: 'plan-key-kept', appliedAt: null, changedSince: 0 })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    expect((await settle()).plans[0]?.changedSince).toBe(1)
    const after = await must<SettleView>(school.owner.send('DELETE', `${labs.at}/plans/plan-key-kept`))
    expect(after.plans).toEqual([])
  })

  it('makes groups, not offered where a section needs fewer', async () => {
    const { basis, sections } = await settle()
    const [tue, wed] = sections.map(({ code }) => code)
    const keysOf = [`made 0 ${tue}`, `made 1 ${tue}`, `made 0 ${wed}`]
    const moves = basis.people.map(({ key, section }, i) => ({
      person: key,
      from: null,
      to: section === wed ? `made 0 ${wed}` : `made ${i % 2} ${tue}`,
      reason: { code: 'even' as const },
    }))
    const content = await plan()
    const settings = { ...content.settings, made: { titles: ['Group 1', 'Group 2'], seats: 4 } }
    await must(apply({ ...content, settings, moves }))
    const view = await runView()
    expect(view.topics.map(({ title }) => title)).toEqual(['Tempeh', 'Kefir', 'Miso', 'Group 1', 'Group 2'])
    expect(new Set(view.seats.map((one) => one.group)).size).toBe(keysOf.length)
    const second = view.topics.find(({ title }) => title === 'Group 2')!
    expect(view.groups.filter(({ topic }) => topic === second.code)).toHaveLength(1)
  })

  it('keeps people apart on every sheet until a day', async () => {
    const { basis } = await settle()
    const [a, b] = basis.people.map(({ key }) => key)
    const add = (body: object) => school.owner.post<Problem & SettleView>(`${labs.at}/keepings`, body)
    expect((await add({ kind: 'apart', people: [a, a], until: null })).body.code).toBe('keeping-too-small')
    expect((await add({ kind: 'apart', people: [a, 'nobody'], until: null })).body.errors?.[0]?.path).toBe(
      'people[1]',
    )
    const view = await must(add({ kind: 'apart', people: [a, b], note: 'they asked', until: '2026-05-07' }))
    expect(view.basis.keepings).toHaveLength(1)
    harness.clock.advance(3 * DAY)
    expect((await settle()).basis.keepings).toEqual([])
    const [keeping] = (await settle()).keepings
    const after = await must<SettleView>(school.owner.send('DELETE', `${labs.at}/keepings/${keeping?.code}`))
    expect(after.keepings).toEqual([])
  })
})

describe('the house rule for the close', () => {
  const close = () => {
    const parts = {
      db: harness.db,
      log: harness.log,
      stores: harness.stores,
      mailer: createOutboxMailer(harness.stores.mail, harness.clock.now),
      touched: () => {},
    }
    return createClosing(parts)
  }
  const afterClose = () => harness.clock.set('2026-05-13T15:00:01.000Z')

  it('seats the rest by plan, once, also after a restart at that moment, and tells everybody', async () => {
    await labs.rule({ atClose: 'seat' })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    close()(harness.clock.now())
    expect((await runView()).seats).toHaveLength(1)
    afterClose()
    close()(harness.clock.now())
    close()(harness.clock.now())
    expect((await runView()).seats).toHaveLength(7)
    expect((await settle()).plans).toHaveLength(1)
    expect(mailsTo('Wed lab', 1)).toHaveLength(1)
    const owner = harness.stores.mail
      .newest(100)
      .filter(({ recipient }) => recipient === 'owner@school.example')
    expect(owner.map(({ subject }) => subject.replace(/^FERM \d+: /, ''))).toEqual([
      'Culture benches has closed',
    ])
    expect(owner[0]?.body).toMatch(/6 were seated by plan. Nobody is left./)
  })

  it('only drafts a plan where that is the rule', async () => {
    await labs.rule({ atClose: 'draft' })
    afterClose()
    close()(harness.clock.now())
    expect((await runView()).seats).toEqual([])
    const [draft] = (await settle()).plans
    expect(draft).toMatchObject({ title: 'At the close', madeBy: null, appliedAt: null })
    expect(draft?.content.moves).toHaveLength(7)
    await must(apply(draft!.content, draft!.code))
    expect((await settle()).plans[0]?.appliedAt).not.toBeNull()
  })

  it('does nothing by default, and nothing when it is set only after the close', async () => {
    afterClose()
    close()(harness.clock.now())
    await labs.rule({ atClose: 'seat' })
    close()(harness.clock.now())
    expect((await runView()).seats).toEqual([])
    expect((await settle()).plans).toEqual([])
  })

  it('is carried out again for a later closing time', async () => {
    await labs.rule({ atClose: 'draft' })
    afterClose()
    close()(harness.clock.now())
    await labs.rule({ closesAt: '2026-05-15T17:00' })
    harness.clock.set('2026-05-15T15:00:01.000Z')
    close()(harness.clock.now())
    expect((await settle()).plans).toHaveLength(2)
  })

  it('seats those who enrol later, each time, and nobody else', async () => {
    await labs.rule({ late: 'seat' })
    afterClose()
    const closing = close()
    closing(harness.clock.now())
    expect((await runView()).seats).toEqual([])
    harness.clock.set(shift(harness.clock.now(), DAY))
    const { sections } = await settle()
    await must(
      school.owner.post(`/api/courses/${school.course}/roster/people`, {
        name: 'Late One',
        email: 'late@school.example',
        section: sections[0]?.code ?? null,
        role: 'student',
      }),
    )
    closing(harness.clock.now())
    closing(harness.clock.now())
    const view = await runView()
    const late = view.people.find(({ name }) => name === 'Late One')!
    expect(view.seats.map(({ person }) => person)).toEqual([late.code])
    expect((await settle()).plans.map(({ title }) => title)).toEqual(['Late enrolments'])
  })
})
