import { afterEach, beforeEach, expect, it } from 'vitest'
import type { GroupPage } from '../../src/contract/groups.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { SubjectView } from '../../src/contract/talk.ts'
import { DAY, HOUR, MINUTE } from '../../src/core/instant.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { sendDueDigests } from '../../src/server/talk/digests.ts'
import { type Answer, type Client, type Harness, must, studentEmail, unitWith } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
let harness: Harness
let owner: Client
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
  owner = labs.school.owner
  for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
  await must(owner.send('PUT', `${labs.at}/extras`, { talk: true, starts: 'threads' }))
})
afterEach(() => harness.end())

const tempeh = () => `${labs.at}/groups/${labs.school.groups['Tempeh/Tue lab']}`
type Reply = Answer<SubjectView & Problem>
const open = (client: Client, title: string, within: string | null = null): Promise<Reply> =>
  client.post(`${tempeh()}/talk`, { title, text: 'Some words.', within })
const reply = (client: Client, subject: string): Promise<Reply> =>
  client.post(`${tempeh()}/talk/${subject}/posts`, { text: 'Yes.' })
const page = (client: Client) => must<GroupPage>(client.get(tempeh()))

it('subjects are opened by staff, and threads within them by everybody', async () => {
  expect((await open(labs.tue(0), 'Mine')).body.code).toBe('staff-start')
  const subject = await must(open(owner, 'Week 3'))
  expect((await reply(labs.tue(0), subject.code)).body.code).toBe('staff-start')
  await must(reply(owner, subject.code))
  const thread = await must(open(labs.tue(0), 'Who weighs?', subject.code))
  await must(reply(labs.tue(1), thread.code))
  const { talk, may } = await page(labs.tue(1))
  expect(may).toMatchObject({ start: false, thread: true, replyToSubject: false })
  expect(talk.map(({ title, within }) => [title, within]).toSorted()).toEqual([
    ['Week 3', null],
    ['Who weighs?', subject.code],
  ])
  // A thread has no threads, and is in no other group's subject.
  expect((await open(labs.tue(0), 'Deeper', thread.code)).body.errors?.[0]?.path).toBe('within')
  expect((await open(labs.tue(0), 'Elsewhere', 'nothere')).status).toBe(404)
  // Where the kind of talk is another, threads stay and are replied to; no further are opened.
  await must(owner.send('PUT', `${labs.at}/extras`, { starts: 'staff' }))
  expect((await open(labs.tue(0), 'Another', subject.code)).status).toBe(422)
  await must(reply(labs.tue(0), subject.code))
  await must(reply(labs.tue(0), thread.code))
})

it('what is unread comes by mail once a day, to whom wants it, and names nobody', async () => {
  const { stores } = harness
  const mailer = createOutboxMailer(stores.mail, harness.clock.now)
  const unit = unitWith(harness, mailer)
  const due = () => sendDueDigests(unit, stores, mailer, harness.clock.now())
  const mails = (n: number) =>
    stores.mail
      .newest(100)
      .filter(({ recipient, subject }) => recipient === studentEmail('Tue lab', n) && /unread/.test(subject))
  await must(open(owner, 'Before'))
  await must(labs.tue(1).send('PUT', '/api/talk-digest', { on: true }))
  expect((await must<{ on: boolean }>(labs.tue(1).get('/api/talk-digest'))).on).toBe(true)
  // What was there before is no news by itself, and what is fresh waits to be read on the page.
  due()
  const subject = await must(open(owner, 'Week 3'))
  await must(open(labs.tue(0), 'Who weighs?', subject.code))
  harness.clock.advance(16 * MINUTE)
  due()
  expect(mails(1)).toHaveLength(0)
  harness.clock.advance(HOUR)
  due()
  expect(mails(1)).toHaveLength(1)
  const { body: text, subject: line } = mails(1)[0]!
  expect(line).toBe('3 posts of your groups are unread')
  expect(text).toContain('Tempeh')
  expect(text).toContain('“Who weighs?”: 1 new')
  expect(text).toContain(`${tempeh().replace('/api', '')}`)
  expect(text).not.toContain('Student')
  expect(mails(0)).toHaveLength(0)
  // Once a day at most, and only where something came since.
  await must(reply(owner, subject.code))
  harness.clock.advance(2 * HOUR)
  due()
  expect(mails(1)).toHaveLength(1)
  harness.clock.advance(DAY)
  due()
  expect(mails(1)).toHaveLength(2)
  harness.clock.advance(DAY)
  due()
  expect(mails(1)).toHaveLength(2)
  // Whoever has read, left the group, or ended it gets none.
  await must(reply(owner, subject.code))
  await must(labs.tue(1).send('PUT', '/api/talk-digest', { on: false }))
  harness.clock.advance(2 * DAY)
  due()
  expect(mails(1)).toHaveLength(2)
  await must(labs.tue(1).send('PUT', '/api/talk-digest', { on: true }))
  await must(reply(owner, subject.code))
  harness.stores.seats.giveUp(
    harness.stores.sheets.group(labs.school.groups['Tempeh/Tue lab']!)!.id,
    seatOf(1),
  )
  harness.clock.advance(2 * DAY)
  due()
  expect(mails(1)).toHaveLength(2)
})

function seatOf(n: number): number {
  const person = harness.stores.roster.personByEmail(studentEmail('Tue lab', n))!
  const { course_id } = harness.stores.sheets.byCode(labs.school.sheet)!
  return harness.stores.roster.enrolmentIn(course_id, person.id)!.id
}
