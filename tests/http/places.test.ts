import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { GroupPage, GroupsView } from '../../src/contract/groups.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { SubjectView } from '../../src/contract/talk.ts'
import { HOUR } from '../../src/core/instant.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { sendDueNotices } from '../../src/server/talk/notices.ts'
import { type Client, type Harness, must, type School, studentEmail, unitWith } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'
import { bring } from './uploading.ts'

let labs: Labs
let harness: Harness
let school: School
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
  school = labs.school
  await labs.take(labs.tue(0), 'Tempeh/Tue lab')
  await labs.take(labs.tue(1), 'Tempeh/Tue lab')
})
afterEach(() => harness.end())

const tempeh = () => school.groups['Tempeh/Tue lab']!
const extras = (body: object) => must<GroupsView>(school.owner.send('PUT', `${labs.at}/extras`, body))
const at = () => `${labs.at}/groups/${tempeh()}`
const page = (client: Client) => must<GroupPage>(client.get(at()))
const start = (client: Client, body: object = {}) =>
  client.post<SubjectView & Problem>(`${at()}/talk`, {
    title: 'Bench plan',
    text: 'Who brings the soy?',
    ...body,
  })
const reply = (client: Client, subject: string, text: string) =>
  must<SubjectView>(client.post(`${at()}/talk/${subject}/posts`, { text }))
const mailsTo = (email: string) =>
  harness.stores.mail.newest(100).filter(({ recipient }) => recipient === email)
const tutorOf = (groups: string[]) => {
  const { sheets, roster } = harness.stores
  const sheet = sheets.byCode(school.sheet)!
  const tutor = roster.enrolmentIn(sheet.course_id, roster.personByEmail('tutor@school.example')!.id)!
  for (const code of groups) sheets.setTutors(sheets.group(code)!.id, [tutor.id])
  return harness.as('tutor@school.example')
}

