import pino from 'pino'
import { describe, expect, it } from 'vitest'
import type { RunView } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { createClosing } from '../../src/server/plans/closing.ts'
import { tellOfLate } from '../../src/server/plans/late.ts'
import { createPlanner } from '../../src/server/plans/planner.ts'
import { type Harness, must, type School, unitWith } from './harness.ts'
import type { Labs } from './labs.ts'
import { labsEach } from './planning.ts'

let labs: Labs
let harness: Harness
let school: School
const { settle, runView } = labsEach((started) => {
  labs = started
  harness = started.harness
  school = started.school
})

const compose = () => must<ComposeView>(school.owner.get(`${labs.at}/compose`))

describe('newcomers', () => {
  const add = async (name: string, section: string) => {
    const { sections } = await compose()
    const code = sections.find((one) => one.name === section)!.code
    const email = `${name.toLowerCase()}@school.example`
    await must(
      school.owner.post(`/api/courses/${school.course}/roster/people`, {
        name,
        email,
        section: code,
        role: 'student',
      }),
    )
    return email
  }
  const carryOut = async () => {
    const { stores, db } = harness
    const mailer = createOutboxMailer(stores.mail, harness.clock.now)
    const unit = unitWith({ db, stores }, mailer)
    const planner = createPlanner()
    const closing = createClosing({ log: pino({ level: 'silent' }), stores, unit, mailer, planner })
    await closing.carryOut(harness.clock.now())
    tellOfLate(unit, stores, mailer, harness.clock.now())
    await closing.stop()
  }

  it('join the smallest group of a full class by themselves, are told, and their instructor once a day', async () => {
    await labs.rule({ seats: 1, late: 'seat', lateFull: 'extra' })
    for (const [n, topic] of ['Tempeh', 'Kefir', 'Miso'].entries())
      await labs.take(labs.wed(n % 2), `${topic}/Wed lab`)
    for (const [n, topic] of ['Tempeh', 'Kefir', 'Miso'].entries())
      await labs.take(labs.tue(n), `${topic}/Tue lab`)
    await labs.rule({ closesAt: '2026-05-06T09:30' })
    harness.clock.advance(60 * 60_000)
    const email = await add('Nadia', 'Tue lab')
    await carryOut()
    const view = await must<RunView>(school.owner.get(`${labs.at}/run`))
    const nadia = view.people.find(({ name }) => name === 'Nadia')!
    const own = view.seats.find(({ person }) => person === nadia.code)!
    expect(view.groups.find(({ code }) => code === own.group)?.section).toBe(nadia.section)
    const mails = (to: string, subject: RegExp) =>
      harness.stores.mail.newest(200).filter((mail) => mail.recipient === to && subject.test(mail.subject))
    expect(mails(email, /you sit at/)).toHaveLength(1)
    const told = () => mails('owner@school.example', /new (was|people were) seated on Culture benches/)
    expect(told()).toHaveLength(1)
    expect(told()[0]?.body).toMatch(/Nadia: (Tempeh|Kefir|Miso)/)
    // One more the same day is told the next.
    await add('Omar', 'Tue lab')
    await carryOut()
    expect(told()).toHaveLength(1)
    harness.clock.advance(24 * 60 * 60_000)
    await carryOut()
    expect(told()).toHaveLength(2)
    expect(told()[0]?.body).toContain('Omar')
    expect(told()[0]?.body).not.toContain('Nadia')
  })

  it('wait for the instructor where the rule says so, who is told why', async () => {
    await labs.rule({ seats: 1, late: 'seat' })
    for (const [n, topic] of ['Tempeh', 'Kefir', 'Miso'].entries())
      await labs.take(labs.tue(n), `${topic}/Tue lab`)
    await labs.rule({ closesAt: '2026-05-06T09:30' })
    harness.clock.advance(60 * 60_000)
    await add('Nadia', 'Tue lab')
    await carryOut()
    const view = await runView()
    expect(view.seats).toHaveLength(3)
    expect((await settle()).troubles[0]).toMatchObject({ rule: 'late' })
  })

  it('wait where every group has handed in and stays as it is, and their instructor is told why', async () => {
    await labs.rule({ late: 'seat' })
    const { tasks } = await must<{ tasks: { code: string }[] }>(
      school.owner.post(`${labs.at}/tasks`, { title: 'Report', out: true }),
    )
    for (const [n, topic] of ['Tempeh', 'Kefir', 'Miso'].entries()) {
      await labs.take(labs.tue(n), `${topic}/Tue lab`)
      const group = school.groups[`${topic}/Tue lab`]
      const path = `${labs.at}/tasks/${tasks[0]!.code}/hand-ins`
      await must(labs.tue(n).post(path, { group, text: 'Ours', after: 0 }))
    }
    await labs.rule({ closesAt: '2026-05-06T09:30' })
    harness.clock.advance(60 * 60_000)
    await add('Nadia', 'Tue lab')
    await carryOut()
    expect((await runView()).seats).toHaveLength(3)
    const [trouble] = (await settle()).troubles
    expect(trouble).toMatchObject({
      rule: 'late',
      why: expect.stringMatching(/^Nadia: no seat is left\. 3 groups with free seats have handed in/),
    })
  })

  it('begin further groups where the rule says so, each filled before the next, taken away by the undo', async () => {
    await must(school.owner.send('PUT', `${labs.at}/extras`, { talk: true }))
    await must(school.owner.post(`${labs.at}/talk`, { title: 'Begin here', text: 'Who?', groups: null }))
    await labs.rule({ seats: 1, late: 'seat', lateFull: 'group' })
    for (const [n, topic] of ['Tempeh', 'Kefir', 'Miso'].entries())
      await labs.take(labs.tue(n), `${topic}/Tue lab`)
    await labs.rule({ closesAt: '2026-05-06T09:30', seats: 2 })
    for (const topic of (await compose()).topics) {
      const path = `${labs.at}/topics/${topic.code}`
      await must(school.owner.patch(path, { seats: 1, confirmed: true }))
    }
    harness.clock.advance(60 * 60_000)
    for (const name of ['Nadia', 'Omar', 'Pia']) await add(name, 'Tue lab')
    await carryOut()
    const view = await compose()
    const further = view.topics.slice(3)
    expect(further.map(({ title }) => title)).toEqual(['Group 4', 'Group 5'])
    const tue = view.sections[0]!.code
    expect(
      further.map(({ groups }) => groups.map(({ section, state, taken }) => [section === tue, state, taken])),
    ).toEqual([
      [
        [true, 'offered', 2],
        [false, 'not-offered', 0],
      ],
      [
        [true, 'offered', 1],
        [false, 'not-offered', 0],
      ],
    ])
    const page = await must<{ talk: { title: string }[] }>(
      school.owner.get(`${labs.at}/groups/${further[0]!.groups[0]!.code}`),
    )
    expect(page.talk.map(({ title }) => title)).toEqual(['Begin here'])
    const plan = (await settle()).plans[0]!
    await must(school.owner.post(`${labs.at}/plans/${plan.code}/undo`, {}))
    expect((await compose()).topics).toHaveLength(3)
    expect((await runView()).seats).toHaveLength(3)
  })

  it('have a seat at once while the sheet is open, where the rule says so; whoever gave one up chooses', async () => {
    await labs.rule({ late: 'seat', lateFrom: 'opening' })
    harness.clock.advance(60_000)
    const email = await add('Nadia', 'Tue lab')
    await carryOut()
    const nadia = harness.as(email)
    const [own] = (await labs.sheetOf(nadia)).seats
    expect(own).toBeDefined()
    await must(nadia.post(`${labs.at}/claims`, { key: 'gives-it-up-1', kind: 'give-up', from: own!.group }))
    await carryOut()
    expect((await labs.sheetOf(nadia)).seats).toEqual([])
    // Those who were there before the opening choose for themselves.
    expect((await runView()).seats).toEqual([])
  })

  it('choose like everybody else while the sheet is open, unless the rule says otherwise', async () => {
    await labs.rule({ late: 'seat' })
    harness.clock.advance(60_000)
    await add('Nadia', 'Tue lab')
    await carryOut()
    expect((await runView()).seats).toEqual([])
  })
})
