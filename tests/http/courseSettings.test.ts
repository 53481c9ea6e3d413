import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { CoursePageView, ZoneMoves } from '../../src/contract/coursePage.ts'
import type { CoursesView, CourseView } from '../../src/contract/courses.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { Restored } from '../../src/contract/restored.ts'
import type { RosterView } from '../../src/contract/roster.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { DAY, HOUR } from '../../src/core/instant.ts'
import { localTimeOf } from '../../src/core/zone.ts'
import { must } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
let course: string
beforeEach(async () => {
  labs = await startLabs()
  course = `/api/courses/${labs.school.course}`
})
afterEach(() => labs.harness.end())

const compose = () => must<ComposeView>(labs.school.owner.get(`${labs.at}/compose`))
const view = () => must<CourseView>(labs.school.owner.get(course))
const people = async () => (await must<RosterView>(labs.school.owner.get(`${course}/roster`))).people
const sectionCode = async (name: string) =>
  (await view()).sections.find((section) => section.name === name)!.code
const ownGroup = async (n: number) => {
  const seen = await labs.sheetOf(labs.tue(n))
  return seen.seats.map(({ group }) => seen.groups.find(({ code }) => code === group)?.title)
}
const remove = async (name: string, into: string | null, confirmed = true) =>
  labs.school.owner.post<CourseView | Problem>(`${course}/sections/${await sectionCode(name)}/remove`, {
    into: into === null ? null : await sectionCode(into),
    confirmed,
  })

describe('a section that is removed', () => {
  it('says first whom it concerns, and changes nothing until that is confirmed', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const before = await compose()
    const asked = await remove('Tue lab', null, false)
    expect(asked.status).toBe(409)
    expect(asked.body).toMatchObject({ code: 'seated-affected', affected: [{ section: null }] })
    expect((asked.body as Problem).detail).toMatch(/5 students have no section\. 1 person has no group/)
    expect(await compose()).toEqual(before)
    expect((await people()).filter(({ section }) => section === 'Tue lab')).toHaveLength(5)
  })

  it('into another takes its people there, and to the same topic as far as there is room', async () => {
    for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
    await labs.take(labs.tue(2), 'Kefir/Tue lab')
    for (const n of [0, 1]) await labs.take(labs.wed(n), 'Tempeh/Wed lab')
    const asked = await remove('Tue lab', 'Wed lab', false)
    expect((asked.body as Problem).detail).toMatch(/5 students come into Wed lab\. 2 seats go along/)
    expect((asked.body as Problem).affected).toHaveLength(1)
    await must(Promise.resolve(await remove('Tue lab', 'Wed lab')))
    expect((await view()).sections.map(({ name, students }) => [name, students])).toEqual([['Wed lab', 7]])
    const { topics } = await compose()
    expect(topics.map(({ groups }) => groups.map(({ taken }) => taken))).toEqual([[3], [1], [0]])
    expect(await ownGroup(2)).toEqual(['Kefir'])
  })

  it('is put back with its people and their seats, as far as they can return', async () => {
    for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
    await labs.take(labs.tue(2), 'Kefir/Tue lab')
    for (const n of [0, 1]) await labs.take(labs.wed(n), 'Tempeh/Wed lab')
    const before = await compose()
    const code = await sectionCode('Tue lab')
    await remove('Tue lab', 'Wed lab')
    await labs.move(labs.tue(2), 'Kefir/Wed lab', 'Miso/Wed lab')
    const { restored } = await must<CourseView & { restored: Restored }>(
      labs.school.owner.post(`${course}/sections/${code}/restore`, {}),
    )
    expect(restored.seated).toBe(1)
    const { topics, sections } = await compose()
    expect(sections.map(({ name, students }) => [name, students])).toEqual([
      ['Tue lab', 5],
      ['Wed lab', 2],
    ])
    // Whoever moved on meanwhile stays where they chose to be.
    expect(topics.map(({ groups }) => groups.map(({ taken }) => taken))).toEqual([
      [2, 2],
      [0, 0],
      [0, 1],
    ])
    expect(topics.map(({ groups }) => groups.map(({ code }) => code))).toEqual(
      before.topics.map(({ groups }) => groups.map(({ code }) => code)),
    )
    const again = await must<CourseView & { restored: Restored }>(
      labs.school.owner.post(`${course}/sections/${code}/restore`, {}),
    )
    expect(again.restored).toEqual({ seated: 0, out: [] })
  })

  it('as the last one leaves one group for everybody, and comes back as it was', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await remove('Wed lab', 'Tue lab')
    const tue = await sectionCode('Tue lab')
    await remove('Tue lab', null)
    const { topics } = await compose()
    expect(topics.map(({ groups }) => groups.map(({ section, taken }) => [section, taken]))).toEqual([
      [[null, 1]],
      [[null, 0]],
      [[null, 0]],
    ])
    await must(labs.school.owner.post(`${labs.at}/topics`, { title: 'Koji' }))
    await must(labs.school.owner.post(`${course}/sections/${tue}/restore`, {}))
    const after = await compose()
    expect(
      after.topics.map(({ title, groups }) => [title, groups.map(({ section, taken }) => [section, taken])]),
    ).toEqual([
      ['Tempeh', [[tue, 1]]],
      ['Kefir', [[tue, 0]]],
      ['Miso', [[tue, 0]]],
      ['Koji', [[null, 0]]],
    ])
  })

  it('is refused while a sheet is for it alone, unless another takes its place', async () => {
    await labs.rule({ forWhom: 'sections', sectionsFor: [await sectionCode('Tue lab')] })
    expect((await remove('Tue lab', null)).body).toMatchObject({ code: 'section-in-use' })
    await must(Promise.resolve(await remove('Tue lab', 'Wed lab')))
    expect((await compose()).whom).toMatchObject({ sections: [await sectionCode('Wed lab')] })
    const itself = await remove('Wed lab', 'Wed lab')
    expect((itself.body as Problem).errors?.[0]?.path).toBe('into')
  })

  it('leaves its name to another, and cannot come back beside it', async () => {
    const code = await sectionCode('Wed lab')
    await remove('Wed lab', 'Tue lab')
    await must(labs.school.owner.post(`${course}/sections`, { name: 'wed lab' }))
    const twin = await labs.school.owner.post<Problem>(`${course}/sections/${code}/restore`, {})
    expect(twin.body.code).toBe('section-names-repeat')
    expect((await view()).sections).toHaveLength(2)
  })

  it('stays in what was archived before', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await must(labs.school.owner.post(`${labs.at}/archive`, { archived: true }))
    await remove('Tue lab', 'Wed lab')
    const { sections, topics } = await compose()
    expect(sections.map(({ name }) => name)).toEqual(['Tue lab', 'Wed lab'])
    expect(topics[0]?.groups.map(({ taken }) => taken)).toEqual([1, 0])
  })
})

