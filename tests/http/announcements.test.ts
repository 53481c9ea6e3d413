import { afterEach, beforeEach, expect, it } from 'vitest'
import type { AnnouncementsView } from '../../src/contract/announcements.ts'
import type { Problem } from '../../src/contract/problems.ts'
import { sendDueAnnouncements } from '../../src/server/announcements/due.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import {
  type Harness,
  must,
  type School,
  START,
  setUpSchool,
  startHarness,
  studentEmail,
  unitWith,
} from './harness.ts'

let harness: Harness
let school: School
beforeEach(async () => {
  harness = await startHarness({ HAPLON_ORIGIN: 'https://haplon.school.example' })
  school = await setUpSchool(harness, { students: { '': 3 }, topics: ['Tempeh'] })
})
afterEach(() => harness.end())

const path = () => `/api/sheets/${school.sheet}/announcements`
const announce = (text: string, when: string) =>
  school.owner.post<AnnouncementsView & Problem>(path(), { text, when })
const mails = () =>
  harness.stores.mail.newest(50).filter(({ subject }) => subject.includes('Culture benches'))
const outbox = () => createOutboxMailer(harness.stores.mail, harness.clock.now)
const sendDue = (mailer = outbox()) =>
  sendDueAnnouncements(unitWith(harness, mailer), harness.stores, mailer, harness.clock.now())

it('goes to every active student, with the link, once', async () => {
  harness.db.exec("UPDATE enrolment SET status = 'paused' WHERE name = 'Student 2'")
  const done = await must(announce('Please choose.', 'now'))
  const link = harness.stores.sheets.byCode(school.sheet)!.link
  expect(mails().map(({ recipient }) => recipient)).toContain(studentEmail('', 0))
  expect(mails()[0]?.body).toBe(`Please choose.\n\nhttps://haplon.school.example/s/${link}`)
  expect(done.announcements).toMatchObject([{ recipients: 2 }])
  sendDue()
  expect(mails()).toHaveLength(2)
})

it('waits for the opening, whenever that comes to be, and survives a restart', async () => {
  harness.clock.set('2026-05-06T06:00:00.000Z')
  await must(announce('It is open.', 'opening'))
  sendDue()
  expect(mails()).toEqual([])
  await must(school.owner.patch(`/api/sheets/${school.sheet}`, { opensAt: '2026-05-06T10:00' }))
  harness.clock.set(START)
  sendDue()
  expect(mails()).toEqual([])
  harness.clock.set('2026-05-06T08:00:00.000Z')
  sendDue()
  sendDue()
  expect(mails()).toHaveLength(3)
})

it('can be taken back while it waits', async () => {
  harness.clock.set('2026-05-06T06:00:00.000Z')
  const { announcements } = await must(announce('It is open.', 'opening'))
  const gone = await must<AnnouncementsView>(
    school.owner.send('DELETE', `${path()}/${announcements[0]!.code}`),
  )
  expect(gone.announcements).toEqual([])
  harness.clock.set(START)
  sendDue()
  expect(mails()).toEqual([])
})

it('says what is wrong', async () => {
  expect((await announce('  ', 'now')).body.errors?.[0]?.path).toBe('text')
  expect((await announce('x', 'someday')).body.errors?.[0]?.path).toBe('when')
  expect((await announce('x', 'opening')).body.errors?.[0]?.message).toMatch(/opened already/)
  const draft = await setUpSchool(harness, { students: { '': 1 }, topics: ['Miso'], publish: false })
  const refused = await draft.owner.post<Problem>(`/api/sheets/${draft.sheet}/announcements`, {
    text: 'x',
    when: 'now',
  })
  expect(refused.body.code).toBe('sheet-not-published')
})

it('one that cannot go out is in no other’s way, leaves nothing half done, and goes later', async () => {
  harness.clock.set('2026-05-06T06:00:00.000Z')
  await must(school.owner.patch(`/api/sheets/${school.sheet}`, { opensAt: '2026-05-06T10:00' }))
  await must(announce('This one fails.', 'opening'))
  await must(announce('This one goes.', 'opening'))
  harness.clock.set('2026-05-06T08:00:00.000Z')
  const fails = outbox()
  let sent = 0
  sendDue({
    ...fails,
    send: (mail) => {
      // After the first student was written to.
      if (mail.text.startsWith('This one fails.') && ++sent > 1) throw new Error('the disk is full')
      return fails.send(mail)
    },
  })
  expect(mails().map(({ body }) => body.split('\n')[0])).toEqual(Array(3).fill('This one goes.'))
  // Another can be made meanwhile, and goes at once.
  expect((await announce('At once.', 'now')).status).toBe(200)
  expect(mails()).toHaveLength(6)
  sendDue()
  sendDue()
  expect(mails()).toHaveLength(9)
})

it('says since when the mail server takes no mail', async () => {
  const away = await startHarness({
    HAPLON_ORIGIN: 'https://haplon.school.example',
    HAPLON_SMTP: 'smtp://127.0.0.1:1',
  })
  const there = await setUpSchool(away, { students: { '': 1 }, topics: ['Miso'] })
  const at = `/api/sheets/${there.sheet}/announcements`
  expect((await there.owner.get<AnnouncementsView>(at)).body.mailAwaySince).toBeNull()
  await must(there.owner.post(at, { text: 'Please choose.', when: 'now' }))
  await expect.poll(async () => (await there.owner.get<AnnouncementsView>(at)).body.mailAwaySince).toBe(START)
  expect((await away.stranger.get<{ mail: object }>('/healthz?deep')).body.mail).toMatchObject({
    waiting: 1,
    failed: 0,
    away: { since: START },
  })
  await away.end()
})
