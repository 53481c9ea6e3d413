import { afterEach, beforeEach, expect, it } from 'vitest'
import type { GroupPage, GroupsView } from '../../src/contract/groups.ts'
import type { SubjectView } from '../../src/contract/talk.ts'
import type { WorkView } from '../../src/contract/tasks.ts'
import { type Client, type Harness, must, type School, studentEmail } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'
import { bring } from './uploading.ts'

let labs: Labs
let harness: Harness
let school: School
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
  school = labs.school
})
afterEach(() => harness.end())

const tempeh = () => school.groups['Tempeh/Tue lab']!
const at = () => `${labs.at}/groups/${tempeh()}`
const later = () => harness.clock.advance(60_000)
const extras = (body: object) => must(school.owner.send('PUT', `${labs.at}/extras`, body))
const page = (client: Client) => must<GroupPage>(client.get(at()))
const whole = (client: Client) => must<GroupsView>(client.get(`${labs.at}/groups`))
const lately = async (client: Client) =>
  (await page(client)).lately.map(({ kind, by, what }) => [kind, by, what].filter(Boolean).join(' | '))

/** Everything that can happen in a group, a minute apart. */
async function happenings() {
  await extras({ messages: true, talk: true, files: true, meeting: true, name: true })
  await labs.take(labs.tue(0), 'Tempeh/Tue lab')
  later()
  await labs.take(labs.tue(1), 'Tempeh/Tue lab')
  later()
  const { code } = await must<SubjectView>(
    labs.tue(0).post(`${at()}/talk`, { title: 'Bench plan', text: 'Who brings salt?' }),
  )
  later()
  await must(labs.tue(1).post(`${at()}/talk/${code}/posts`, { text: 'I do.' }))
  later()
  await bring(harness, labs.tue(0), labs.at, { aim: 'group', group: tempeh() }, 'plan.txt', 'one')
  later()
  await bring(harness, labs.tue(1), labs.at, { aim: 'group', group: tempeh() }, 'plan.txt', 'two')
  later()
  const [file] = (await page(labs.tue(0))).files
  await must(labs.tue(0).send('DELETE', `${at()}/files/${file!.code}`))
  later()
  await must(labs.tue(0).post(`${at()}/messages`, { subject: 'Tuesday', text: 'At nine?' }))
  later()
  await must(labs.tue(0).send('PATCH', `${at()}/place`, { name: 'The moulds' }))
  later()
  const { tasks } = await must<WorkView>(
    school.owner.post(`${labs.at}/tasks`, { title: 'Report', out: true, dueAt: '2026-05-08T12:00' }),
  )
  const task = `${labs.at}/tasks/${tasks[0]!.code}`
  await must(labs.tue(1).post(`${task}/hand-ins`, { group: tempeh(), text: 'Ours', after: 0 }))
  later()
  await must(labs.tue(1).post(`${task}/take-back`, { group: tempeh() }))
  later()
}

const ALL = [
  'taken-back | Student 1 Tue lab | Report',
  'handed-in | Student 1 Tue lab | Report',
  'place | Student 0 Tue lab | name',
  'message | Student 0 Tue lab | Tuesday',
  'file-removed | Student 0 Tue lab | plan.txt',
  'file-version | Student 1 Tue lab | plan.txt',
  'file | Student 0 Tue lab | plan.txt',
  'post | Student 1 Tue lab | Bench plan',
  'subject | Student 0 Tue lab | Bench plan',
  'came | Student 1 Tue lab',
  'came | Student 0 Tue lab',
]

it('what happened in a group is told once each, the newest first, with who and what', async () => {
  await happenings()
  expect(await lately(labs.tue(0))).toEqual(ALL)
  expect(await lately(school.owner)).toEqual(ALL)
  // Who goes is named to those who stay; a hand-in of two members was one thing that happened.
  await labs.rule({ changing: 'until-close' })
  await must(
    school.owner.post(`${labs.at}/seatings`, {
      changes: [{ person: await codeOf(1), from: tempeh(), to: null }],
      confirmed: true,
    }),
  )
  expect((await lately(labs.tue(0)))[0]).toBe('went | Student 1 Tue lab')
})

