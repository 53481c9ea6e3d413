import ICAL from 'ical.js'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { CalendarFeed } from '../../src/contract/calendar.ts'
import type { GroupPage } from '../../src/contract/groups.ts'
import type { Problem } from '../../src/contract/problems.ts'
import { NEVER } from '../../src/core/meetings.ts'
import { type Answer, type Client, type Harness, must } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
let harness: Harness
let owner: Client
beforeAll(async () => {
  labs = await startLabs()
  harness = labs.harness
  owner = labs.school.owner
  harness.clock.set('2026-05-06T10:00:00.000Z')
  for (const n of [0, 1, 2]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
  await labs.take(labs.tue(3), 'Kefir/Tue lab')
  await must(owner.send('PUT', `${labs.at}/extras`, { calendar: true }))
})
afterAll(() => harness.end())

const tempeh = () => `${labs.at}/groups/${labs.school.groups['Tempeh/Tue lab']}`
type Reply = Answer<GroupPage & Problem>
const add = (client: Client, body: object = {}): Promise<Reply> =>
  client.post(`${tempeh()}/meetings`, {
    title: 'Bench meeting',
    startsAt: '2026-05-11T16:00',
    minutes: 60,
    ...body,
  })
const page = (client: Client) => must<GroupPage>(client.get(tempeh()))

/** What a calendar program of other make reads at somebody's address: title and start of each entry, in order. */
async function feedOf(client: Client): Promise<string[]> {
  const { path } = await must<CalendarFeed>(client.post('/api/calendar'))
  const text = await (await fetch(`${harness.address}${path}`)).text()
  const calendar = new ICAL.Component(ICAL.parse(text))
  return calendar
    .getAllSubcomponents('vevent')
    .map((one) => new ICAL.Event(one))
    .map(({ summary, startDate }) => `${startDate.toJSDate().toISOString()} ${summary}`)
    .sort()
}

describe('a group’s meetings', () => {
  it('are set by a member, seen by the others and their tutors, and in everybody’s calendar each week', async () => {
    await must(add(labs.tue(0), { weeks: 2, place: 'Cold room', link: 'https://meet.school.example/t' }))
    const { calendar } = await page(labs.tue(1))
    expect(calendar?.meetings).toMatchObject([
      {
        title: 'Bench meeting',
        place: 'Cold room',
        weeks: 2,
        by: 'Student 0 Tue lab',
        ahead: [
          { day: '2026-05-11', startsAt: '2026-05-11T14:00:00.000Z' },
          { day: '2026-05-18', startsAt: '2026-05-18T14:00:00.000Z' },
        ],
      },
    ])
    expect(await feedOf(labs.tue(1))).toEqual([
      '2026-05-11T14:00:00.000Z Bench meeting (Tempeh)',
      '2026-05-18T14:00:00.000Z Bench meeting (Tempeh)',
    ])
    expect(await feedOf(labs.tue(3))).toEqual([])
    const { code } = calendar!.meetings[0]!
    // One week of it is called off, and on again; then all of it, and back.
    const day = `${tempeh()}/meetings/${code}/days/2026-05-18/skip`
    await must(labs.tue(1).post(day))
    expect(await feedOf(labs.tue(0))).toHaveLength(1)
    expect((await page(labs.tue(0))).calendar?.meetings[0]).toMatchObject({ skipped: ['2026-05-18'] })
    await must(labs.tue(2).send('DELETE', day))
    await must(labs.tue(0).send('DELETE', `${tempeh()}/meetings/${code}`))
    expect((await page(labs.tue(2))).calendar?.meetings).toEqual([])
    expect((await labs.tue(0).send('PATCH', `${tempeh()}/meetings/${code}`, { title: 'Later' })).status).toBe(
      404,
    )
    await must(labs.tue(0).post(`${tempeh()}/meetings/${code}/restore`))
    await must(labs.tue(1).send('PATCH', `${tempeh()}/meetings/${code}`, { startsAt: '2026-05-12T08:00' }))
    expect(await feedOf(labs.tue(0))).toEqual([
      '2026-05-12T06:00:00.000Z Bench meeting (Tempeh)',
      '2026-05-19T06:00:00.000Z Bench meeting (Tempeh)',
    ])
  })

  it('are refused with what is wrong: in an hour that clocks skip, in the past, without end', async () => {
    const wrong = async (body: object, path: string, code = 'body-invalid') => {
      const answer = await add(labs.tue(0), body)
      expect(answer.status, JSON.stringify(answer.body)).toBe(422)
      expect([answer.body.code, answer.body.errors?.[0]?.path]).toEqual([code, path])
    }
    await wrong({ startsAt: '2027-03-28T02:30' }, 'startsAt', 'time-never-occurs')
    await wrong({ startsAt: '2026-05-04T10:00' }, 'startsAt')
    await wrong({ startsAt: 'soon' }, 'startsAt')
    await wrong({ minutes: 0 }, 'minutes')
    await wrong({ weeks: 31 }, 'weeks')
    await wrong({ title: ' ' }, 'title')
    await wrong({ link: 'javascript:alert(1)' }, 'link')
  })

  it('are for those who reach the group, while it has a calendar', async () => {
    expect((await add(labs.tue(3))).status).toBe(404)
    const group = labs.school.groups['Tempeh/Tue lab']
    await must(owner.send('PUT', `${labs.at}/groups/${group}/extras`, { calendar: false, files: true }))
    expect((await add(labs.tue(0))).body.code).toBe('extra-off')
    const { calendar, extras, extrasDiffer } = await page(labs.tue(0))
    expect([calendar, extras.files, extrasDiffer]).toEqual([null, true, null])
    expect(await feedOf(labs.tue(0))).toEqual([])
    expect((await page(owner)).extrasDiffer).toBe(true)
    await must(owner.send('PUT', `${labs.at}/groups/${group}/extras`, {}))
    expect((await page(owner)).extrasDiffer).toBe(false)
    expect((await page(labs.tue(0))).calendar?.meetings).toHaveLength(1)
  })
})

describe('when a group could meet', () => {
  const at = (...hours: number[]) =>
    [...NEVER].map((none, hour) => (hours.includes(hour) ? '1' : none)).join('')
  const could = (client: Client, hours: string) =>
    client.send<GroupPage & Problem>('PUT', `${tempeh()}/could-meet`, { hours })

  it('is said by its members, and what suits most is one press', async () => {
    // Tuesday at ten and eleven; Friday at nine.
    await must(could(labs.tue(0), at(34, 35, 105)))
    await must(could(labs.tue(1), at(34, 35)))
    const { calendar } = await must(could(labs.tue(2), at(35, 105)))
    expect(calendar?.couldMeet).toMatchObject({
      said: 3,
      size: 3,
      own: at(35, 105),
      best: [
        {
          hours: 1,
          times: [
            { hour: 35, can: 3, cannot: [] },
            { hour: 34, can: 2, cannot: ['Student 2 Tue lab'] },
            { hour: 105, can: 2, cannot: ['Student 1 Tue lab'] },
          ],
        },
        { hours: 2, times: [{ hour: 34, can: 2, cannot: ['Student 2 Tue lab'] }] },
      ],
    })
    expect(calendar?.couldMeet.counts[35]).toBe(3)
    await must(labs.tue(1).post(`${tempeh()}/could-meet/meetings`, { hour: 35, hours: 1, weeks: 3 }))
    const meeting = (await page(labs.tue(0))).calendar?.meetings.find(({ title }) => title === 'Meeting')
    expect(meeting?.ahead.map(({ startsAt }) => startsAt)).toEqual([
      '2026-05-12T09:00:00.000Z',
      '2026-05-19T09:00:00.000Z',
      '2026-05-26T09:00:00.000Z',
    ])
  })

  it('counts nobody who has left, and is said by nobody else', async () => {
    await labs.giveUp(labs.tue(2), 'Tempeh/Tue lab')
    expect((await page(labs.tue(0))).calendar?.couldMeet).toMatchObject({ said: 2, size: 2 })
    expect((await could(owner, NEVER)).status).toBe(403)
    expect((await could(labs.tue(3), NEVER)).status).toBe(404)
    expect((await could(labs.tue(0), '1111')).status).toBe(422)
  })

  it('names nobody where the rule hides names', async () => {
    await labs.rule({ names: 'nobody' })
    const { calendar } = await page(labs.tue(1))
    expect(JSON.stringify(calendar)).not.toContain('Student 0')
    await labs.rule({ names: 'mates' })
  })
})

describe('calendars of staff and of tasks', () => {
  it('have what they look after: tasks as they are for each group, the window, and dated groups', async () => {
    const group = labs.school.groups['Tempeh/Tue lab']!
    const { tasks } = await must<{ tasks: { code: string }[] }>(
      owner.post(`${labs.at}/tasks`, { title: 'Report', dueAt: '2026-05-20T12:00', out: true }),
    )
    await must(
      owner.post(`${labs.at}/tasks/${tasks[0]!.code}/differences`, {
        groups: [group],
        fields: { dueAt: '2026-05-22T12:00' },
      }),
    )
    const own = (all: string[]) => all.filter((one) => one.includes('Report'))
    expect(own(await feedOf(labs.tue(0)))).toEqual(['2026-05-22T10:00:00.000Z Due: Report (Culture benches)'])
    expect(own(await feedOf(labs.tue(3)))).toEqual(['2026-05-20T10:00:00.000Z Due: Report (Culture benches)'])
    const staff = await feedOf(owner)
    expect(own(staff)).toHaveLength(2)
    expect(staff.some((one) => one.endsWith('Culture benches closes'))).toBe(true)
    // Whoever looks after no group is told of none of their meetings.
    expect(staff.some((one) => one.includes('Bench meeting'))).toBe(false)
  })
})
