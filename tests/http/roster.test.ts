import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { CourseView } from '../../src/contract/courses.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { RosterPreview, RosterView } from '../../src/contract/roster.ts'
import { writeRosterCsv } from '../../src/core/formats/rosterCsv.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { claim, type Harness, must, type School, setUpSchool, startHarness, studentEmail } from './harness.ts'

let harness: Harness
let school: School
beforeEach(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, {
    sections: ['Tue lab', 'Wed lab'],
    students: { 'Tue lab': 2, 'Wed lab': 1 },
    topics: ['Tempeh'],
  })
})
afterEach(() => harness.end())

const preview = (csv: string) =>
  school.owner.post<RosterPreview & Problem>(`/api/courses/${school.course}/roster/preview`, { csv })
const bring = (csv: string, skipFaults = false) =>
  school.owner.post<{ added: number } & Problem>(`/api/courses/${school.course}/roster/import`, {
    csv,
    skipFaults,
  })
const people = async () =>
  (await must<RosterView>(school.owner.get(`/api/courses/${school.course}/roster`))).people
const HEAD = 'name,email,section\n'

describe('what is said of somebody besides', () => {
  const at = () => `/api/courses/${school.course}/roster`
  const person = async (n = 0) => (await people()).find(({ email }) => email === studentEmail('Tue lab', n))!
  const change = async (attributes: { name: string; value: string }[]) =>
    school.owner.patch<RosterView & Problem>(`${at()}/people/${(await person()).code}`, { attributes })

  it('is kept by hand, taken away by nothing, and comes back by the undo', async () => {
    await must(Promise.resolve(await change([{ name: ' Level ', value: 'new' }])))
    await must(Promise.resolve(await change([{ name: 'Language', value: 'Danish' }])))
    expect((await person()).attributes).toEqual({ Level: 'new', Language: 'Danish' })
    await must(Promise.resolve(await change([{ name: 'Level', value: ' ' }])))
    expect((await person()).attributes).toEqual({ Language: 'Danish' })
    await must(school.owner.post(`${at()}/undo`, {}))
    expect((await person()).attributes).toEqual({ Level: 'new', Language: 'Danish' })
    await must(
      school.owner.post(`${at()}/people`, {
        name: 'New One',
        email: 'new@school.example',
        section: null,
        role: 'tutor',
        attributes: [{ name: 'Level', value: 'old' }],
      }),
    )
    const added = (await people()).find(({ email }) => email === 'new@school.example')
    expect(added?.attributes).toEqual({ Level: 'old' })
  })

  it('has a name, and there is not too much of it', async () => {
    const six = Array.from({ length: 6 }, (_, i) => ({ name: `a${i}`, value: 'x' }))
    await must(Promise.resolve(await change(six)))
    expect((await change([{ name: 'b', value: 'x' }])).body.errors?.[0]?.path).toBe('attributes')
    expect((await change([{ name: ' ', value: 'x' }])).body.errors?.[0]?.path).toBe('attributes[0].name')
    expect((await change([...six, ...six])).status).toBe(422)
    expect(Object.keys((await person()).attributes)).toHaveLength(6)
  })
})