describe('a group’s page', () => {
  it('has who sits there and what is due, and nothing that was not turned on but messages', async () => {
    await must(
      school.owner.post(`${labs.at}/tasks`, { title: 'Report', out: true, dueAt: '2026-05-10T09:00' }),
    )
    await must(school.owner.post(`${labs.at}/tasks`, { title: 'Not out yet' }))
    const seen = await page(labs.tue(0))
    expect(seen).toMatchObject({
      as: 'member',
      topic: { title: 'Tempeh' },
      section: 'Tue lab',
      convener: 'Student 0 Tue lab',
      extras: { messages: true, talk: false, files: false, meeting: false, name: false },
      may: { write: true, meeting: false, name: false, start: false },
      talk: [],
      files: [],
    })
    expect(seen.members.map(({ name, email, you }) => [name, email, you])).toEqual([
      ['Student 0 Tue lab', studentEmail('Tue lab', 0), true],
      ['Student 1 Tue lab', studentEmail('Tue lab', 1), false],
    ])
    expect(seen.tasks.map(({ title, state, open }) => [title, state, open])).toEqual([
      ['Report', 'not-due', true],
    ])
    expect(seen.lately.map(({ kind, by }) => `${by} ${kind}`)).toEqual([
      'Student 1 Tue lab came',
      'Student 0 Tue lab came',
    ])
    for (const [path, body] of [
      ['talk', { title: 't', text: 't' }],
      ['place', { name: 'x' }],
    ] as const) {
      const answer = await labs
        .tue(0)
        .send<Problem>(path === 'place' ? 'PATCH' : 'POST', `${at()}/${path}`, body)
      expect(answer.body.code).toBe('extra-off')
    }
  })

  it('names no mates where the house rules show names to nobody, in members, talk, files or mail', async () => {
    await labs.rule({ names: 'nobody' })
    await extras({ talk: true })
    const { body } = await start(labs.tue(1), { text: 'From one of us to @Student 0 Tue lab' })
    await must(labs.tue(1).post(`${at()}/messages`, { subject: 'Hello', text: 'Hello all' }))
    const seen = await page(labs.tue(0))
    expect(seen.size).toBe(2)
    expect(seen.members.map(({ name }) => name)).toEqual(['Student 0 Tue lab'])
    const view = await must<SubjectView>(labs.tue(0).get(`${at()}/talk/${body.code}`))
    expect(JSON.stringify([seen, view.posts.map(({ by }) => by)])).not.toContain('Student 1')
    expect(view.posts[0]).toMatchObject({ by: 'A member of your group', mentionsYou: false })
    expect(
      mailsTo(studentEmail('Tue lab', 0))
        .map(({ body }) => body)
        .join('\n'),
    ).not.toContain('Student 1')
    expect((await page(school.owner)).members).toHaveLength(2)
  })

  it('names those who sat there before to whoever sat with them, and not to whoever came later', async () => {
    await extras({ talk: true, files: true })
    const { body } = await start(labs.tue(1), { text: 'From one who leaves.' })
    await bring(harness, labs.tue(1), labs.at, { aim: 'group', group: tempeh() }, 'left.txt', 'left here')
    harness.clock.advance(60_000)
    await labs.move(labs.tue(1), 'Tempeh/Tue lab', 'Kefir/Tue lab')
    harness.clock.advance(60_000)
    await labs.take(labs.tue(2), 'Tempeh/Tue lab')
    const seen = async (client: Client) =>
      JSON.stringify([
        await page(client),
        (await must<SubjectView>(client.get(`${at()}/talk/${body.code}`))).posts,
      ])
    expect(await seen(labs.tue(0))).toContain('Student 1 Tue lab')
    const later = await seen(labs.tue(2))
    expect(later).not.toContain('Student 1')
    expect(later).toContain('Somebody who sat here before')
    await labs.rule({ names: 'everyone' })
    expect(await seen(labs.tue(2))).toContain('Student 1 Tue lab')
  })

  it('names mates only after the close where the house rules say so', async () => {
    await labs.rule({ names: 'after-close' })
    await extras({ talk: true })
    await start(labs.tue(1))
    expect(JSON.stringify(await page(labs.tue(0)))).not.toContain('Student 1')
    expect((await page(labs.tue(0))).people.map(({ name }) => name)).not.toContain('Student 1 Tue lab')
    harness.clock.set('2026-05-14T07:00:00.000Z')
    expect((await page(labs.tue(0))).members.map(({ name }) => name)).toContain('Student 1 Tue lab')
  })

  it('carries a message to everybody by mail and keeps it', async () => {
    tutorOf([tempeh()])
    await must(labs.tue(0).post(`${at()}/messages`, { subject: 'Soy', text: 'I bring it on Tuesday.' }))
    expect((await page(labs.tue(1))).messages).toMatchObject([
      { by: 'Student 0 Tue lab', subject: 'Soy', text: 'I bring it on Tuesday.', reached: 2 },
    ])
    for (const email of [studentEmail('Tue lab', 1), 'tutor@school.example']) {
      expect(mailsTo(email)[0]?.body).toMatch(/I bring it on Tuesday.*Student 0 Tue lab wrote this/s)
    }
    expect(mailsTo(studentEmail('Tue lab', 0)).filter(({ subject }) => subject.includes('Soy'))).toEqual([])
    await labs.take(labs.tue(2), 'Kefir/Tue lab')
    const alone = await labs
      .tue(2)
      .post<Problem>(`${labs.at}/groups/${school.groups['Kefir/Tue lab']}/messages`, {
        subject: 's',
        text: 't',
      })
    expect(alone.body.code).toBe('nobody-to-write-to')
  })

  it('has a meeting link set by staff, or by the convener where that is chosen, and a name by the convener', async () => {
    const place = (client: Client, body: object) => client.patch<GroupPage & Problem>(`${at()}/place`, body)
    await extras({ meeting: true, name: true })
    const link = { meeting: 'https://meet.school.example/tempeh' }
    expect((await place(labs.tue(0), link)).body.code).toBe('not-allowed')
    expect((await place(school.owner, link)).body.meeting).toBe(link.meeting)
    // The ledger tells tutors no meeting link but of groups that they look after.
    const ledger = async (client: Client) => JSON.stringify((await client.get(`${labs.at}/ledger`)).body)
    expect(await ledger(tutorOf(['Miso/Tue lab'].map((name) => school.groups[name]!)))).not.toContain(
      link.meeting,
    )
    expect(await ledger(tutorOf([tempeh()]))).toContain(link.meeting)
    expect(await ledger(school.owner)).toContain(link.meeting)
    for (const code of [tempeh(), school.groups['Miso/Tue lab']!])
      harness.stores.sheets.setTutors(harness.stores.sheets.group(code)!.id, [])
    await extras({ meetingBy: 'convener' })
    expect((await place(labs.tue(1), { meeting: '' })).body.code).toBe('not-allowed')
    expect((await place(labs.tue(0), { meeting: 'javascript:alert(1)' })).body.errors?.[0]?.path).toBe(
      'meeting',
    )
    await must(place(labs.tue(0), { meeting: '', name: 'Bean counters', emblem: 'wheat' }))
    expect((await place(labs.tue(1), { name: 'Mine' })).body.code).toBe('not-allowed')
    expect((await place(labs.tue(0), { emblem: 'dragon' })).body.errors?.[0]?.message).toMatch(
      /one of the emblems/,
    )
    expect(await page(labs.tue(1))).toMatchObject({ meeting: '', name: 'Bean counters', emblem: 'wheat' })
    await extras({ name: false })
    expect(await page(labs.tue(1))).toMatchObject({ name: '', emblem: '' })
    await extras({ name: true })
    expect((await page(labs.tue(1))).name).toBe('Bean counters')
    // On the sheet it shows to those who may read the names in the group, for it may be made of them.
    const calledFor = async (n: number) => {
      const { groups } = await labs.sheetOf(labs.tue(n))
      return groups.find(({ code }) => at().endsWith(code))?.called
    }
    expect([await calledFor(1), await calledFor(4)]).toEqual(['Bean counters', ''])
    await labs.rule({ names: 'everyone' })
    expect(await calledFor(4)).toBe('Bean counters')
    await extras({ name: false })
    expect(await calledFor(1)).toBe('')
  })

  it('stays as it is once the sheet is put away', async () => {
    await extras({ talk: true })
    const { code } = (await start(labs.tue(0))).body
    await must(school.owner.post(`${labs.at}/archive`, { archived: true }))
    expect((await page(labs.tue(0))).may.write).toBe(false)
    expect((await start(labs.tue(0))).body.code).toBe('sheet-archived')
    expect((await labs.tue(0).post<Problem>(`${at()}/talk/${code}/posts`, { text: 'x' })).body.code).toBe(
      'sheet-archived',
    )
  })
})

