import { afterEach, beforeEach, expect, it } from 'vitest'
import type { PersonView } from '../../src/contract/people.ts'
import type { RosterView } from '../../src/contract/roster.ts'
import { must } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
beforeEach(async () => {
  labs = await startLabs()
})
afterEach(() => labs.harness.end())

const pageOf = async (name: string) => {
  const { owner, course } = labs.school
  const { people } = await must<RosterView>(owner.get(`/api/courses/${course}/roster`))
  const { code } = people.find((one) => one.name === name)!
  return { code, view: await must<PersonView>(owner.get(`/api/courses/${course}/people/${code}`)) }
}

it('tells of one student over all sheets: seats, work and marks, requests, visits and what was changed', async () => {
  const { owner, course } = labs.school
  const student = labs.tue(0)
  const { stores, clock } = labs.harness
  const known = stores.sheets.byCode(labs.school.sheet)!
  const id = stores.roster.students(known.course_id).find(({ name }) => name === 'Student 0 Tue lab')!.id
  stores.nudges.visit(known.id, id, clock.now())
  await labs.take(student, 'Tempeh/Tue lab')
  await labs.move(student, 'Tempeh/Tue lab', 'Kefir/Tue lab')
  const work = await must<{ tasks: { code: string }[] }>(
    owner.post(`${labs.at}/tasks`, { title: 'Report', out: true, points: 10 }),
  )
  const task = work.tasks[0]!.code
  const group = labs.school.groups['Kefir/Tue lab']!
  await must(
    student.post(`${labs.at}/tasks/${task}/hand-ins`, {
      group,
      text: 'Done',
      links: [],
      files: [],
      after: 0,
    }),
  )
  await must(owner.post(`/api/courses/${course}/sheets`, { title: 'Not yet out' }))
  const { view, code } = await pageOf('Student 0 Tue lab')
  expect(view).toMatchObject({ name: 'Student 0 Tue lab', section: 'Tue lab', status: 'active', lists: [] })
  const sheet = view.sheets.find(({ title }) => title === 'Culture benches')!
  expect(sheet.seats).toMatchObject([{ group, convener: true }])
  expect(sheet.groups[group]).toBe('Kefir, Tue lab')
  expect(sheet.visited).toEqual({ first: clock.now(), last: clock.now() })
  expect(sheet.tasks).toMatchObject([
    { title: 'Report', late: false, points: null, most: 10, released: false },
  ])
  expect(sheet.tasks[0]?.handedAt).not.toBeNull()
  expect(sheet.changes.map(({ kind }) => kind)).toEqual(['seat-taken', 'seat-moved', 'work-handed-in'])
  expect(view.sheets.map(({ title }) => title)).toContain('Not yet out')
  const path = `/api/courses/${course}/people/${code}`
  // What is others' work and marks is for instructors.
  for (const client of [student, labs.harness.as('tutor@school.example')])
    expect((await client.get(path)).status).toBe(403)
  expect((await owner.get(`/api/courses/${course}/people/nobody`)).status).toBe(404)
})

it('says on which lists somebody is, and which sheets are not for them', async () => {
  const { owner, course } = labs.school
  const { code } = await pageOf('Student 1 Tue lab')
  const { added } = await must<{ added: string }>(
    owner.post(`/api/courses/${course}/lists`, { title: 'Mondays', people: [code] }),
  )
  await labs.rule({ forWhom: 'list', list: added })
  const { view } = await pageOf('Student 1 Tue lab')
  expect([view.lists, view.sheets.map(({ meant }) => meant)]).toEqual([['Mondays'], [true]])
  expect((await pageOf('Student 0 Tue lab')).view.sheets.map(({ meant }) => meant)).toEqual([false])
})