describe('a roster file', () => {
  it('shows what it would change, and changes nothing before it is brought in', async () => {
    const student = harness.as(studentEmail('Tue lab', 0))
    await claim(student, school.sheet, { kind: 'take', to: school.groups['Tempeh/Tue lab'] })
    const before = await people()
    const csv = `${HEAD}Student 0 Tue lab,${studentEmail('Tue lab', 0)},Wed lab\nNew One,new@school.example,Tue lab\nWrong,wrong,Tue lab`
    const { body } = await preview(csv)
    expect(body.fresh).toMatchObject([{ line: 3, email: 'new@school.example', role: 'student' }])
    expect(body.changed).toMatchObject([
      {
        line: 2,
        changes: [{ field: 'section', from: 'Tue lab', to: 'Wed lab' }],
        keepsSeats: ['Tempeh (Culture benches)'],
      },
    ])
    expect(body.faults).toMatchObject([{ line: 4, field: 'email' }])
    expect(body.missing.map(({ email }) => email)).toEqual([
      studentEmail('Tue lab', 1),
      studentEmail('Wed lab', 0),
    ])
    expect(await people()).toEqual(before)
  })

  it('keeps further columns as attributes where that is wanted; staff see them, students never, and an undo takes them back', async () => {
    const at = `/api/courses/${school.course}/roster`
    const csv = `name,email,section,Level\nStudent 0 Tue lab,${studentEmail('Tue lab', 0)},Tue lab,secret-level\nStudent 1 Tue lab,${studentEmail('Tue lab', 1)},Tue lab,other`
    const plain = await preview(csv)
    expect(plain.body).toMatchObject({ spare: ['Level'], attributes: 0, changed: [] })
    const looked = await school.owner.post<RosterPreview>(`${at}/preview`, { csv, keep: ['Level'] })
    expect(looked.body.attributes).toBe(2)
    await must(school.owner.post(`${at}/import`, { csv, skipFaults: false, keep: ['Level'] }))
    expect((await people()).map(({ attributes }) => attributes)).toContainEqual({ Level: 'secret-level' })
    const settle = await must<{ attributes: { name: string; of: Record<string, string> }[] }>(
      school.owner.get(`/api/sheets/${school.sheet}/settle`),
    )
    expect(settle.attributes.map(({ name, of }) => [name, Object.values(of).sort()])).toEqual([
      ['Level', ['other', 'secret-level']],
    ])
    const student = harness.as(studentEmail('Tue lab', 0))
    for (const path of ['/api/home', '/api/me', `/api/sheets/${school.sheet}/student`])
      expect(JSON.stringify((await student.get(path)).body)).not.toContain('secret-level')
    expect((await student.get(at)).status).toBe(403)
    await must(school.owner.post(`${at}/undo`))
    expect((await people()).every(({ attributes }) => Object.keys(attributes).length === 0)).toBe(true)
    const many = await school.owner.post<Problem>(`${at}/preview`, {
      csv,
      keep: ['a', 'b', 'c', 'd', 'e', 'f', 'g'],
    })
    expect(many.status).toBe(422)
  })

  it('with faults is brought in only without them, and then says how many were left out', async () => {
    const csv = `${HEAD}New One,new@school.example,Tue lab\nWrong,wrong,Tue lab`
    const refused = await bring(csv)
    expect(refused.body).toMatchObject({ code: 'roster-has-faults', errors: [{ path: 'csv line 3' }] })
    expect(await people()).toHaveLength(5)
    expect((await bring(csv, true)).body).toEqual({ added: 1, changed: 0, unlisted: 0, skipped: 1 })
    expect((await people()).map(({ email }) => email)).toContain('new@school.example')
  })

  it('brought in twice changes nothing the second time', async () => {
    const csv = `${HEAD}New One,new@school.example,Tue lab`
    await must(bring(csv))
    expect((await bring(csv)).body).toEqual({ added: 0, changed: 0, unlisted: 0, skipped: 0 })
  })

  it('of 5,000 lines is taken', async () => {
    const lines = Array.from({ length: 5_000 }, (_, i) => `Person ${i},p${i}@school.example,Wed lab`)
    expect((await bring(HEAD + lines.join('\n'))).body).toMatchObject({ added: 5_000 })
  })

  it('cannot leave the course without an instructor', async () => {
    const answer = await bring('name,email,section,role\nOwner,owner@school.example,Tue lab,student')
    expect(answer.body.code).toBe('roster-without-instructor')
    expect((await people()).find(({ email }) => email === 'owner@school.example')?.role).toBe('instructor')
  })

  it.each([
    ['', /nothing in it/],
    ['name,email\nA,a@b.example', /“section”/],
    ['x'.repeat(1_000_001), /longer than/],
  ])('that cannot be read is refused beside its field', async (csv, message) => {
    const { status, body } = await preview(csv)
    expect(status).toBe(422)
    expect(body.errors?.[0]).toMatchObject({ path: 'csv', message: expect.stringMatching(message) })
  })

  it('of a size beyond reason is refused before it is read', async () => {
    const answer = await preview('x'.repeat(5_000_000))
    expect(answer.body).toMatchObject({ status: 413, code: 'body-too-large' })
  })
})

