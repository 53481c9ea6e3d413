import { describe, expect, it } from 'vitest'
import type { PlanContent } from '../../src/contract/plans.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import { claim, type Harness, must, type School, setUpSchool, studentEmail } from './harness.ts'
import type { Labs } from './labs.ts'
import { labsEach } from './planning.ts'

let labs: Labs
let harness: Harness
let school: School
const { emptyPlan, settle, runView, apply } = labsEach((started) => {
  labs = started
  harness = started.harness
  school = started.school
})

const compose = () => must<ComposeView>(school.owner.get(`${labs.at}/compose`))

describe('one group for all sections', () => {
  it('is a setting of the sheet, with exceptions of single topics; both are offered, planned, counted and copied', async () => {
    const kefir = await labs.topic('Kefir')
    await must(school.owner.patch(`${labs.at}/topics/${kefir.code}`, { mixed: false }))
    const view = await labs.rule({ mixed: true })
    expect(view.topics.map(({ title, groups }) => [title, groups.map(({ section }) => section)])).toEqual([
      ['Tempeh', [null]],
      ['Kefir', view.sections.map(({ code }) => code)],
      ['Miso', [null]],
    ])
    const tempeh = view.topics[0]!.groups[0]!.code
    // Whoever is of one section meets those of another there.
    for (const client of [labs.tue(0), labs.wed(0)]) {
      const answer = await client.post(`${labs.at}/claims`, {
        key: `mixed-${client.cookie.slice(-9)}`,
        kind: 'take',
        to: tempeh,
      })
      expect(answer.status).toBe(200)
    }
    const own = await labs.sheetOf(labs.wed(0))
    expect(own.groups.map(({ title }) => title).sort()).toEqual(['Kefir', 'Miso', 'Tempeh'])
    const stub = await must<{ courses: { sheets: { short: number }[] }[] }>(school.owner.get('/api/courses'))
    expect(stub.courses[0]?.sheets[0]?.short).toBe(0)
    // A plan sees which groups are for whom, and applies without a doubt.
    const { basis } = await settle()
    const plan = makePlan({
      ...basis,
      method: 'lot',
      lotNumber: 3,
      floorsFirst: true,
      mayDissolve: false,
      release: 'none',
      pins: [],
    })
    expect(plan.left).toEqual([])
    const { moves, left, conflicts, dissolved, before, after, gap, evenChances } = plan
    const settings = {
      method: 'lot',
      lotNumber: 3,
      floorsFirst: true,
      mayDissolve: false,
      release: 'none',
      made: null,
    }
    await must(
      apply({ settings, moves, left, conflicts, dissolved, before, after, gap, evenChances } as PlanContent),
    )
    const copied = await must<ComposeView>(
      school.owner.post(`${labs.at}/copy`, { course: school.course, title: 'Again', opensAt: null }),
    )
    expect(copied.mixed).toBe(true)
    expect(copied.topics.map(({ mixed, groups }) => [mixed, groups.length])).toEqual([
      [null, 1],
      [false, 2],
      [null, 1],
    ])
  })

  it('is asked about where people sit in groups that go away, says who, and brings them back when it is undone', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const asked = await school.owner.patch<Problem>(labs.at, { mixed: true })
    expect(asked.body).toMatchObject({
      code: 'seated-affected',
      affected: [{ name: 'Student 0 Tue lab', section: 'Tue lab' }],
    })
    expect((await compose()).mixed).toBe(false)
    await labs.rule({ mixed: true })
    expect((await labs.sheetOf(labs.tue(0))).seats).toEqual([])
    const before = (await compose()).topics.map(({ groups }) => groups.map(({ code }) => code))
    await labs.rule({ mixed: false, bringBack: true })
    expect((await labs.sheetOf(labs.tue(0))).seats.map(({ group }) => group)).toEqual([
      school.groups['Tempeh/Tue lab'],
    ])
    await labs.rule({ mixed: true })
    expect((await compose()).topics.map(({ groups }) => groups.map(({ code }) => code))).toEqual(before)
  })

  it('is what a plan makes where sections are mixed, in the browser as in the server', async () => {
    await labs.rule({ offers: 'course' })
    const { basis } = await settle()
    const moves = basis.people.map(({ key }, i) => ({
      person: key,
      from: null,
      to: `made ${i % 2}`,
      reason: { code: 'even' as const },
    }))
    const content = await emptyPlan({ titles: ['Group 1', 'Group 2'], mixed: true, seats: 4 })
    await must(apply({ ...content, moves }))
    const view = await runView()
    const made = view.topics.filter(({ title }) => title.startsWith('Group'))
    expect(made).toHaveLength(2)
    for (const { code } of made)
      expect(view.groups.filter(({ topic }) => topic === code).map(({ section }) => section)).toEqual([null])
    expect(view.seats).toHaveLength(7)
  })
})