it('of what is turned off nothing is told, and with names for nobody mates are not named', async () => {
  await happenings()
  await extras({ messages: false, talk: false, files: false })
  const left = ALL.filter((one) => !/^(message|file|post|subject)/.test(one))
  expect(await lately(labs.tue(0))).toEqual(left)
  await labs.rule({ names: 'nobody' })
  const hidden = (await lately(labs.tue(0))).filter((one) => one.includes('Student 1'))
  expect(hidden).toEqual([])
  expect(await lately(school.owner)).toEqual(left)
})

const codeOf = async (n: number): Promise<string> => {
  const { course_id } = harness.stores.sheets.byCode(school.sheet)!
  return harness.stores.roster.everybody(course_id).find(({ email }) => email === studentEmail('Tue lab', n))!
    .code
}

it('all groups are listed in the order of the topics, with what each has and lacks', async () => {
  await happenings()
  harness.clock.set('2026-05-08T12:00:00.000Z')
  const view = await whole(school.owner)
  expect(view.groups.map(({ topic, section }) => `${topic.title} ${section}`)).toEqual([
    'Tempeh Tue lab',
    'Tempeh Wed lab',
    'Kefir Tue lab',
    'Kefir Wed lab',
    'Miso Tue lab',
    'Miso Wed lab',
  ])
  expect(view.groups[0]).toMatchObject({
    code: tempeh(),
    name: 'The moulds',
    members: [{ name: 'Student 0 Tue lab' }, { name: 'Student 1 Tue lab' }],
    convener: 'Student 0 Tue lab',
    tutors: [],
    yours: false,
    unread: 2,
    files: 0,
    missing: 1,
  })
  // A group in which nobody sits lacks nothing.
  expect(view.groups[1]).toMatchObject({ members: [], convener: null, unread: 0, missing: 0, name: '' })
  expect(view.kept).toEqual({ talk: 1, files: 0, messages: 1 })
  expect(view.mayEdit).toBe(true)
})

it('a tutor is shown the groups they look after, those first, and what is off is empty', async () => {
  await happenings()
  await bring(harness, labs.tue(0), labs.at, { aim: 'group', group: tempeh() }, 'more.txt', 'three')
  const { course_id } = harness.stores.sheets.byCode(school.sheet)!
  const tutor = harness.stores.roster.everybody(course_id).find(({ role }) => role === 'tutor')!
  const care = (groups: string[]) =>
    must(
      school.owner.send('PUT', `${labs.at}/tutors`, {
        changes: groups.map((group) => ({ group, add: [tutor.code] })),
      }),
    )
  const client = harness.as('tutor@school.example')
  expect((await whole(client)).groups).toEqual([])
  await care([school.groups['Miso/Tue lab']!, tempeh()])
  const own = await whole(client)
  expect(own.groups.map(({ topic, yours }) => [topic.title, yours])).toEqual([
    ['Tempeh', true],
    ['Miso', true],
  ])
  expect(own.groups[0]).toMatchObject({ tutors: [{ name: 'Tutor One' }], files: 1, unread: 2 })
  expect(own.mayEdit).toBe(false)
  await extras({ talk: false, files: false, name: false })
  expect((await whole(client)).groups[0]).toMatchObject({ files: 0, unread: 0, name: '', emblem: '' })
  // Their owner sees all of them; those that they look after themselves come first.
  expect((await whole(school.owner)).groups).toHaveLength(6)
})

it('the page of a group says what may be done there, by what its groups get and whether it is put away', async () => {
  await happenings()
  const seen = await page(labs.tue(0))
  expect(seen).toMatchObject({
    as: 'member',
    size: 2,
    name: 'The moulds',
    convener: 'Student 0 Tue lab',
    may: { write: true, name: true, start: true },
    messages: [{ by: 'Student 0 Tue lab', subject: 'Tuesday', reached: 1 }],
    tasks: [{ title: 'Report', state: 'not-due', open: true }],
  })
  expect(seen.people.map(({ name }) => name)).toContain('Student 1 Tue lab')
  await must(school.owner.post(`${labs.at}/archive`, { archived: true }))
  expect((await page(labs.tue(0))).may).toEqual({
    write: false,
    meeting: false,
    name: false,
    start: false,
    thread: false,
    replyToSubject: false,
  })
  expect((await page(school.owner)).may.write).toBe(false)
})