describe('a course', () => {
  const add = (body: object) => school.owner.post<CourseView & Problem>('/api/courses', body)
  const course = {
    courseCode: 'SENS 105',
    title: 'Sensory Methods',
    zone: 'Europe/Lisbon',
    sections: [] as string[],
  }

  it('is added with its sections, and has its instructor', async () => {
    const { body } = await add({ ...course, sections: ['Mon lab', 'Fri lab'] })
    expect(body).toMatchObject({ courseCode: 'SENS 105', role: 'instructor', students: 0 })
    expect(body.sections.map(({ name }) => name)).toEqual(['Mon lab', 'Fri lab'])
  })

  it.each([
    [{ courseCode: '' }, 'courseCode'],
    [{ title: 'x'.repeat(200) }, 'title'],
    [{ zone: 'Atlantis/Capital' }, 'zone'],
    [{ sections: ['Tue lab', 'tue LAB'] }, 'sections[1]'],
    [{ sections: ['Tue lab', ''] }, 'sections[1]'],
    [{ sections: 'Tue lab' }, 'sections'],
  ])('is refused with %j, beside the field', async (wrong, path) => {
    const { status, body } = await add({ ...course, ...wrong })
    expect(status).toBe(422)
    expect(body.errors?.[0]?.path).toBe(path)
  })

  it('is not added twice under one code', async () => {
    await must(add(course))
    expect((await add({ ...course, courseCode: 'sens 105' })).body.code).toBe('course-code-taken')
  })
})

