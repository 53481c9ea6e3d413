import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { WorkView } from '../../src/contract/tasks.ts'
import { MINUTE } from '../../src/core/instant.ts'
import {
  type Answer,
  type Client,
  type Harness,
  must,
  outcome,
  type School,
  studentEmail,
} from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

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
const own = (client: Client) => must<OwnWork>(client.get(`${labs.at}/own-work`))
const titles = async (client: Client) =>
  (await own(client)).tasks.map(({ title, gate }) => `${title} ${gate.state}`)
const setTask = async (body: object): Promise<string> => {
  const view = await must<WorkView>(
    school.owner.post(`${labs.at}/tasks`, { title: 'Report', out: true, ...body }),
  )
  return view.tasks.at(-1)!.code
}
type Reply = Answer<OwnWork & Problem>
const handIn = (client: Client, task: string, more: object = {}): Promise<Reply> =>
  client.post(`${labs.at}/tasks/${task}/hand-ins`, { group: tempeh(), text: 'Our report', after: 0, ...more })
const takeBack = (client: Client, task: string): Promise<Reply> =>
  client.post(`${labs.at}/tasks/${task}/take-back`, { group: tempeh() })
const mails = (n: number) =>
  harness.stores.mail.newest(100).filter(({ recipient }) => recipient === studentEmail('Tue lab', n))

describe('a task for a list of people', () => {
  const listOf = async (names: string[]) => {
    const { people } = await must<{ people: { code: string; name: string }[] }>(
      school.owner.get(`/api/courses/${school.course}/roster`),
    )
    const codes = names.map((name) => people.find((one) => one.name === name)?.code)
    const { added } = await must<{ added: string }>(
      school.owner.post(`/api/courses/${school.course}/lists`, {
        title: 'Extra reading',
        note: 'after the talk with both',
        people: codes,
      }),
    )
    return added
  }

  it('is there for those on it alone, each on their own, and nobody else learns of it', async () => {
    const list = await listOf(['Student 0 Tue lab', 'Student 0 Wed lab'])
    const task = await setTask({ title: 'Reading log', forWhom: 'students', withoutGroup: 'open', list })
    expect(await titles(labs.tue(0))).toEqual(['Reading log open'])
    expect(await titles(labs.tue(1))).toEqual([])
    const seen = await labs.tue(1).get(`${labs.at}/student`)
    expect(JSON.stringify([seen.body, await own(labs.tue(1))])).not.toMatch(/Reading log|Extra reading/)
    expect((await labs.sheetOf(labs.tue(1))).tasks.there).toBe(0)
    const alone = (client: Client) =>
      client.post<OwnWork & Problem>(`${labs.at}/tasks/${task}/hand-ins`, {
        group: null,
        text: 'Mine',
        after: 0,
      })
    expect((await alone(labs.tue(1))).status).toBe(404)
    await must(alone(labs.tue(0)))
    const view = await must<WorkView>(school.owner.get(`${labs.at}/work`))
    expect(view.lists).toEqual([{ code: list, title: 'Extra reading', people: 2 }])
    expect(view.tasks[0]).toMatchObject({ forWhom: 'students', list })
    expect(view.tasks[0]!.work.map(({ version }) => version).sort()).toEqual([0, 1])
    // Whoever handed in keeps it; whose it is does not change any more, and the list stays.
    const fixed = await school.owner.patch<Problem>(`${labs.at}/tasks/${task}`, { list: null })
    expect(fixed.body.code).toBe('task-fixed')
    const removed = await school.owner.send<Problem>('DELETE', `/api/courses/${school.course}/lists/${list}`)
    expect(removed.body).toMatchObject({
      code: 'list-in-use',
      detail: expect.stringContaining('Reading log'),
    })
    const others = await must<{ people: { code: string; name: string }[] }>(
      school.owner.get(`/api/courses/${school.course}/roster`),
    )
    const wed = others.people.find(({ name }) => name === 'Student 0 Wed lab')!.code
    await must(school.owner.patch(`/api/courses/${school.course}/lists/${list}`, { people: [wed] }))
    expect(await titles(labs.tue(0))).toEqual(['Reading log open'])
  })

  it('is refused for a list that is not there, and without one is for all', async () => {
    const at = `${labs.at}/tasks`
    const body = { title: 'Log', forWhom: 'students', list: 'nothing' }
    expect((await school.owner.post<Problem>(at, body)).body.errors?.[0]?.path).toBe('list')
    const list = await listOf(['Student 0 Tue lab'])
    const task = await setTask({ title: 'Log', forWhom: 'students', withoutGroup: 'open', list })
    expect(await titles(labs.tue(1))).toEqual([])
    await must(school.owner.patch(`${at}/${task}`, { list: null }))
    expect(await titles(labs.tue(1))).toEqual(['Log open'])
    // For groups there is no list.
    await must(school.owner.patch(`${at}/${task}`, { forWhom: 'groups', list }))
    const view = await must<WorkView>(school.owner.get(`${labs.at}/work`))
    expect(view.tasks[0]).toMatchObject({ forWhom: 'groups', list: null })
  })
})