describe('the list of groups', () => {
  it('is whole for instructors with own ones first, and the own ones alone for tutors', async () => {
    const kefir = school.groups['Kefir/Wed lab']!
    const tutor = tutorOf([kefir])
    const all = await must<GroupsView>(school.owner.get(`${labs.at}/groups`))
    expect(all.groups).toHaveLength(6)
    const own = await must<GroupsView>(tutor.get(`${labs.at}/groups`))
    expect(own.groups.map(({ code, yours }) => [code, yours])).toEqual([[kefir, true]])
    expect((await tutor.get(at())).status).toBe(404)
  })
})

describe('talk', () => {
  it('has subjects with replies, unread marks that go as they are read, and mentions that are told', async () => {
    await extras({ talk: true })
    harness.clock.advance(60_000)
    const { body } = await start(labs.tue(0))
    expect((await page(labs.tue(1))).talk).toMatchObject([
      { title: 'Bench plan', by: 'Student 0 Tue lab', replies: 0, unread: 1, mentioned: false },
    ])
    expect((await page(labs.tue(0))).talk[0]?.unread).toBe(0)
    harness.clock.advance(60_000)
    const answered = await reply(labs.tue(1), body.code, 'I do, @student 0 tue lab.')
    expect((await page(labs.tue(0))).talk[0]).toMatchObject({ replies: 1, unread: 1, mentioned: true })
    expect(mailsTo(studentEmail('Tue lab', 0))[0]).toMatchObject({
      subject: expect.stringContaining('Student 1 Tue lab named you in “Bench plan”'),
    })
    await must(labs.tue(0).post(`${at()}/talk/${body.code}/read`, { post: answered.posts.at(-1)?.code }))
    expect((await page(labs.tue(0))).talk[0]).toMatchObject({ unread: 0, mentioned: false })
    const whole = await must<SubjectView>(labs.tue(0).get(`${at()}/talk/${body.code}`))
    expect(whole).toMatchObject({ firstUnread: null, posts: [{ yours: true }, { mentionsYou: true }] })
    expect((await page(school.owner)).lately.map(({ kind }) => kind)).toEqual([
      'post',
      'subject',
      'came',
      'came',
    ])
  })

  it('tells who is named at once, and of what follows within the hour in one mail', async () => {
    await extras({ talk: true })
    const { body } = await start(labs.tue(0))
    for (let n = 0; n < 12; n++) await reply(labs.tue(1), body.code, `@Student 0 Tue lab, thing ${n}`)
    const told = () => mailsTo(studentEmail('Tue lab', 0)).filter(({ subject }) => subject.includes('named'))
    expect(told()).toHaveLength(1)
    const due = () => {
      const mailer = createOutboxMailer(harness.stores.mail, harness.clock.now)
      sendDueNotices(unitWith(harness, mailer), harness.stores, mailer, harness.clock.now())
    }
    harness.clock.advance(HOUR - 1)
    due()
    expect(told()).toHaveLength(1)
    harness.clock.advance(1)
    due()
    due()
    expect(told().map(({ subject }) => subject)[0]).toMatch(/you were named in 11 posts/)
    expect(told()[0]?.body).toMatch(/thing 1[\s\S]*thing 10[\s\S]*And 1 more/)
    expect(told()).toHaveLength(2)

    // What was read meanwhile, or is for somebody who has left the group, is told to nobody.
    const answered = await reply(labs.tue(1), body.code, '@Student 0 Tue lab, once more')
    await must(labs.tue(0).post(`${at()}/talk/${body.code}/read`, { post: answered.posts.at(-1)?.code }))
    harness.clock.advance(HOUR)
    due()
    expect(told()).toHaveLength(2)
    for (const n of [1, 2]) await reply(labs.tue(1), body.code, `@Student 0 Tue lab, late ${n}`)
    expect(told()).toHaveLength(3)
    await labs.giveUp(labs.tue(0), 'Tempeh/Tue lab')
    harness.clock.advance(HOUR)
    due()
    expect(told()).toHaveLength(3)
  })

  it('keeps a trace of what was edited and removed, for its writer and staff', async () => {
    await extras({ talk: true })
    const { body } = await start(labs.tue(0), { text: 'I was late, sorry.' })
    const post = `${at()}/talk/${body.code}/posts/${body.posts[0]?.code}`
    expect((await labs.tue(1).patch<Problem>(post, { text: 'x' })).body.code).toBe('not-allowed')
    harness.clock.advance(60_000)
    await must(labs.tue(0).patch(post, { text: 'I was on time.' }))
    const seen = async (client: Client) =>
      (await must<SubjectView>(client.get(`${at()}/talk/${body.code}`))).posts[0]
    expect(await seen(labs.tue(1))).toMatchObject({
      text: 'I was on time.',
      earlier: [],
      editedAt: expect.any(String),
    })
    expect(await seen(school.owner)).toMatchObject({ earlier: [{ text: 'I was late, sorry.' }] })
    expect((await labs.tue(1).send<Problem>('DELETE', post)).body.code).toBe('not-allowed')
    await must(school.owner.send('DELETE', post))
    expect(await seen(labs.tue(1))).toMatchObject({
      text: '',
      earlier: [],
      removed: { at: expect.any(String) },
    })
    expect((await seen(labs.tue(0)))?.earlier.map(({ text }) => text)).toEqual([
      'I was late, sorry.',
      'I was on time.',
    ])
    expect((await page(labs.tue(1))).talk[0]?.unread).toBe(0)
  })

  it('is started by staff alone where that is chosen, and one subject opens in all groups at once', async () => {
    await extras({ talk: true, starts: 'staff' })
    expect((await start(labs.tue(0))).body.code).toBe('staff-start')
    const opened = await must<{ groups: number }>(
      school.owner.post(`${labs.at}/talk`, { title: 'Safety', text: 'Read this first.', groups: null }),
    )
    expect(opened.groups).toBe(6)
    const [subject] = (await page(labs.tue(0))).talk
    expect(subject).toMatchObject({ title: 'Safety', shared: true, unread: 1 })
    await reply(labs.tue(0), subject!.code, 'Read.')
    await labs.take(labs.tue(2), 'Kefir/Tue lab')
    const other = await must<GroupPage>(
      labs.tue(2).get(`${labs.at}/groups/${school.groups['Kefir/Tue lab']}`),
    )
    expect(other.talk[0]?.replies).toBe(0)
    const none = await school.owner.post<Problem>(`${labs.at}/talk`, { title: 's', text: 't', groups: [] })
    expect(none.body.errors?.[0]?.path).toBe('groups')
    await extras({ talk: false })
    expect((await page(labs.tue(0))).talk).toEqual([])
    expect((await labs.tue(0).get<Problem>(`${at()}/talk/${subject?.code}`)).body.code).toBe('extra-off')
    const { kept } = await extras({ talk: true })
    expect(kept.talk).toBe(6)
  })
})