describe('another zone', () => {
  const to = encodeURIComponent('Asia/Tokyo')
  it('says which times would move, and keeps them on the clock or as moments, as is chosen', async () => {
    const before = await compose()
    const { moves } = await must<ZoneMoves>(labs.school.owner.get(`${course}/zones/${to}`))
    // It has opened already, and stays as it was.
    expect(moves).toMatchObject([{ what: 'It closes', at: before.closesAt }])
    await must(labs.school.owner.patch(course, { zone: 'Asia/Tokyo' }))
    expect((await compose()).closesAt).toBe(moves[0]?.moved)
    expect((await compose()).opensAt).toBe(before.opensAt)
    await must(labs.school.owner.patch(course, { zone: before.course.zone, zoneKeeps: 'clock' }))
    expect((await compose()).closesAt).toBe(before.closesAt)
    await must(labs.school.owner.patch(course, { zone: 'Asia/Tokyo', zoneKeeps: 'moment' }))
    expect(await compose()).toMatchObject({ closesAt: before.closesAt, course: { zone: 'Asia/Tokyo' } })
  })

  it('that would put a close before an opening that has been is refused, with nothing changed', async () => {
    const soon = new Date(Date.parse(labs.harness.clock.now()) + HOUR).toISOString()
    const { zone } = (await compose()).course
    await must(labs.school.owner.patch(labs.at, { closesAt: localTimeOf(soon, zone) }))
    const before = await compose()
    const refused = await labs.school.owner.patch<Problem>(course, { zone: 'Asia/Tokyo' })
    expect(refused.body.errors).toMatchObject([{ path: 'zone', message: expect.stringMatching(/closes/) }])
    expect(await compose()).toEqual(before)
    await must(labs.school.owner.patch(course, { zone: 'Asia/Tokyo', zoneKeeps: 'moment' }))
  })

  it('that nobody knows is refused', async () => {
    const refused = await labs.school.owner.patch<Problem>(course, { zone: 'Nowhere/Town' })
    expect(refused.body.errors?.[0]?.path).toBe('zone')
    expect((await labs.school.owner.get(`${course}/zones/Nowhere`)).status).toBe(404)
  })
})