describe('a task', () => {
  it('is locked without a group, opens with the seat, and is hidden from those it is not for', async () => {
    await setTask({ title: 'For all' })
    await setTask({ title: 'Hidden without', withoutGroup: 'hidden' })
    await setTask({ title: 'For Tempeh', forWhom: 'some-groups', groups: [tempeh()] })
    await setTask({ title: 'Each alone', forWhom: 'students', withoutGroup: 'open' })
    await setTask({ title: 'Not yet written', out: false })
    await setTask({ title: 'Next week', availableFrom: '2026-05-13T09:00' })
    expect(await titles(labs.tue(0))).toEqual(['For all locked', 'Each alone open'])
    expect((await own(labs.tue(0))).tasks[0]).toMatchObject({ work: null, group: null })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    expect(await titles(labs.tue(0))).toEqual([
      'For all open',
      'Hidden without open',
      'For Tempeh open',
      'Each alone open',
    ])
    await labs.take(labs.tue(1), 'Kefir/Tue lab')
    expect(await titles(labs.tue(1))).toEqual(['For all open', 'Hidden without open', 'Each alone open'])
  })

  it('says what is wrong with its times and what no longer changes', async () => {
    const add = (body: object) => school.owner.post<Problem>(`${labs.at}/tasks`, { title: 'Report', ...body })
    const early = await add({ availableFrom: '2026-05-08T09:00', dueAt: '2026-05-07T09:00' })
    expect(early.body).toMatchObject({ code: 'task-times-wrong', errors: [{ path: 'dueAt' }] })
    expect((await add({ late: 'until', dueAt: '2026-05-07T09:00' })).body.errors?.[0]?.path).toBe('lateUntil')
    expect((await add({ takesText: false, takesLinks: false })).body.errors?.[0]?.path).toBe('takesText')
    const task = await setTask({})
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await must(handIn(labs.tue(0), task))
    const change = (body: object) => school.owner.patch<Problem>(`${labs.at}/tasks/${task}`, body)
    expect((await change({ forWhom: 'students' })).body.code).toBe('task-fixed')
    expect((await change({ out: false })).body.code).toBe('task-fixed')
    await must(change({ title: 'Walk report' }))
    await must(school.owner.send('DELETE', `${labs.at}/tasks/${task}`))
    expect(await titles(labs.tue(0))).toEqual([])
    await must(school.owner.post(`${labs.at}/tasks/${task}/restore`))
    expect(await titles(labs.tue(0))).toEqual(['Walk report open'])
  })
})

