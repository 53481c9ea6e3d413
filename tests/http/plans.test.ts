import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { CoursesView } from '../../src/contract/courses.ts'
import type { PlanContent, SettleView } from '../../src/contract/plans.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { RunView } from '../../src/contract/seats.ts'
import { DAY, MINUTE, shift } from '../../src/core/instant.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import type { PlanInput } from '../../src/core/plan/types.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { type Closing, createClosing } from '../../src/server/plans/closing.ts'
import { createPlanner, type Planner } from '../../src/server/plans/planner.ts'
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
  const { moves, left, conflicts, dissolved, before, after, gap, evenChances } = makePlan({
    ...basis,
    ...settings,
    pins: [],
    ...more,
  })
  return { settings, moves, left, conflicts, dissolved, before, after, gap, evenChances }
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
    // Some group gets two at least: there are more people than groups.
    const twice = content.moves.find((one, i) => content.moves.findIndex(({ to }) => to === one.to) < i)
    await must(school.owner.patch(`${labs.at}/groups/${twice?.to}`, { seats: 1 }))
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

  it('by surname follows the order of names that the course says, in plans and in the class list that goes out', async () => {
    const change = (body: object) => school.owner.patch<Problem>(`/api/courses/${school.course}`, body)
    expect((await settle()).basis.names).toEqual({ language: 'en', particles: 'skip' })
    expect((await change({ nameLanguage: 'not a language' })).body.errors?.[0]?.path).toBe('nameLanguage')
    expect((await change({ nameParticles: 'sometimes' })).status).toBe(422)
    const { sections } = await settle()
    for (const name of ['Ulla Åberg', 'Rui de Zoysa', 'Ada Zell']) {
      await must(
        school.owner.post(`/api/courses/${school.course}/roster/people`, {
          name,
          email: `${name.split(' ')[0]}@school.example`,
          section: sections[0]?.code ?? null,
          role: 'student',
        }),
      )
    }
    const listed = async () => {
      const answer = await fetch(`${harness.address}${labs.at}/export/students.csv`, {
        headers: { Cookie: school.owner.cookie },
      })
      const lines = (await answer.text()).split('\r\n')
      return lines.flatMap((line) => /Ulla|Rui|Ada/.exec(line)?.[0] ?? [])
    }
    expect(await listed()).toEqual(['Ulla', 'Ada', 'Rui'])
    await must(change({ nameLanguage: 'sv', nameParticles: 'count' }))
    expect((await settle()).basis.names).toEqual({ language: 'sv', particles: 'count' })
    expect(await listed()).toEqual(['Rui', 'Ada', 'Ulla'])
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
  const running: Closing[] = []
  const close = (planner: Planner = createPlanner()) => {
    const parts = {
      db: harness.db,
      log: harness.log,
      stores: harness.stores,
      mailer: createOutboxMailer(harness.stores.mail, harness.clock.now),
      planner,
      touched: () => {},
    }
    const closing = createClosing(parts)
    running.push(closing)
    return closing
  }
  afterEach(async () => {
    for (const closing of running.splice(0)) await closing.stop()
  })
  const carryOut = (planner?: Planner) => close(planner).carryOut(harness.clock.now())
  const mailsToOwner = () =>
    harness.stores.mail
      .newest(100)
      .filter(({ recipient }) => recipient === 'owner@school.example')
      .map(({ subject, body }) => ({ subject: subject.replace(/^FERM \d+: /, ''), body }))
  const afterClose = () => harness.clock.set('2026-05-13T15:00:01.000Z')

  it('seats the rest by plan, once, also after a restart at that moment, and tells everybody', async () => {
    await labs.rule({ atClose: 'seat' })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await carryOut()
    expect((await runView()).seats).toHaveLength(1)
    afterClose()
    await carryOut()
    await carryOut()
    expect((await runView()).seats).toHaveLength(7)
    expect((await settle()).plans).toHaveLength(1)
    expect(mailsTo('Wed lab', 1)).toHaveLength(1)
    const owner = mailsToOwner()
    expect(owner.map(({ subject }) => subject)).toEqual(['Culture benches has closed'])
    expect(owner[0]?.body).toMatch(/6 were seated by plan. Nobody is left./)
  })

  it('only drafts a plan where that is the rule', async () => {
    await labs.rule({ atClose: 'draft' })
    afterClose()
    await carryOut()
    expect((await runView()).seats).toEqual([])
    const [draft] = (await settle()).plans
    expect(draft).toMatchObject({ title: 'At the close', madeBy: null, appliedAt: null })
    expect(draft?.content.moves).toHaveLength(7)
    await must(apply(draft!.content, draft!.code))
    expect((await settle()).plans[0]?.appliedAt).not.toBeNull()
  })

  it('does nothing by default, and nothing when it is set only after the close', async () => {
    afterClose()
    await carryOut()
    await labs.rule({ atClose: 'seat' })
    await carryOut()
    expect((await runView()).seats).toEqual([])
    expect((await settle()).plans).toEqual([])
  })

  it('is carried out again for a later closing time', async () => {
    await labs.rule({ atClose: 'draft' })
    afterClose()
    await carryOut()
    await labs.rule({ closesAt: '2026-05-15T17:00' })
    harness.clock.set('2026-05-15T15:00:01.000Z')
    await carryOut()
    expect((await settle()).plans).toHaveLength(2)
  })

  it('seats those who enrol later, each time, and nobody else', async () => {
    await labs.rule({ late: 'seat' })
    afterClose()
    const closing = close()
    await closing.carryOut(harness.clock.now())
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
    await Promise.all([closing.carryOut(harness.clock.now()), closing.carryOut(harness.clock.now())])
    await closing.carryOut(harness.clock.now())
    const view = await runView()
    const late = view.people.find(({ name }) => name === 'Late One')!
    expect(view.seats.map(({ person }) => person)).toEqual([late.code])
    expect((await settle()).plans.map(({ title }) => title)).toEqual(['Late enrolments'])
  })

  const addLate = async (name: string) =>
    must(
      school.owner.post(`/api/courses/${school.course}/roster/people`, {
        name,
        email: `${name.toLowerCase().replace(' ', '.')}@school.example`,
        section: (await settle()).sections[0]?.code ?? null,
        role: 'student',
      }),
    )
  const hold = (group: string, person: string | null) =>
    must(school.owner.post(`${labs.at}/groups/${school.groups[group]}/held`, { person, reason: 'promised' }))

  it('is carried out whatever is held: for somebody of another section, or for somebody who sits elsewhere', async () => {
    await labs.rule({ atClose: 'seat' })
    const { basis, sections } = await settle()
    const [tue, wed] = sections.map(({ code }) => basis.people.filter(({ section }) => section === code))
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const seated = (await settle()).basis.seats[0]?.person ?? ''
    await hold('Kefir/Tue lab', wed?.[0]?.key ?? '')
    await hold('Miso/Tue lab', seated)
    await hold('Miso/Wed lab', tue?.find(({ key }) => key !== seated)?.key ?? '')
    afterClose()
    await carryOut()
    expect((await runView()).seats).toHaveLength(7)
    expect((await settle()).troubles).toEqual([])
    expect(mailsToOwner().map(({ subject }) => subject)).toEqual(['Culture benches has closed'])
  })

  it('that cannot be carried out says so on the first page and by mail, once, with why, until it can', async () => {
    await labs.rule({ atClose: 'seat' })
    afterClose()
    const broken: Planner = {
      plan: async () => {
        throw new Error('No plan was found within 20 seconds.')
      },
      close: async () => {},
    }
    const closing = close(broken)
    for (let i = 0; i < 3; i++) {
      harness.clock.advance(10 * MINUTE)
      await closing.carryOut(harness.clock.now())
    }
    expect((await runView()).seats).toEqual([])
    const subjects = () => mailsToOwner().map(({ subject }) => subject)
    expect(subjects()).toEqual(['a rule of Culture benches could not be carried out'])
    expect(mailsToOwner()[0]?.body).toMatch(/No plan was found within 20 seconds\./)
    const waiting = async () => (await must<CoursesView>(school.owner.get('/api/courses'))).waiting
    expect((await waiting())[0]).toMatchObject({
      kind: 'rule-failed',
      why: 'No plan was found within 20 seconds.',
    })
    expect((await settle()).troubles).toMatchObject([{ rule: 'close' }])
    await carryOut()
    expect((await runView()).seats).toHaveLength(7)
    expect((await settle()).troubles).toEqual([])
    expect((await waiting()).map(({ kind }) => kind)).not.toContain('rule-failed')
  })

  it('says whom the rule for late enrolments could not seat, once, and seats them when there is room', async () => {
    await labs.rule({ late: 'seat', atClose: 'seat' })
    for (const group of Object.keys(school.groups))
      await must(school.owner.patch(`${labs.at}/groups/${school.groups[group]}`, { seats: 2 }))
    afterClose()
    const closing = close()
    await closing.carryOut(harness.clock.now())
    harness.clock.set(shift(harness.clock.now(), DAY))
    for (let i = 0; i < 4; i++) await addLate(`Late ${'ABCD'[i]}`)
    await closing.carryOut(harness.clock.now())
    await closing.carryOut(harness.clock.now())
    const troubles = (await settle()).troubles
    expect(troubles).toMatchObject([{ rule: 'late' }])
    expect(troubles[0]?.why).toMatch(/^Late .: no seat is left\./)
    const about = () => mailsToOwner().filter(({ subject }) => subject.startsWith('a rule of'))
    expect(about()).toHaveLength(1)
    await must(school.owner.patch(`${labs.at}/groups/${school.groups['Tempeh/Tue lab']}`, { seats: 6 }))
    await closing.carryOut(harness.clock.now())
    expect((await settle()).troubles).toEqual([])
    expect(about()).toHaveLength(1)
  })

  it('is planned again where the sheet changes while the plan is made', async () => {
    await labs.rule({ atClose: 'seat' })
    afterClose()
    const planner = createPlanner()
    let asked = 0
    const slow: Planner = {
      plan: async (input) => {
        const plan = await planner.plan(input)
        asked += 1
        // Somebody edits the sheet meanwhile.
        if (asked === 1)
          await must(school.owner.patch(`${labs.at}/groups/${school.groups['Tempeh/Tue lab']}`, { seats: 1 }))
        return plan
      },
      close: () => planner.close(),
    }
    const closing = close(slow)
    await closing.carryOut(harness.clock.now())
    expect((await runView()).seats).toEqual([])
    await closing.carryOut(harness.clock.now())
    expect(asked).toBe(2)
    expect((await runView()).seats).toHaveLength(7)
  })

  it('does not hold the server: a plan that takes too long is ended, and the best so far is taken', async () => {
    const people = Array.from({ length: 90 }, (_, i) => ({ key: `p${i}`, name: `Given ${i}`, section: null }))
    const groups = Array.from({ length: 30 }, (_, i) => ({
      key: `g${i}`,
      section: null,
      seats: 3 + (i % 2),
      blocked: 0,
      floor: 3,
    }))
    const input: PlanInput = {
      people,
      groups,
      seats: people.slice(0, 60).map(({ key }, i) => ({ person: key, group: `g${Math.floor(i / 2)}` })),
      heldFor: [],
      offers: 'section',
      keepings: Array.from({ length: 25 }, (_, i) => ({
        key: `k${i}`,
        kind: i % 3 === 0 ? ('apart' as const) : ('together' as const),
        people: [`p${i}`, `p${(i * 17 + 31) % 90}`, `p${(i * 23 + 11) % 90}`],
      })),
      method: 'evenly',
      lotNumber: 1,
      floorsFirst: true,
      mayDissolve: true,
      release: 'all',
      pins: [],
    }
    // Long enough for a first plan on any machine; the search as a whole takes longer, or is given up.
    const planner = createPlanner(6_000)
    let turns = 0
    const ticking = setInterval(() => {
      turns += 1
    }, 10)
    const plan = await planner.plan(input)
    clearInterval(ticking)
    await planner.close()
    expect(turns).toBeGreaterThan(20)
    expect(plan.moves.length).toBeGreaterThan(0)
    expect(plan.gap).not.toBeNull()
    await expect(planner.plan(input)).rejects.toThrow('The server is stopping.')
  })
})
