import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { StudentHome } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { type Harness, must, outcome, type School, setUpSchool, studentEmail } from './harness.ts'
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

describe('a sheet as a whole', () => {
  it('is put away: nothing changes in it any more, until it is taken out', async () => {
    await must(school.owner.post(`${labs.at}/archive`, { archived: true }))
    expect(outcome(await labs.take(labs.tue(0), 'Tempeh/Tue lab'))).toBe('sheet-archived')
    expect((await school.owner.patch<Problem>(labs.at, { title: 'x' })).body.code).toBe('sheet-archived')
    await must(school.owner.post(`${labs.at}/archive`, { archived: false }))
    expect(outcome(await labs.take(labs.tue(0), 'Tempeh/Tue lab'))).toBe('granted')
  })

  it('that is a draft stays hidden from students when it is put away', async () => {
    const draft = await setUpSchool(harness, { students: { '': 1 }, topics: ['Koji'], publish: false })
    await must(draft.owner.post(`/api/sheets/${draft.sheet}/archive`, { archived: true }))
    const student = harness.as(studentEmail('', 0))
    expect((await student.get(`/api/sheets/${draft.sheet}/student`)).status).toBe(404)
    expect((await must<StudentHome>(student.get('/api/home'))).sheets).toEqual([])
  })

  it('is deleted as if it did not exist, and brought back as it was', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await must(school.owner.send('DELETE', labs.at))
    expect((await school.owner.get(`${labs.at}/compose`)).status).toBe(404)
    expect((await labs.tue(0).get(`${labs.at}/student`)).status).toBe(404)
    expect((await must<StudentHome>(labs.tue(0).get('/api/home'))).sheets).toEqual([])
    await must(school.owner.post(`/api/courses/${school.course}/deleted/${school.sheet}/restore`))
    expect((await labs.sheetOf(labs.tue(0))).seats).toHaveLength(1)
  })

  it('is copied without its people, its dates moved with the opening', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const { code } = await labs.topic('Tempeh')
    await must(
      school.owner.patch(`${labs.at}/topics/${code}`, {
        startsAt: '2026-05-20T10:00',
        endsAt: '2026-05-20T11:00',
      }),
    )
    await must(school.owner.patch(`${labs.at}/groups/${school.groups['Miso/Wed lab']}`, { seats: 7 }))
    const copied = (title: string, opensAt: string) =>
      must<ComposeView>(school.owner.post(`${labs.at}/copy`, { course: school.course, title, opensAt }))
    const next = await copied('Next term', '2026-09-07T09:00')
    expect(next).toMatchObject({
      title: 'Next term',
      state: 'draft',
      opensAt: '2026-09-07T07:00:00.000Z',
      closesAt: '2026-09-14T15:00:00.000Z',
    })
    expect(next.topics.map(({ title }) => title)).toEqual(['Tempeh', 'Kefir', 'Miso'])
    expect(next.topics[0]).toMatchObject({
      startsAt: '2026-09-21T08:00:00.000Z',
      endsAt: '2026-09-21T09:00:00.000Z',
    })
    expect(next.topics[2]!.groups.map(({ own }) => own.seats)).toEqual([null, 7])
    expect(next.topics.flatMap(({ groups }) => groups.map(({ taken }) => taken))).toEqual([0, 0, 0, 0, 0, 0])
    // Between its opening and its close clocks go back: it still closes at 17:00.
    const autumn = await copied('Autumn', '2026-10-21T09:00')
    expect(autumn).toMatchObject({
      opensAt: '2026-10-21T07:00:00.000Z',
      closesAt: '2026-10-28T16:00:00.000Z',
    })
    const elsewhere = await setUpSchool(harness, { students: { '': 1 }, topics: ['Koji'] })
    const other = await must<ComposeView>(
      school.owner.post(`${labs.at}/copy`, { course: elsewhere.course, title: 'Elsewhere', opensAt: null }),
    )
    expect(other).toMatchObject({ opensAt: null, closesAt: null, topics: [{ startsAt: null }, {}, {}] })
    expect(other.topics[0]!.groups).toHaveLength(1)
    const stranger = await school.owner.post<Problem>(`${labs.at}/copy`, {
      course: 'no-such-course',
      title: 'x',
      opensAt: null,
    })
    expect(stranger.body.errors?.[0]?.path).toBe('course')
  })
})