describe('handing in', () => {
  it('counts for every member as the group stood, with a receipt to each', async () => {
    const task = await setTask({})
    for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
    await must(handIn(labs.tue(0), task, { links: ['https://school.example/report'] }))
    const seen = (await own(labs.tue(1))).tasks[0]?.work?.handIns[0]
    expect(seen).toMatchObject({
      version: 1,
      by: 'Student 0 Tue lab',
      links: ['https://school.example/report'],
    })
    expect(seen?.members).toEqual(['Student 0 Tue lab', 'Student 1 Tue lab'])
    for (const n of [0, 1])
      expect(mails(n).filter(({ subject }) => subject.includes('is handed in'))).toHaveLength(1)
    // Somebody who joins later sees it, and is not among those it counts for.
    await labs.take(labs.tue(2), 'Tempeh/Tue lab')
    expect((await own(labs.tue(2))).tasks[0]?.work?.handIns[0]?.members).toHaveLength(2)
    expect((await own(labs.wed(0))).tasks[0]?.work).toBeNull()
  })

  it('by two at once keeps both texts: the second is told, and hands in a further version', async () => {
    const task = await setTask({})
    for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
    await must(handIn(labs.tue(0), task))
    const second = await handIn(labs.tue(1), task, { text: 'Another' })
    expect(second.body.code).toBe('handed-in-meanwhile')
    expect(second.body.detail).toMatch(/Student 0 Tue lab handed in version 1/)
    await must(handIn(labs.tue(1), task, { text: 'Another', after: 1 }))
    expect((await own(labs.tue(0))).tasks[0]?.work?.handIns.map(({ text }) => text)).toEqual([
      'Another',
      'Our report',
    ])
  })

  it('is taken until the due moment, marked late after it, and refused when that is over', async () => {
    const task = await setTask({ dueAt: '2026-05-07T12:00', late: 'until', lateUntil: '2026-05-07T14:00' })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    harness.clock.set('2026-05-07T09:59:59.999Z')
    await must(handIn(labs.tue(0), task))
    harness.clock.set('2026-05-07T10:00:00.000Z')
    expect((await takeBack(labs.tue(0), task)).body.code).toBe('task-over')
    // What was in time counts, unless whoever hands in chooses otherwise.
    const asked = await handIn(labs.tue(0), task, { after: 1 })
    expect(asked).toMatchObject({ status: 409, body: { code: 'late-instead' } })
    expect(asked.body.detail).toMatch(/^Version 1 was handed in in time, and is what counts\./)
    expect((await own(labs.tue(0))).tasks[0]?.work?.handIns.map(({ late }) => late)).toEqual([false])
    await must(handIn(labs.tue(0), task, { after: 1, instead: true }))
    expect((await own(labs.tue(0))).tasks[0]?.work?.handIns.map(({ late }) => late)).toEqual([true, false])
    // A late one that stands is followed by another without a question.
    await must(handIn(labs.tue(0), task, { after: 2 }))
    harness.clock.set('2026-05-07T12:00:00.000Z')
    expect((await handIn(labs.tue(0), task, { after: 3 })).body.code).toBe('task-over')
    expect(await titles(labs.tue(0))).toEqual(['Report over'])
  })

  it('is taken back before it is due, back into the draft', async () => {
    const task = await setTask({ dueAt: '2026-05-07T12:00' })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    expect((await takeBack(labs.tue(0), task)).body.code).toBe('nothing-handed-in')
    await must(handIn(labs.tue(0), task))
    const back = await must(takeBack(labs.tue(0), task))
    expect(back.tasks[0]?.work).toMatchObject({
      draft: { text: 'Our report' },
      handIns: [{ takenBackAt: harness.clock.now() }],
    })
    expect(outcome(await labs.giveUp(labs.tue(0), 'Tempeh/Tue lab'))).toBe('granted')
  })

  it('keeps nothing that is empty, no link that is none, and nobody from elsewhere', async () => {
    const task = await setTask({ takesLinks: false })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    expect((await handIn(labs.tue(0), task, { text: '  ', links: ['https://a.example'] })).body.code).toBe(
      'hand-in-empty',
    )
    expect((await handIn(labs.tue(0), task, { links: ['javascript:alert(1)'] })).status).toBe(422)
    expect((await handIn(labs.tue(1), task)).body.code).toBe('task-locked')
    await labs.take(labs.tue(1), 'Kefir/Tue lab')
    expect((await handIn(labs.tue(1), task)).body.errors?.[0]?.path).toBe('group')
  })

  it('is written by one at a time', async () => {
    const task = await setTask({})
    for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
    const draft = (client: Client, text: string): Promise<Reply> =>
      client.send('PUT', `${labs.at}/tasks/${task}/draft`, { group: tempeh(), text, links: [] })
    await must(draft(labs.tue(0), 'First lines'))
    expect((await own(labs.tue(1))).tasks[0]?.work?.draft).toMatchObject({
      holder: 'Student 0 Tue lab',
      yours: false,
      text: 'First lines',
    })
    expect((await draft(labs.tue(1), 'Mine')).body.code).toBe('draft-held')
    await must(labs.tue(0).post(`${labs.at}/tasks/${task}/draft/let-go`, { group: tempeh() }))
    await must(draft(labs.tue(1), 'Mine'))
    harness.clock.advance(2 * MINUTE + 1)
    await must(draft(labs.tue(0), 'After two minutes'))
  })
})

describe('a group that has handed in', () => {
  it('loses its topic only when its instructor was told of the work, which stays with its members', async () => {
    const task = await setTask({})
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await must(handIn(labs.tue(0), task))
    const { code } = await labs.topic('Tempeh')
    const remove = (body: object) => school.owner.post<Problem>(`${labs.at}/topics/${code}/remove`, body)
    expect((await remove({})).body).toMatchObject({
      code: 'seated-affected',
      detail: expect.stringMatching(/Work was handed in there: it stays/),
    })
    await must(remove({ confirmed: true }))
    const [kept] = (await own(labs.tue(0))).tasks.filter(({ group }) => group !== null)
    expect(kept?.work?.handIns.map(({ text }) => text)).toEqual(['Our report'])
  })

  it('is not left by its students; the instructor is told what the move touches', async () => {
    const task = await setTask({})
    for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
    await must(handIn(labs.tue(0), task))
    expect(outcome(await labs.giveUp(labs.tue(1), 'Tempeh/Tue lab'))).toBe('work-handed-in')
    expect(outcome(await labs.move(labs.tue(1), 'Tempeh/Tue lab', 'Kefir/Tue lab'))).toBe('work-handed-in')
    expect((await labs.sheetOf(labs.tue(1))).seats[0]?.bound).toBe(true)
    const { course_id } = harness.stores.sheets.byCode(school.sheet)!
    const person = harness.stores.roster
      .everybody(course_id)
      .find(({ email }) => email === studentEmail('Tue lab', 1))!.code
    const changes = [{ person, from: tempeh(), to: school.groups['Kefir/Tue lab']! }]
    const asked = await school.owner.post<Problem>(`${labs.at}/seatings`, { changes })
    expect(asked.body.concerns?.[0]?.words).toMatch(/has handed in work/)
    await must(school.owner.post(`${labs.at}/seatings`, { changes, confirmed: true }))
    // The old group's page is gone, and what was handed in stays theirs.
    const tasks = (await own(labs.tue(1))).tasks.map(
      ({ group, gate, work }) => `${group?.title} ${gate.state} ${work?.handIns.length}`,
    )
    expect(tasks).toEqual(['Kefir open 0', 'Tempeh over 1'])
  })
})
