import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { DeskView, MarksPreview } from '../../src/contract/marks.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { OwnWork, WorkView } from '../../src/contract/tasks.ts'
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
    await must(handIn(labs.tue(0), task, { after: 1 }))
    expect((await own(labs.tue(0))).tasks[0]?.work?.handIns.map(({ late }) => late)).toEqual([true, false])
    harness.clock.set('2026-05-07T12:00:00.000Z')
    expect((await handIn(labs.tue(0), task, { after: 2 })).body.code).toBe('task-over')
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

describe('marks', () => {
  const desk = (task: string) => must<DeskView>(school.owner.get(`${labs.at}/tasks/${task}/desk`))
  const mark = (task: string, body: object, who = school.owner): Promise<Answer<DeskView & Problem>> =>
    who.send('PUT', `${labs.at}/tasks/${task}/marks`, {
      owner: tempeh(),
      apart: null,
      version: 0,
      placements: {},
      points: null,
      feedback: '',
      ...body,
    })
  const release = (task: string, released = true): Promise<Answer<DeskView & Problem>> =>
    school.owner.post(`${labs.at}/tasks/${task}/release`, { owners: null, released })
  const criteria = [
    { id: 'seen', title: 'What was seen', points: 5, levels: ['thin', 'strong'] },
    { id: 'said', title: 'Plain writing', points: 5, levels: ['thin', 'strong'] },
  ]
  const both = async () => {
    for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
  }

  it('are one for the group, another for a member set apart, and hidden until released', async () => {
    const task = await setTask({ criteria })
    await both()
    await must(handIn(labs.tue(0), task))
    await must(mark(task, { placements: { seen: 4, said: 3 }, feedback: 'Good eye.' }))
    const { piles } = await desk(task)
    const pile = piles.find(({ owner }) => owner === tempeh())!
    expect(pile).toMatchObject({ state: 'handed-in', points: 7, marked: true, released: false })
    const second = pile.people.find(({ name }) => name === 'Student 1 Tue lab')!.code
    await must(mark(task, { apart: second, placements: { seen: 2, said: 2 }, feedback: 'Was away.' }))
    expect((await own(labs.tue(0))).tasks[0]?.work?.mark).toBeNull()
    await must(release(task))
    expect((await own(labs.tue(0))).tasks[0]?.work?.mark).toMatchObject({
      points: 7,
      feedback: 'Good eye.',
      apart: false,
    })
    expect((await own(labs.tue(1))).tasks[0]?.work?.mark).toMatchObject({
      points: 4,
      feedback: 'Was away.',
      apart: true,
    })
    expect(JSON.stringify(await own(labs.tue(0)))).not.toContain('Was away')
    for (const n of [0, 1])
      expect(mails(n).filter(({ subject }) => subject.includes('is marked'))).toHaveLength(1)
    await must(release(task, false))
    expect((await own(labs.tue(0))).tasks[0]?.work?.mark).toBeNull()
    expect((await release(task, false)).body.code).toBe('nothing-to-release')
  })

  it('go no further than the points, and are not overwritten by a second marker', async () => {
    const task = await setTask({ points: 10 })
    await both()
    const past = await mark(task, { points: 11 })
    expect(past.body).toMatchObject({ code: 'points-past-most', errors: [{ path: 'points' }] })
    await must(mark(task, { points: 8 }))
    expect((await mark(task, { points: 5 })).body.code).toBe('marked-meanwhile')
    await must(mark(task, { points: 5, version: 1 }))
    expect((await desk(task)).piles.find(({ owner }) => owner === tempeh())).toMatchObject({
      points: 5,
      mark: { version: 2 },
    })
  })

  it('do not count a criterion that was removed, are open where one was added, and both are asked about', async () => {
    const task = await setTask({ criteria })
    await both()
    await must(mark(task, { placements: { seen: 4, said: 3 } }))
    const change = (body: object) => school.owner.patch<Problem>(`${labs.at}/tasks/${task}`, body)
    const asked = await change({ criteria: criteria.slice(0, 1) })
    expect(asked.body).toMatchObject({
      code: 'marks-affected',
      detail: expect.stringMatching(/1 mark given/),
    })
    await must(change({ criteria: criteria.slice(0, 1), confirmed: true }))
    expect((await desk(task)).piles[0]?.points).toBe(4)
    // What was placed on it comes back with it, also when the mark was changed meanwhile.
    await must(mark(task, { placements: { seen: 2 }, version: 1 }))
    await must(change({ criteria, confirmed: true }))
    expect((await desk(task)).piles[0]?.points).toBe(5)
    const lower = criteria.map((one) => ({ ...one, points: 1 }))
    expect((await change({ criteria: lower })).body).toMatchObject({
      code: 'points-past-most',
      errors: [{ path: 'criteria[0].points' }],
    })
    const added = [...criteria, { id: 'new', title: 'New', points: 5, levels: [] }]
    expect((await change({ criteria: added })).body.detail).toMatch(/unfinished until “New” is placed/)
    await must(change({ criteria: added, confirmed: true }))
    expect((await desk(task)).piles[0]).toMatchObject({ points: null, marked: false })
  })

  it('come in from a file: looked at first, then all of it or nothing, and a round trip changes nothing', async () => {
    const task = await setTask({ title: 'Essay', points: 10 })
    const rows = await setTask({ title: 'Walk', criteria })
    await both()
    await labs.take(labs.tue(2), 'Kefir/Tue lab')
    await must(mark(task, { points: 6 }))
    await must(mark(rows, { placements: { seen: 4, said: 3 } }))
    const file = async (name: string) =>
      (
        await fetch(`${harness.address}${labs.at}/marks/${name}`, {
          headers: { Cookie: school.owner.cookie },
        })
      ).text()
    const look = (csv: string) =>
      school.owner.post<MarksPreview & Problem>(`${labs.at}/marks/preview`, { csv })
    const take = (csv: string, fingerprint: string, skipFaults = false) =>
      school.owner.post<WorkView & Problem>(`${labs.at}/marks/import`, { csv, fingerprint, skipFaults })
    for (const name of ['students.csv', 'groups.csv'])
      expect((await look(await file(name))).body).toMatchObject({ changes: [], faults: [] })
    const email = (n: number) => studentEmail('Tue lab', n)
    const csv = `email,Essay\n${email(0)},8\n${email(1)},5\n${email(4)},3\nnobody@school.example,3`
    const seen = (await look(csv)).body
    expect(seen.changes).toMatchObject([
      { task: 'Essay', owner: 'Tempeh, Tue lab', member: 'Student 0 Tue lab', from: 6, to: 8, out: false },
      { member: 'Student 1 Tue lab', from: 6, to: 5 },
    ])
    expect(seen.faults.map(({ line, message }) => `${line} ${message}`)).toEqual([
      expect.stringMatching(/^4 This student has no group/),
      expect.stringMatching(/^5 No active student/),
    ])
    expect((await take(csv, seen.fingerprint)).body.code).toBe('marks-have-faults')
    await must(mark(task, { points: 7, version: 1 }))
    expect((await take(csv, seen.fingerprint, true)).body.code).toBe('marked-meanwhile')
    await must(take(csv, (await look(csv)).body.fingerprint, true))
    expect((await desk(task)).piles[0]).toMatchObject({ points: 7, apart: [{ points: 8 }, { points: 5 }] })
    const groups = 'topic,section,Essay,Walk\nTempeh,Tue lab,9,1'
    const other = (await look(groups)).body
    expect(other.changes).toMatchObject([{ member: null, from: 7, to: 9 }])
    expect(other.faults[0]).toMatchObject({
      line: 2,
      field: 'Walk',
      message: expect.stringMatching(/by criteria/),
    })
  })

  it('show who else is at the desk, and where, for as long as they are there', async () => {
    const task = await setTask({})
    await both()
    const ida = harness.as('ida@school.example')
    const csv = 'name,email,section,role\nIda Reed,ida@school.example,,instructor'
    await must(
      school.owner.post(`/api/courses/${school.course}/roster/import`, {
        csv,
        skipFaults: false,
        unlisted: 'leave',
      }),
    )
    const place = (client: Client) =>
      client.send<{ others: object[] } & Problem>('PUT', `${labs.at}/tasks/${task}/desk/place`, {
        owner: tempeh(),
      })
    expect((await place(ida)).body.others).toEqual([])
    expect((await place(school.owner)).body.others).toEqual([{ name: 'Ida Reed', owner: tempeh() }])
    harness.clock.advance(MINUTE)
    expect((await place(school.owner)).body.others).toEqual([])
    const tutor = await place(harness.as('tutor@school.example'))
    expect(tutor.body.errors?.[0]?.path).toBe('owner')
  })

  it('are given by tutors in the groups they look after, where the instructor lets them', async () => {
    const task = await setTask({})
    await both()
    const tutor = harness.as('tutor@school.example')
    await must(handIn(labs.tue(0), task))
    const read = () => must<DeskView>(tutor.get(`${labs.at}/tasks/${task}/desk`))
    // The work of groups that a tutor does not look after is as if it did not exist.
    expect((await read()).piles).toEqual([])
    expect((await must<WorkView>(tutor.get(`${labs.at}/work`))).tasks[0]?.work).toEqual([])
    expect((await mark(task, { points: 5 }, tutor)).body.errors?.[0]?.path).toBe('owner')
    const { course_id } = harness.stores.sheets.byCode(school.sheet)!
    const code = harness.stores.roster.everybody(course_id).find(({ role }) => role === 'tutor')!.code
    await must(school.owner.send('PUT', `${labs.at}/tutors`, { groups: [tempeh()], tutors: [code] }))
    expect((await read()).piles.map(({ owner }) => owner)).toEqual([tempeh()])
    expect((await mark(task, { points: 5 }, tutor)).body.code).toBe('not-allowed')
    await must(school.owner.patch(`/api/courses/${school.course}`, { tutorsMark: true }))
    await must(mark(task, { points: 5 }, tutor))
  })

  it('go out as CSV and workbook, for students and for groups', async () => {
    const task = await setTask({ points: 10 })
    await both()
    await must(handIn(labs.tue(0), task))
    await must(mark(task, { points: 8 }))
    const pile = (await desk(task)).piles.find(({ owner }) => owner === tempeh())!
    await must(mark(task, { apart: pile.people[1]!.code, points: 4.5 }))
    const file = async (name: string, who = school.owner) => {
      const answer = await fetch(`${harness.address}${labs.at}/marks/${name}`, {
        headers: { Cookie: who.cookie },
      })
      return { status: answer.status, text: Buffer.from(await answer.arrayBuffer()).toString() }
    }
    const students = await file('students.csv')
    expect(students.text).toMatch(/^name,email,section,group,Report \(of 10\)/)
    expect(students.text).toMatch(/Student 0 Tue lab,\S+,Tue lab,Tempeh,8/)
    expect(students.text).toMatch(/Student 1 Tue lab,\S+,Tue lab,Tempeh,4\.5/)
    expect((await file('groups.csv')).text).toMatch(/Tempeh,Tue lab,Student 0 Tue lab; Student 1 Tue lab,8/)
    expect((await file('groups.xlsx')).text.slice(0, 2)).toBe('PK')
    expect((await file('everybody.csv')).status).toBe(404)
    expect((await file('students.csv', labs.tue(0))).status).toBe(403)
  })

  it('show who has no hand-in because they have no group', async () => {
    await setTask({ title: 'Alone', forWhom: 'students', dueAt: '2026-05-07T12:00' })
    await both()
    harness.clock.set('2026-05-08T10:00:00.000Z')
    const view = await must<WorkView>(school.owner.get(`${labs.at}/work`))
    const states = view.tasks[0]!.work.map(({ state }) => state)
    expect(states.filter((state) => state === 'missing')).toHaveLength(2)
    expect(states.filter((state) => state === 'no-group')).toHaveLength(5)
    expect(view.noGroup).toHaveLength(5)
  })
})