describe('a group that is added later', () => {
  it('has the subjects that were opened in all groups, with their first post, and none that only some have', async () => {
    await must(school.owner.send('PUT', `${labs.at}/extras`, { talk: true }))
    const { topics } = await compose()
    await must(
      school.owner.post(`${labs.at}/talk`, { title: 'Begin here', text: 'Who are you?', groups: null }),
    )
    const some = [topics[0]!.groups[0]!.code]
    await must(school.owner.post(`${labs.at}/talk`, { title: 'For one', text: 'Only you.', groups: some }))
    const view = await must<ComposeView>(school.owner.post(`${labs.at}/topics`, { title: 'Natto' }))
    for (const { code } of view.topics.at(-1)!.groups) {
      const page = await must<{ talk: { title: string; shared: boolean }[] }>(
        school.owner.get(`${labs.at}/groups/${code}`),
      )
      expect(page.talk.map(({ title, shared }) => [title, shared])).toEqual([['Begin here', true]])
    }
  })
})

describe('a group that is added in one section', () => {
  it('is offered there alone, with its own limit', async () => {
    const [tue, wed] = (await compose()).sections
    const view = await must<ComposeView>(
      school.owner.post(`${labs.at}/topics`, { title: 'Natto', seats: 7, only: wed!.code }),
    )
    const natto = view.topics.at(-1)!
    expect(natto.seats).toBe(7)
    expect(natto.groups.map(({ section, state }) => [section, state])).toEqual([
      [tue!.code, 'not-offered'],
      [wed!.code, 'offered'],
    ])
    expect((await labs.sheetOf(labs.tue(0))).groups.map(({ title }) => title)).not.toContain('Natto')
    expect((await labs.sheetOf(labs.wed(0))).groups.map(({ title }) => title)).toContain('Natto')
    const nowhere = await school.owner.post<Problem>(`${labs.at}/topics`, { title: 'Koji', only: 'none' })
    expect(nowhere.body.errors?.[0]?.path).toBe('only')
    expect((await compose()).topics).toHaveLength(4)
  })

  it('has a group of its section on a sheet of mixed groups too', async () => {
    await labs.rule({ mixed: true })
    const [tue] = (await compose()).sections
    const view = await must<ComposeView>(
      school.owner.post(`${labs.at}/topics`, { title: 'Natto', only: tue!.code }),
    )
    expect(view.topics.at(-1)).toMatchObject({ mixed: false, groups: [{ state: 'offered' }, {}] })
  })
})

describe('a further section', () => {
  const at = () => `/api/courses/${school.course}/sections`
  it('gets a group of each topic that has one in each section, and none of those that are mixed', async () => {
    const kefir = await labs.topic('Kefir')
    await must(school.owner.patch(`${labs.at}/topics/${kefir.code}`, { mixed: true }))
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await must(school.owner.post(at(), { name: 'Fri lab' }))
    const view = await compose()
    expect(view.sections.map(({ name }) => name)).toEqual(['Tue lab', 'Wed lab', 'Fri lab'])
    expect(view.topics.map(({ title, groups }) => [title, groups.length])).toEqual([
      ['Tempeh', 3],
      ['Kefir', 1],
      ['Miso', 3],
    ])
    expect((await labs.sheetOf(labs.tue(0))).seats).toHaveLength(1)
    const twin = await school.owner.post<Problem>(at(), { name: 'fri LAB' })
    expect(twin.body.errors?.[0]?.path).toBe('name')
    const fri = view.sections.find(({ name }) => name === 'Fri lab')!
    await must(school.owner.patch(`${at()}/${fri.code}`, { name: 'Sat lab' }))
    expect((await compose()).sections.at(-1)?.name).toBe('Sat lab')
    expect((await school.owner.patch<Problem>(`${at()}/${fri.code}`, { name: 'Tue lab' })).status).toBe(422)
  })

  it('has in its groups the subjects that all groups have', async () => {
    await must(school.owner.send('PUT', `${labs.at}/extras`, { talk: true }))
    await must(
      school.owner.post(`${labs.at}/talk`, { title: 'Begin here', text: 'Who are you?', groups: null }),
    )
    await must(school.owner.post(at(), { name: 'Fri lab' }))
    const view = await compose()
    const fri = view.sections.find(({ name }) => name === 'Fri lab')!.code
    const group = view.topics[0]!.groups.find(({ section }) => section === fri)!.code
    const page = await must<{ talk: { title: string }[] }>(school.owner.get(`${labs.at}/groups/${group}`))
    expect(page.talk.map(({ title }) => title)).toEqual(['Begin here'])
  })

  it('in a course that had none leaves the groups that there are for everybody, with those who sit there', async () => {
    const plain = await setUpSchool(harness, { students: { '': 2 }, topics: ['Miso'] })
    const student = harness.as(studentEmail('', 0))
    await claim(student, plain.sheet, { kind: 'take', to: plain.groups.Miso })
    await must(school.owner.post(`/api/courses/${plain.course}/sections`, { name: 'Tue lab' }))
    const view = await must<ComposeView>(school.owner.get(`/api/sheets/${plain.sheet}/compose`))
    expect(view).toMatchObject({ mixed: true, topics: [{ groups: [{ section: null, taken: 1 }] }] })
  })

  it('that a roster file names is offered to be added', async () => {
    const csv = 'name,email,section\nNew One,new@school.example,Fri lab\nNew Two,two@school.example,fri lab'
    const looked = await must<{ sections: string[] }>(
      school.owner.post(`/api/courses/${school.course}/roster/preview`, { csv }),
    )
    expect(looked.sections).toEqual(['Fri lab'])
  })
})
