import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { NudgesView } from '../../src/contract/nudges.ts'
import type { Problem } from '../../src/contract/problems.ts'
import { DAY } from '../../src/core/instant.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { sendDueNudges } from '../../src/server/nudges/send.ts'
import { type Answer, type Harness, must, studentEmail, unitWith } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
let harness: Harness
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
})
afterEach(() => harness.end())

type Sent = NudgesView & { skipped: string[]; sent: number }
const view = () => must<NudgesView>(labs.school.owner.get(`${labs.at}/nudges`))
const write = (body: object, path = 'nudges'): Promise<Answer<Sent & Problem>> =>
  labs.school.owner.post(`${labs.at}/${path}`, { subject: 'Take a seat', text: 'Dear {name}', ...body })
const mails = () => harness.stores.mail.newest(100)
const due = () => {
  const mailer = createOutboxMailer(harness.stores.mail, harness.clock.now)
  sendDueNudges(unitWith(harness, mailer), harness.stores, mailer, harness.clock.now())
}
const without = async () =>
  (await view()).people.filter(({ groups }) => groups.length === 0).map(({ code }) => code)

describe('a nudge', () => {
  it('goes to those picked, with the fields filled in for each', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const text = 'Dear {first name}, {sheet} closes {closes}, in {time left}: {link} ({group})'
    const sent = await must(write({ text, people: await without() }))
    expect(sent).toMatchObject({ sent: 6, skipped: [] })
    const mail = mails().find(({ recipient }) => recipient === studentEmail('Tue lab', 1))
    expect(mail?.body).toMatch(
      /^Dear Student, Culture benches closes Wed 13 May, 17:00, in 7 days 8 h: http:\/\/127\.0\.0\.1:\d+\/s\/\w+ \(no group yet\)$/,
    )
    expect(sent.nudges[0]?.recipients).toHaveLength(6)
    expect(sent.nudges[0]?.recipients[0]).toMatchObject({ state: 'kept', seatedNow: false })
    await labs.take(labs.tue(1), 'Kefir/Tue lab')
    expect((await view()).nudges[0]?.recipients.filter(({ seatedNow }) => seatedNow)).toHaveLength(1)
  })

  it('is sent to nobody more often than the set number a day', async () => {
    const people = await without()
    await must(write({ people }))
    await must(write({ people: people.slice(0, 2) }))
    const third = await must(write({ people }))
    expect(third).toMatchObject({ sent: 5, skipped: expect.arrayContaining(['Student 0 Tue lab']) })
    expect((await write({ people })).body.code).toBe('nobody-to-write-to')
    harness.clock.advance(DAY + 1)
    expect((await must(write({ people }))).sent).toBe(7)
    await labs.rule({ nudgesADay: 5 })
    expect((await must(write({ people }))).sent).toBe(7)
  })

  it('names a field that there is not, and whoever is not on the roster', async () => {
    const people = await without()
    const unknown = await write({ text: 'Dear {surname}', people })
    expect(unknown).toMatchObject({
      status: 422,
      body: { errors: [{ path: 'text', message: expect.stringMatching(/\{surname\}/) }] },
    })
    expect((await write({ people: ['nobody'] })).body.errors?.[0]?.path).toBe('people[0]')
    expect((await write({ people: [] })).status).toBe(422)
  })

  it('goes by itself before the close, to those who have no group then, once', async () => {
    await must(write({ hours: 48 }, 'nudges/automatic'))
    expect((await view()).nudges[0]).toMatchObject({
      beforeClose: 48,
      dueAt: '2026-05-11T15:00:00.000Z',
      sentAt: null,
    })
    due()
    expect(mails().filter(({ subject }) => subject === 'Take a seat')).toHaveLength(0)
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    harness.clock.set('2026-05-11T15:00:00.000Z')
    due()
    due()
    const sent = mails().filter(({ subject }) => subject === 'Take a seat')
    expect(sent).toHaveLength(6)
    expect(sent.map(({ recipient }) => recipient)).not.toContain(studentEmail('Tue lab', 0))
    expect((await write({ hours: 72 }, 'nudges/automatic')).body.errors?.[0]?.path).toBe('hours')
  })

  it('that waits moves with the close, and can be taken back', async () => {
    await must(write({ hours: 3 }, 'nudges/automatic'))
    await labs.rule({ closesAt: '2026-05-20T17:00' })
    const [nudge] = (await view()).nudges
    expect(nudge?.dueAt).toBe('2026-05-20T12:00:00.000Z')
    await must(labs.school.owner.send('DELETE', `${labs.at}/nudges/${nudge?.code}`))
    expect((await view()).nudges).toEqual([])
    expect((await labs.school.owner.send('DELETE', `${labs.at}/nudges/${nudge?.code}`)).status).toBe(404)
  })
})

it('knows who has opened the sheet and when', async () => {
  const before = harness.clock.now()
  await labs.sheetOf(labs.tue(0))
  harness.clock.advance(3_600_000)
  await expect
    .poll(async () => (await view()).people.filter(({ firstOpened }) => firstOpened !== null).length, {
      timeout: 10_000,
    })
    .toBe(1)
  await labs.sheetOf(labs.tue(0))
  await expect
    .poll(async () => (await view()).people.find(({ firstOpened }) => firstOpened !== null), {
      timeout: 10_000,
    })
    .toMatchObject({ name: 'Student 0 Tue lab', firstOpened: before, lastOpened: harness.clock.now() })
})
