import { afterEach, describe, expect, it } from 'vitest'
import type { CoursesView } from '../../src/contract/courses.ts'
import type { RosterView } from '../../src/contract/roster.ts'
import { DAY, MINUTE, shift } from '../../src/core/instant.ts'
import type { PlanInput } from '../../src/core/plan/types.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { type Closing, type ClosingPlanner, createClosing } from '../../src/server/plans/closing.ts'
import { createPlanner } from '../../src/server/plans/planner.ts'
import { type Harness, must, type School, unitWith } from './harness.ts'
import type { Labs } from './labs.ts'
import { labsEach } from './planning.ts'

let labs: Labs
let harness: Harness
let school: School
const { settle, runView, apply, mailsTo } = labsEach((started) => {
  labs = started
  harness = started.harness
  school = started.school
})

describe('the house rule for the close', () => {
  const running: Closing[] = []
  const close = (planner: ClosingPlanner = createPlanner()) => {
    const mailer = createOutboxMailer(harness.stores.mail, harness.clock.now)
    const { log, stores } = harness
    const parts = { log, stores, unit: unitWith(harness, mailer), mailer, planner }
    const closing = createClosing(parts)
    running.push(closing)
    return closing
  }
  afterEach(async () => {
    for (const closing of running.splice(0)) await closing.stop()
  })
  const carryOut = (planner?: ClosingPlanner) => close(planner).carryOut(harness.clock.now())
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

  it('seats those who come back after the close, as those who enrol later', async () => {
    await labs.rule({ late: 'seat' })
    const roster = `/api/courses/${school.course}/roster`
    const student = (await must<RosterView>(school.owner.get(roster))).people.find(
      ({ role }) => role === 'student',
    )!
    const set = (status: string) => must(school.owner.patch(`${roster}/people/${student.code}`, { status }))
    await set('left')
    afterClose()
    await carryOut()
    expect((await runView()).seats).toEqual([])
    harness.clock.set(shift(harness.clock.now(), DAY))
    await set('active')
    await carryOut()
    expect((await runView()).seats.map(({ person }) => person)).toEqual([student.code])
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
    const broken: ClosingPlanner = {
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
    const slow: ClosingPlanner = {
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
