import { describe, expect, it } from 'vitest'
import type { ListsView } from '../../src/contract/lists.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { StudentHome } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { type Client, type Harness, must, type School } from './harness.ts'
import type { Labs } from './labs.ts'
import { labsEach } from './planning.ts'

let labs: Labs
let harness: Harness
let school: School
const { settle, runView, mailsTo } = labsEach((started) => {
  labs = started
  harness = started.harness
  school = started.school
})

const compose = () => must<ComposeView>(school.owner.get(`${labs.at}/compose`))
const home = (client: Client) => must<StudentHome>(client.get('/api/home'))

describe('a sheet for some', () => {
  const people = async () => {
    const { people: all } = await must<{ people: { code: string; email: string; name: string }[] }>(
      school.owner.get(`/api/courses/${school.course}/roster`),
    )
    return new Map(all.map(({ code, name }) => [name, code]))
  }
  const addList = async (names: string[], title = 'Support plan') => {
    const codes = await people()
    return must<ListsView & { added: string }>(
      school.owner.post(`/api/courses/${school.course}/lists`, {
        title,
        note: 'Extra time',
        people: names.map((name) => codes.get(name)),
      }),
    )
  }

  it('is for the students of a list: nobody else learns of it, is counted, planned, nudged, or told', async () => {
    const { added, lists } = await addList(['Student 0 Tue lab', 'Student 0 Wed lab'])
    expect(lists[0]).toMatchObject({ title: 'Support plan', note: 'Extra time', sheets: [] })
    const view = await labs.rule({ forWhom: 'list', list: added })
    expect(view).toMatchObject({ students: 2, whom: { kind: 'list', list: { title: 'Support plan' } } })
    for (const path of ['student', 'run', 'live', 'tasks', 'calendar'])
      expect((await labs.tue(1).get(`${labs.at}/${path}`)).status, path).toBe(404)
    const link = await labs.tue(1).get<Problem>(`/api/links/${view.link.split('/').at(-1)}`)
    expect([link.status, link.body.detail]).toEqual([
      404,
      expect.stringContaining('No sheet has this address'),
    ])
    expect(link.body.detail).not.toContain('Culture benches')
    const stranger = harness.as('somebody@school.example')
    expect((await stranger.get(`/api/links/${view.link.split('/').at(-1)}`)).status).toBe(404)
    expect((await home(labs.tue(1))).sheets).toEqual([])
    expect((await home(labs.tue(0))).sheets).toHaveLength(1)
    expect((await settle()).basis.people).toHaveLength(2)
    expect((await runView()).people.map(({ name }) => name)).toEqual([
      'Student 0 Tue lab',
      'Student 0 Wed lab',
    ])
    const codes = await people()
    const nudged = await school.owner.post<Problem>(`${labs.at}/nudges`, {
      subject: 'Choose',
      text: 'Please',
      people: [codes.get('Student 1 Tue lab')],
    })
    expect(nudged.status).toBe(422)
    await must(school.owner.post(`${labs.at}/announcements`, { text: 'It is out', when: 'now' }))
    expect(mailsTo('Tue lab', 1)).toEqual([])
    expect(mailsTo('Tue lab', 0)).toHaveLength(1)
    const seated = await school.owner.post<Problem>(`${labs.at}/seatings`, {
      changes: [{ person: codes.get('Student 1 Tue lab'), from: null, to: school.groups['Tempeh/Tue lab'] }],
    })
    expect(seated.status).toBeGreaterThanOrEqual(400)
    // The note is for staff: no student's answer carries it.
    const own = await labs.tue(0).get(`${labs.at}/student`)
    expect(JSON.stringify(own.body)).not.toMatch(/Support plan|Extra time/)
  })

  it('keeps those who sit on it, asks about them, and ends the streams of those it is not for any more', async () => {
    await labs.take(labs.tue(1), 'Tempeh/Tue lab')
    const { added } = await addList(['Student 0 Tue lab'])
    const asked = await school.owner.patch<Problem>(labs.at, { forWhom: 'list', list: added })
    expect(asked.body.affected?.map(({ name }) => name)).toEqual(['Student 1 Tue lab'])
    const reading = await fetch(`${harness.address}${labs.at}/live?since=0`, {
      headers: { Cookie: labs.tue(2).cookie },
    })
    expect(reading.status).toBe(200)
    await labs.rule({ forWhom: 'list', list: added })
    // The stream ends by itself.
    const text = await reading.text()
    expect(text).toContain('refresh')
    expect((await labs.sheetOf(labs.tue(1))).seats).toHaveLength(1)
    expect((await labs.tue(2).get(`${labs.at}/student`)).status).toBe(404)
    expect((await runView()).people.map(({ name }) => name)).toEqual([
      'Student 0 Tue lab',
      'Student 1 Tue lab',
    ])
  })

  it('is for some sections where that is chosen', async () => {
    const { sections } = await compose()
    const none = await school.owner.patch<Problem>(labs.at, { forWhom: 'sections', sectionsFor: [] })
    expect(none.body.errors?.[0]).toMatchObject({ path: 'sectionsFor' })
    const wrong = await school.owner.patch<Problem>(labs.at, { forWhom: 'sections', sectionsFor: ['none'] })
    expect(wrong.body.errors?.[0]?.path).toBe('sectionsFor[0]')
    await labs.rule({ forWhom: 'sections', sectionsFor: [sections[1]!.code] })
    expect((await home(labs.tue(0))).sheets).toEqual([])
    expect((await home(labs.wed(0))).sheets).toHaveLength(1)
    expect((await compose()).students).toBe(2)
  })

  it('needs a list with somebody on it; a list in use is not taken away, one that was is brought back', async () => {
    const at = `/api/courses/${school.course}/lists`
    expect((await school.owner.patch<Problem>(labs.at, { forWhom: 'list' })).body.errors?.[0]?.path).toBe(
      'list',
    )
    const empty = await school.owner.post<Problem>(at, { title: 'Nobody', people: [] })
    expect(empty.body.errors?.[0]).toMatchObject({ path: 'people' })
    const strange = await school.owner.post<Problem>(at, { title: 'Strange', people: ['nobody-here'] })
    expect(strange.body.errors?.[0]?.path).toBe('people[0]')
    const { added } = await addList(['Student 0 Tue lab'])
    const twin = await school.owner.post<Problem>(at, {
      title: 'support PLAN',
      people: [(await people()).get('Student 1 Tue lab')],
    })
    expect(twin.body.errors?.[0]?.path).toBe('title')
    await labs.rule({ forWhom: 'list', list: added })
    const used = await school.owner.send<Problem>('DELETE', `${at}/${added}`)
    expect(used.body).toMatchObject({
      code: 'list-in-use',
      detail: expect.stringContaining('Culture benches'),
    })
    expect((await school.owner.patch<Problem>(`${at}/${added}`, { people: [] })).body.errors?.[0]?.path).toBe(
      'people',
    )
    await labs.rule({ forWhom: 'course' })
    expect((await must<ListsView>(school.owner.send('DELETE', `${at}/${added}`))).lists).toEqual([])
    expect((await must<ListsView>(school.owner.post(`${at}/${added}/restore`))).lists).toHaveLength(1)
    expect((await labs.tue(0).get(at)).status).toBe(403)
  })
})
