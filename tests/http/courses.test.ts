import { afterEach, beforeEach, expect, it } from 'vitest'
import type { CoursesView } from '../../src/contract/courses.ts'
import { DAY } from '../../src/core/instant.ts'
import { claim, type Harness, must, setUpSchool, startHarness, studentEmail } from './harness.ts'

let harness: Harness
beforeEach(async () => {
  harness = await startHarness()
})
afterEach(() => harness.end())

const view = (email = 'owner@school.example') => must<CoursesView>(harness.as(email).get('/api/courses'))

it('shows each sheet with the figures that matter, and what waits for its instructor', async () => {
  const school = await setUpSchool(harness, {
    sections: ['Tue lab', 'Wed lab'],
    students: { 'Tue lab': 5, 'Wed lab': 2 },
    topics: ['Tempeh'],
    seats: 3,
  })
  await claim(harness.as(studentEmail('Tue lab', 0)), school.sheet, {
    kind: 'take',
    to: school.groups['Tempeh/Tue lab'],
  })
  const open = await view()
  const [stub] = open.courses[0]!.sheets
  // Five students on three seats, two on three: two short on Tuesday, one to spare on Wednesday, which helps nobody.
  expect(stub).toMatchObject({
    state: 'open',
    topics: 1,
    noGroup: 6,
    short: 2,
    spare: 1,
    groups: [{ taken: 1 }, { taken: 0 }],
  })
  // The group in which nobody sits is empty, not too small.
  expect(open.waiting.map(({ kind }) => kind)).toEqual(['seats-short'])
  await must(harness.as('owner@school.example').patch(`/api/sheets/${school.sheet}`, { floor: 2 }))
  // Just opened, a group that fills up is not scolded for being small.
  expect((await view()).waiting.map(({ kind }) => kind)).toEqual(['seats-short'])
  harness.clock.advance(3 * DAY)
  expect((await view()).waiting).toMatchObject([
    { kind: 'seats-short', count: 2, sections: ['Tue lab'] },
    { kind: 'under-floor', count: 1, sections: ['Tue lab'] },
  ])
  harness.clock.set('2026-05-14T00:00:00.000Z')
  expect((await view()).waiting).toMatchObject([{ kind: 'no-group', count: 6 }, { kind: 'under-floor' }])
})

it('says what a new course needs next, and shows nobody else’s', async () => {
  const owner = harness.as('owner@school.example')
  await must(owner.post('/api/courses', { courseCode: 'NEW 1', title: 'New', zone: 'UTC', sections: [] }))
  expect((await view()).waiting).toMatchObject([{ kind: 'no-roster' }])
  await setUpSchool(harness, { students: { '': 1 }, topics: [], publish: false })
  expect((await view('tutor@school.example')).courses).toHaveLength(1)
  expect((await view(studentEmail('', 0))).courses).toEqual([])
})

it('says of a group that somebody left what can be done about it, to instructors alone', async () => {
  const school = await setUpSchool(harness, {
    students: { '': 6 },
    topics: ['Tempeh', 'Kefir'],
    seats: 4,
  })
  await must(school.owner.patch(`/api/sheets/${school.sheet}`, { floor: 2 }))
  for (const [n, topic] of ['Tempeh', 'Tempeh', 'Kefir', 'Kefir', 'Kefir'].entries())
    await claim(harness.as(studentEmail('', n)), school.sheet, { kind: 'take', to: school.groups[topic] })
  const course = harness.stores.courses.byCode(school.course)!
  const leaver = harness.stores.roster
    .everybody(course.id)
    .find(({ email }) => email === studentEmail('', 1))!
  await must(
    school.owner.patch(`/api/courses/${school.course}/roster/people/${leaver.code}`, {
      status: 'left',
      freeSeats: true,
    }),
  )
  const [item] = (await view()).waiting
  // Just opened, it is said all the same: somebody who left does not come back by waiting.
  expect(item).toMatchObject({
    kind: 'under-floor',
    small: [
      {
        group: school.groups.Tempeh,
        title: 'Tempeh',
        size: 1,
        floor: 2,
        ownFloor: null,
        leavers: ['Student 1'],
        can: ['merge', 'fill'],
      },
    ],
  })
  expect((await view('tutor@school.example')).waiting.flatMap(({ small }) => small)).toEqual([])
  await must(school.owner.patch(`/api/sheets/${school.sheet}/groups/${school.groups.Tempeh}`, { floor: 1 }))
  expect((await view()).waiting).toEqual([])
})
