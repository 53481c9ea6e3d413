import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { CourseView } from '../../src/contract/courses.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { RosterPreview, RosterView } from '../../src/contract/roster.ts'
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
