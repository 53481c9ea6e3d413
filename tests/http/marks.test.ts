import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { DeskView, MarksPreview } from '../../src/contract/marks.ts'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { WorkView } from '../../src/contract/tasks.ts'
import { MINUTE } from '../../src/core/instant.ts'
import { type Answer, type Client, type Harness, must, type School, studentEmail } from './harness.ts'
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
const setTask = async (body: object): Promise<string> => {
  const view = await must<WorkView>(
    school.owner.post(`${labs.at}/tasks`, { title: 'Report', out: true, ...body }),
  )
  return view.tasks.at(-1)!.code
}
type Reply = Answer<OwnWork & Problem>
const handIn = (client: Client, task: string, more: object = {}): Promise<Reply> =>
  client.post(`${labs.at}/tasks/${task}/hand-ins`, { group: tempeh(), text: 'Our report', after: 0, ...more })
const mails = (n: number) =>
  harness.stores.mail.newest(100).filter(({ recipient }) => recipient === studentEmail('Tue lab', n))

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

  it('set apart but not whole stay hidden with the group’s from that member, who gets no mail, until they are whole', async () => {
    const task = await setTask({ criteria })
    await both()
    await must(handIn(labs.tue(0), task))
    await must(mark(task, { placements: { seen: 4, said: 3 } }))
    const pile = (await desk(task)).piles.find(({ owner }) => owner === tempeh())!
    const second = pile.people.find(({ name }) => name === 'Student 1 Tue lab')!.code
    await must(mark(task, { apart: second, placements: { seen: 2 } }))
    await must(release(task))
    expect((await own(labs.tue(0))).tasks[0]?.work?.mark).toMatchObject({ points: 7 })
    expect((await own(labs.tue(1))).tasks[0]?.work?.mark).toBeNull()
    const told = (n: number) => mails(n).filter(({ subject }) => subject.includes('is marked'))
    expect([told(0).length, told(1).length]).toEqual([1, 0])
    await must(mark(task, { apart: second, version: 1, placements: { seen: 2, said: 1 } }))
    expect((await own(labs.tue(1))).tasks[0]?.work?.mark).toMatchObject({ points: 3, apart: true })
    expect(told(1)).toHaveLength(1)
  })

  it('have criteria by ids that are no words of every object', async () => {
    const body = { title: 'Report', criteria: [{ ...criteria[0], id: 'constructor' }] }
    const refused = await school.owner.post<Problem>(`${labs.at}/tasks`, body)
    expect(refused.body.errors).toMatchObject([{ path: 'criteria[0].id' }])
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
      expect.stringMatching(/^5 Nobody active on the roster/),
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

  it('come in from a file with feedback: of the whole, of whoever is set apart, and what cannot be told is named', async () => {
    const task = await setTask({ title: 'Essay', points: 10 })
    await setTask({ title: 'Walk', criteria })
    await both()
    await must(mark(task, { points: 6, feedback: 'Fine' }))
    const file = async (name: string) => {
      const headers = { Cookie: school.owner.cookie }
      return (await fetch(`${harness.address}${labs.at}/marks/${name}`, { headers })).text()
    }
    const look = (csv: string) => must<MarksPreview>(school.owner.post(`${labs.at}/marks/preview`, { csv }))
    const take = async (csv: string) => {
      const { fingerprint } = await look(csv)
      await must(school.owner.post(`${labs.at}/marks/import`, { csv, fingerprint, skipFaults: true }))
    }
    const email = (n: number) => studentEmail('Tue lab', n)
    expect(await file('students.csv')).toContain(',Essay: feedback,Walk: feedback')
    for (const name of ['students.csv', 'groups.csv'])
      expect(await look(await file(name))).toMatchObject({ changes: [], feedback: [], faults: [] })
    const whole = `email,Essay: feedback\n${email(0)},Better\n${email(1)},Better`
    expect((await look(whole)).feedback).toEqual([
      { task: 'Essay', owner: 'Tempeh, Tue lab', member: null, to: 'Better', out: false },
    ])
    await take(whole)
    expect((await desk(task)).piles[0]).toMatchObject({ points: 6, mark: { feedback: 'Better' } })
    // One member alone cannot read another one, unless the same file sets their mark apart.
    const one = `email,Essay: feedback\n${email(0)},Better\n${email(1)},Yours`
    expect(await look(one)).toMatchObject({
      feedback: [],
      faults: [{ line: 3, field: 'Essay: feedback', message: expect.stringMatching(/read one feedback/) }],
    })
    await take(`email,Essay,Essay: feedback\n${email(1)},4,Yours`)
    const [pile] = (await desk(task)).piles
    expect(pile).toMatchObject({ points: 6, mark: { feedback: 'Better' } })
    expect(Object.values(pile!.setApart)).toMatchObject([{ points: 4, feedback: 'Yours' }])
    for (const name of ['students.csv', 'groups.csv'])
      expect(await look(await file(name))).toMatchObject({ changes: [], feedback: [], faults: [] })
    // A task that is marked by criteria takes feedback, though no points.
    await take('topic,section,Walk: feedback\nTempeh,Tue lab,Seen')
    expect(await file('groups.csv')).toContain('Seen')
  })

  it('by criteria come in from a file, as far as its cells are filled; a total has to agree', async () => {
    const task = await setTask({ title: 'Walk', criteria })
    await both()
    await must(handIn(labs.tue(0), task))
    await must(mark(task, { placements: { seen: 4 } }))
    const file = async (name: string) => {
      const headers = { Cookie: school.owner.cookie }
      return (await fetch(`${harness.address}${labs.at}/marks/${name}`, { headers })).text()
    }
    const look = (csv: string) => must<MarksPreview>(school.owner.post(`${labs.at}/marks/preview`, { csv }))
    const take = async (csv: string) => {
      const { fingerprint } = await look(csv)
      await must(school.owner.post(`${labs.at}/marks/import`, { csv, fingerprint, skipFaults: true }))
    }
    const nothing = { changes: [], feedback: [], faults: [] }
    const email = (n: number) => studentEmail('Tue lab', n)
    expect(await file('groups.csv')).toContain(
      'Walk (of 10),Walk: What was seen (of 5),Walk: Plain writing (of 5),Walk: feedback',
    )
    for (const name of ['students.csv', 'groups.csv'])
      expect(await look(await file(name))).toMatchObject(nothing)
    // The empty cell leaves what stands.
    const half = 'topic,section,Walk: What was seen,Walk: Plain writing\nTempeh,Tue lab,,2.5'
    expect((await look(half)).changes).toEqual([
      {
        task: 'Walk',
        owner: 'Tempeh, Tue lab',
        member: null,
        from: null,
        to: 6.5,
        placed: [{ title: 'Plain writing', from: null, to: 2.5 }],
        again: false,
        out: false,
      },
    ])
    await take(half)
    expect((await desk(task)).piles[0]).toMatchObject({
      points: 6.5,
      mark: { placements: { seen: 4, said: 2.5 } },
    })
    const total = (points: number) =>
      look(`topic,section,Walk,Walk: Plain writing\nTempeh,Tue lab,${points},3`)
    expect(await total(9)).toMatchObject({
      changes: [],
      faults: [{ line: 2, field: 'Walk', message: expect.stringMatching(/come to 7, and the total says 9/) }],
    })
    expect(await total(7)).toMatchObject({ changes: [{ from: 6.5, to: 7 }], faults: [] })
    // The total as it went out is only behind.
    expect(await total(6.5)).toMatchObject({ changes: [{ from: 6.5, to: 7 }], faults: [] })
    expect(await look('topic,section,Walk,Walk: Plain writing\nTempeh,Tue lab,7,2.5')).toMatchObject({
      changes: [],
      faults: [{ message: expect.stringMatching(/come to 6.5, and the total says 7/) }],
    })
    // Members who differ are set apart; where the mark is out, theirs is out with it once it is whole.
    await must(release(task))
    await take(`email,Walk: Plain writing\n${email(0)},2.5\n${email(1)},1`)
    const [pile] = (await desk(task)).piles
    expect(pile?.mark?.placements).toEqual({ seen: 4, said: 2.5 })
    expect(Object.values(pile!.setApart)).toMatchObject([
      { placements: { seen: 4, said: 1 }, releasedAt: expect.any(String) },
    ])
    for (const name of ['students.csv', 'groups.csv'])
      expect(await look(await file(name))).toMatchObject(nothing)
    // A row that is gone meanwhile stays with the mark, in case it comes back.
    const view = await must<WorkView>(school.owner.get(`${labs.at}/work`))
    const [only] = criteria
    await must(
      school.owner.patch(`${labs.at}/tasks/${task}`, {
        criteria: [only],
        was: { criteria: view.tasks[0]?.criteria },
        confirmed: true,
      }),
    )
    await take('topic,section,Walk: What was seen\nTempeh,Tue lab,5')
    const placed = harness.stores.marks.ofTask(1).find(({ apart_id }) => apart_id === null)?.placements
    expect(JSON.parse(placed ?? '{}')).toEqual({ said: 2.5, seen: 5 })
  })

  it('of somebody with two seats are those of the first group, so that a file changes nothing', async () => {
    await labs.rule({ seatsEach: 2 })
    const task = await setTask({ title: 'Essay', points: 10 })
    await both()
    await labs.take(labs.tue(0), 'Kefir/Tue lab')
    await must(mark(task, { points: 6, feedback: 'Fine' }))
    await must(mark(task, { owner: school.groups['Kefir/Tue lab'], points: 8, feedback: 'Better' }))
    const headers = { Cookie: school.owner.cookie }
    for (const name of ['students.csv', 'groups.csv']) {
      const csv = await (await fetch(`${harness.address}${labs.at}/marks/${name}`, { headers })).text()
      expect(await must(school.owner.post(`${labs.at}/marks/preview`, { csv }))).toMatchObject({
        changes: [],
        feedback: [],
        faults: [],
      })
    }
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
    expect(students.text).toMatch(/^\uFEFFname,email,student number,section,group,Report \(of 10\)/)
    expect(students.text).toMatch(/Student 0 Tue lab,\S+,,Tue lab,Tempeh,8/)
    expect(students.text).toMatch(/Student 1 Tue lab,\S+,,Tue lab,Tempeh,4\.5/)
    expect((await file('groups.csv')).text).toMatch(/Tempeh,Tue lab,Student 0 Tue lab; Student 1 Tue lab,8/)
    expect((await file('groups.xlsx')).text.slice(0, 2)).toBe('PK')
    expect((await file('everybody.csv')).status).toBe(404)
    expect((await file('students.csv', labs.tue(0))).status).toBe(403)
  })

  it('go out for the whole course in one file, a column for each task of each sheet', async () => {
    const task = await setTask({ points: 10 })
    await both()
    await must(handIn(labs.tue(0), task))
    await must(mark(task, { points: 8 }))
    const course = `/api/courses/${school.course}`
    const { code: talks } = await must<{ code: string }>(
      school.owner.post(`${course}/sheets`, { title: 'Talks, "short"' }),
    )
    await must(school.owner.post(`/api/sheets/${talks}/tasks`, { title: 'Slides', out: true, points: 5 }))
    const file = async (name: string, who = school.owner) => {
      const answer = await fetch(`${harness.address}${course}/marks/${name}`, {
        headers: { Cookie: who.cookie },
      })
      return { status: answer.status, text: Buffer.from(await answer.arrayBuffer()).toString() }
    }
    const { text } = await file('marks.csv')
    const [head, ...lines] = text.trim().split('\r\n')
    expect(head).toBe(
      'name,email,student number,section,Culture benches: Report (of 10),"Talks, ""short"": Slides (of 5)"',
    )
    expect(lines).toHaveLength(harness.stores.roster.students(1).length)
    expect(lines.find((line) => line.startsWith('Student 0 Tue lab,'))).toMatch(/,Tue lab,8,$/)
    expect((await file('marks.xlsx')).text.slice(0, 2)).toBe('PK')
    expect((await file('students.csv')).status).toBe(404)
    for (const who of [labs.tue(0), harness.as('tutor@school.example')])
      expect((await file('marks.csv', who)).status).toBe(403)
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