describe('a course', () => {
  it('gets another code and title; a code that its instructor uses elsewhere is refused', async () => {
    const { owner } = labs.school
    await must(owner.post('/api/courses', { courseCode: 'NEW 1', title: 'New', zone: 'UTC', sections: [] }))
    await must(owner.patch(course, { courseCode: 'FERM 211', title: 'Second course' }))
    expect(await view()).toMatchObject({ courseCode: 'FERM 211', title: 'Second course' })
    const taken = await owner.patch<Problem>(course, { courseCode: 'new 1' })
    expect(taken.body).toMatchObject({ code: 'course-code-taken', errors: [{ path: 'courseCode' }] })
    await must(owner.patch(course, { courseCode: 'ferm 211' }))
    expect((await owner.patch<Problem>(course, { title: '  ' })).status).toBe(422)
  })

  it('put away can be read and not changed, and comes back with what went with it', async () => {
    const { owner } = labs.school
    await must(owner.post(`${course}/archive`, { archived: true }))
    expect((await compose()).state).toBe('archived')
    expect((await labs.take(labs.tue(0), 'Tempeh/Tue lab')).status).toBe(409)
    for (const path of ['sections', 'roster/people'])
      expect((await owner.post<Problem>(`${course}/${path}`, {})).body.code).toBe('course-archived')
    expect((await owner.patch<Problem>(course, { title: 'Other' })).body.code).toBe('course-archived')
    const alone = await owner.post<Problem>(`${labs.at}/archive`, { archived: false })
    expect(alone.body.code).toBe('course-archived')
    const { courses, waiting } = await must<CoursesView>(owner.get('/api/courses'))
    expect(courses[0]?.archivedAt).not.toBeNull()
    expect(waiting).toEqual([])
    await must(owner.post(`${course}/archive`, { archived: false }))
    expect((await compose()).state).toBe('open')
    expect((await labs.take(labs.tue(0), 'Tempeh/Tue lab')).status).toBe(200)
  })

  it('leaves a sheet put away that had been put away by itself', async () => {
    const { owner } = labs.school
    await must(owner.post(`${labs.at}/archive`, { archived: true }))
    labs.harness.clock.advance(60_000)
    for (const archived of [true, false]) await must(owner.post(`${course}/archive`, { archived }))
    expect((await compose()).state).toBe('archived')
  })

  it('deleted is there for nobody, until an instructor of it brings it back', async () => {
    const { owner } = labs.school
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await must(owner.post(`${course}/delete`, {}))
    for (const path of [course, `${course}/page`, `${labs.at}/compose`])
      expect((await owner.get(path)).status).toBe(404)
    expect((await labs.tue(0).get(`${labs.at}/student`)).status).toBe(404)
    expect((await must<{ sheets: unknown[] }>(labs.tue(0).get('/api/home'))).sheets).toEqual([])
    expect((await must<CoursesView>(owner.get('/api/courses'))).courses).toEqual([])
    const gone = `/api/courses-gone/${labs.school.course}/restore`
    for (const stranger of [labs.tue(0), labs.harness.as('tutor@school.example')])
      expect((await stranger.post(gone, {})).status).toBe(404)
    await must(owner.post(gone, {}))
    expect((await compose()).state).toBe('open')
    expect(await ownGroup(0)).toEqual(['Tempeh'])
    expect((await owner.post(gone, {})).status).toBe(404)
  })

  it('has a page with its sheets, what waits and the tasks that are due', async () => {
    const { owner } = labs.school
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    for (const title of ['Log book', 'Not out yet'])
      await must(owner.post(`${labs.at}/tasks`, { title, out: title === 'Log book' }))
    await labs.rule({ floor: 2 })
    labs.harness.clock.advance(3 * DAY)
    const page = await must<CoursePageView>(owner.get(`${course}/page`))
    expect(page.sheets).toHaveLength(1)
    expect(page.waiting.map(({ kind }) => kind)).toEqual(['under-floor'])
    expect(page.tasks).toMatchObject([{ title: 'Log book', awaited: 1, handedIn: 0, toMark: 0 }])
    // A tutor who looks after no group has no work awaited.
    const tutors = await must<CoursePageView>(labs.harness.as('tutor@school.example').get(`${course}/page`))
    expect(tutors.tasks).toEqual([])
    expect((await labs.tue(0).get(`${course}/page`)).status).toBe(403)
  })
})