describe('people by hand', () => {
  const roster = () => `/api/courses/${school.course}/roster`
  const codeOf = async (email: string) => (await people()).find((person) => person.email === email)!.code
  const view = () => must<RosterView>(school.owner.get(roster()))
  const seated = async (n: number) => {
    const student = harness.as(studentEmail('Tue lab', n))
    await claim(student, school.sheet, { kind: 'take', to: school.groups['Tempeh/Tue lab'] })
    return student
  }
  const seatsKept = () => harness.stores.seats.ofSheet(harness.stores.sheets.byCode(school.sheet)!.id)

  it('are added, changed and put into another section, several at once', async () => {
    const sections = (await must<CourseView>(school.owner.get(`/api/courses/${school.course}`))).sections
    const person = {
      name: 'New One',
      email: 'New@school.example',
      section: sections[0]!.code,
      role: 'student',
    }
    await must(school.owner.post(`${roster()}/people`, person))
    expect((await school.owner.post<Problem>(`${roster()}/people`, person)).body.errors?.[0]?.path).toBe(
      'email',
    )
    const both = [await codeOf('new@school.example'), await codeOf(studentEmail('Tue lab', 0))]
    await must(school.owner.send('PATCH', `${roster()}/people`, { people: both, section: sections[1]!.code }))
    expect((await people()).filter(({ section }) => section === 'Wed lab')).toHaveLength(3)
    const [code] = both
    await must(
      school.owner.patch(`${roster()}/people/${code}`, { name: 'Newer One', email: 'newer@school.example' }),
    )
    expect((await people()).find((one) => one.code === code)).toMatchObject({
      name: 'Newer One',
      email: 'newer@school.example',
    })
    const taken = await school.owner.patch<Problem>(`${roster()}/people/${code}`, {
      email: studentEmail('Tue lab', 1),
    })
    expect(taken.body.errors?.[0]?.path).toBe('email')
    const student = await school.owner.post<Problem>(`${roster()}/people`, {
      ...person,
      email: 'b@school.example',
      section: null,
    })
    expect(student.body.errors?.[0]?.path).toBe('section')
  })

  it('who are paused count nowhere, and free or keep their seat as the instructor says', async () => {
    await seated(0)
    await seated(1)
    const [kept, freed] = [await codeOf(studentEmail('Tue lab', 0)), await codeOf(studentEmail('Tue lab', 1))]
    await must(school.owner.patch(`${roster()}/people/${kept}`, { status: 'paused', freeSeats: false }))
    await must(school.owner.patch(`${roster()}/people/${freed}`, { status: 'left', freeSeats: true }))
    expect(seatsKept()).toHaveLength(1)
    const run = await must<{ people: unknown[]; away: { name: string }[]; seats: unknown[] }>(
      school.owner.get(`/api/sheets/${school.sheet}/run`),
    )
    expect(run.people).toHaveLength(1)
    expect(run.away).toMatchObject([{ name: 'Student 0 Tue lab' }])
    expect(run.seats).toHaveLength(1)
    const paused = await claim(harness.as(studentEmail('Tue lab', 0)), school.sheet, {
      kind: 'give-up',
      from: school.groups['Tempeh/Tue lab'],
    })
    expect((paused.body as Problem).code).toBe('enrolment-not-active')
    expect(
      (await harness.as(studentEmail('Tue lab', 1)).get(`/api/sheets/${school.sheet}/student`)).status,
    ).toBe(404)
  })

  it('come back as they were with one undo, seats included', async () => {
    await seated(0)
    const before = await people()
    const csv = 'name,email,section\nNew One,new@school.example,Wed lab'
    const done = await must<{ unlisted: number }>(
      school.owner.post(`${roster()}/import`, { csv, skipFaults: false, unlisted: 'left', freeSeats: true }),
    )
    expect(done.unlisted).toBe(3)
    expect(seatsKept()).toEqual([])
    expect((await view()).undo?.what).toMatch(/1 new.*3 not listed/)
    await must(school.owner.post(`${roster()}/undo`))
    expect((await people()).filter(({ email }) => email !== 'new@school.example')).toEqual(before)
    expect((await people()).find(({ email }) => email === 'new@school.example')?.status).toBe('left')
    expect(seatsKept()).toHaveLength(1)
    const sheet = harness.stores.sheets.byCode(school.sheet)!
    expect(seatsByLedger(harness.stores.ledger.since(sheet.id, 0))).toEqual(seatsAsKept(seatsKept()))
    expect((await view()).undo).toBeNull()
    expect((await school.owner.post(`${roster()}/undo`)).status).toBe(404)
  })

  it('are undone by the step that was seen, which names its author; where another came after it, it says which', async () => {
    await must(
      school.owner.patch(`${roster()}/people/${await codeOf(studentEmail('Tue lab', 0))}`, {
        role: 'instructor',
      }),
    )
    const other = harness.as(studentEmail('Tue lab', 0))
    await must(
      school.owner.patch(`${roster()}/people/${await codeOf(studentEmail('Tue lab', 1))}`, { name: 'One' }),
    )
    const mine = (await view()).undo!
    expect(mine).toMatchObject({ by: 'owner@school.example', what: 'One was changed' })
    await must(other.patch(`${roster()}/people/${await codeOf(studentEmail('Wed lab', 0))}`, { name: 'Two' }))
    const late = await school.owner.post<Problem>(`${roster()}/undo`, { step: mine.step })
    expect(late).toMatchObject({ status: 409, body: { code: 'changed-meanwhile' } })
    expect(late.body.detail).toMatch(/by Student 0 Tue lab: Two was changed\./)
    expect((await people()).map(({ name }) => name)).toEqual(expect.arrayContaining(['One', 'Two']))
    const theirs = (await view()).undo!
    await must(school.owner.post(`${roster()}/undo`, { step: theirs.step }))
    expect((await people()).map(({ name }) => name)).not.toContain('Two')
    // Undone once, it is not there a second time.
    expect((await school.owner.post(`${roster()}/undo`, { step: theirs.step })).status).toBe(404)
  })

  it('do not lock out the only instructor by a mistyped address', async () => {
    const owner = await codeOf('owner@school.example')
    const move = (email: string) => school.owner.patch<Problem>(`${roster()}/people/${owner}`, { email })
    const refused = await move('ovner@school.example')
    expect(refused).toMatchObject({ status: 422, body: { errors: [{ path: 'email' }] } })
    expect(refused.body.errors?.[0]?.message).toMatch(/the only instructor/)
    // The same address, however it is written, is no other one; with a second instructor it can be another.
    await must(move('Owner@school.example'))
    await must(
      school.owner.patch(`${roster()}/people/${await codeOf(studentEmail('Tue lab', 0))}`, {
        role: 'instructor',
      }),
    )
    await must(
      harness
        .as(studentEmail('Tue lab', 0))
        .patch(`${roster()}/people/${owner}`, { email: 'new@school.example' }),
    )
  })

  it('undone, take out again who had come back, with the seat that was had since, and nobody else’s', async () => {
    const all = await people()
    const [first, second] = [0, 1].map((n) => all.find(({ email }) => email === studentEmail('Tue lab', n)))
    const set = (code: string, status: string) =>
      must(school.owner.patch(`${roster()}/people/${code}`, { status }))
    await seated(0)
    harness.clock.advance(1_000)
    await set(first!.code, 'paused')
    await set(first!.code, 'active')
    await must(school.owner.post(`${roster()}/undo`))
    // The seat was there before, so it stays, as it did when they were paused.
    expect(seatsKept()).toHaveLength(1)
    await set(second!.code, 'left')
    harness.clock.advance(1_000)
    await set(second!.code, 'active')
    harness.clock.advance(1_000)
    await seated(1)
    expect(seatsKept()).toHaveLength(2)
    await must(school.owner.post(`${roster()}/undo`))
    expect((await people()).find(({ code }) => code === second!.code)?.status).toBe('left')
    expect(seatsKept()).toHaveLength(1)
    const sheet = harness.stores.sheets.byCode(school.sheet)!
    expect(seatsByLedger(harness.stores.ledger.since(sheet.id, 0))).toEqual(seatsAsKept(seatsKept()))
  })

  it('can be brought in by columns that somebody pointed out', async () => {
    const csv = 'Wer;Wohin;Wann\nNew One;new@school.example;Tue lab'
    // Without an address below them, words that are not known say nothing.
    const unread = await preview('Wer;Wohin;Wann\nNew One;nowhere;Tue lab')
    expect(
      unread.body.errors?.filter(({ path }) => path.startsWith('header')).map(({ message }) => message),
    ).toEqual(['Wer', 'Wohin', 'Wann'])
    const told = await preview(csv)
    expect(told.body).toMatchObject({ headed: true, header: ['Wer', 'Wohin', 'Wann'], columns: { name: 0 } })
    const columns = { name: 0, email: 1, section: 2 }
    for (const headings of ['first', 'none'] as const) {
      const read = await school.owner.post<RosterPreview>(`${roster()}/preview`, { csv, columns, headings })
      expect(read.body.fresh).toMatchObject([{ name: 'New One', section: 'Tue lab' }])
      expect(read.body.faults.map(({ line }) => line)).toEqual(headings === 'first' ? [] : [1, 1])
    }
  })

  it('saved as CSV come in again unchanged', async () => {
    const csv = writeRosterCsv(await people())
    expect((await preview(csv)).body).toMatchObject({ fresh: [], changed: [], faults: [], missing: [] })
  })
})
