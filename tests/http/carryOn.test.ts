import { describe, expect, it } from 'vitest'
import type { SettleView } from '../../src/contract/plans.ts'
import type { RunView } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { must, type School } from './harness.ts'
import type { Labs } from './labs.ts'
import { labsEach } from './planning.ts'

let labs: Labs
let school: School
const { settle, mailsTo } = labsEach((started) => {
  labs = started
  school = started.school
})

describe('groups that carry on', () => {
  const task = { title: 'Report', out: true, dueAt: '2026-05-10T12:00' }
  const copy = (more: object) =>
    must<ComposeView>(
      school.owner.post(`${labs.at}/copy`, {
        course: school.course,
        title: 'Second project',
        opensAt: null,
        people: true,
        ...more,
      }),
    )
  const seatsOn = async (code: string) => {
    const view = await must<RunView>(school.owner.get(`/api/sheets/${code}/run`))
    const names = new Map(view.people.map((one) => [one.code, one.name]))
    const titles = new Map(view.topics.map(({ code, title }) => [code, title]))
    const places = new Map(view.groups.map(({ code, topic }) => [code, titles.get(topic)]))
    return view.seats.map(({ person, group }) => `${names.get(person)}: ${places.get(group)}`).sort()
  }

  it('are the same people in the same groups, without those who left; extra seats, tasks and criteria come along', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await labs.take(labs.tue(1), 'Tempeh/Tue lab')
    await labs.take(labs.wed(0), 'Kefir/Wed lab')
    await labs.rule({ seats: 1 })
    await must(school.owner.post(`${labs.at}/tasks`, task))
    const roster = await must<{ people: { code: string; name: string }[] }>(
      school.owner.get(`/api/courses/${school.course}/roster`),
    )
    const gone = roster.people.find(({ name }) => name === 'Student 0 Wed lab')!
    await must(
      school.owner.patch(`/api/courses/${school.course}/roster/people/${gone.code}`, {
        status: 'left',
        freeSeats: false,
      }),
    )
    const made = await copy({ road: 'made', tasks: true })
    expect(await seatsOn(made.code)).toEqual(['Student 0 Tue lab: Tempeh', 'Student 1 Tue lab: Tempeh'])
    expect(made).toMatchObject({
      rules: { road: 'made' },
      publishedAt: null,
      tasks: [{ title: 'Report', out: false }],
    })
    expect(mailsTo('Tue lab', 0)).toEqual([])
    await must(school.owner.post(`/api/sheets/${made.code}/publish`, {}))
    const ledger = await must<{ entries: { detail: { because?: string } }[] }>(
      school.owner.get(`/api/sheets/${made.code}/ledger`),
    )
    expect(ledger.entries.filter(({ detail }) => detail.because === 'carried-on')).toHaveLength(2)
  })

  it('stay behind where the copy goes into another course', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    const other = await must<{ code: string }>(
      school.owner.post('/api/courses', {
        courseCode: 'BREW 9',
        title: 'Brewing',
        zone: 'Europe/Copenhagen',
        sections: [],
      }),
    )
    const made = await copy({ course: other.code })
    expect(await seatsOn(made.code)).toEqual([])
    expect(made.whom.kind).toBe('course')
  })

  it('are told to plans of other sheets, so that partners can be fresh', async () => {
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await labs.take(labs.tue(1), 'Tempeh/Tue lab')
    await labs.take(labs.tue(2), 'Kefir/Tue lab')
    const made = await copy({ people: false })
    const { sat } = await must<SettleView>(school.owner.get(`/api/sheets/${made.code}/settle`))
    expect(sat.map(({ title, groups }) => [title, groups.map((own) => own.length)])).toEqual([
      ['Culture benches', [2]],
    ])
    expect((await settle()).sat).toEqual([])
  })
})
