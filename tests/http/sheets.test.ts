import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { StudentSheet } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { CAREFUL } from '../../src/core/rules.ts'
import { seatsAsKept, seatsByLedger } from '../../src/server/ledger/replay.ts'
import { claim, type Harness, must, type School, setUpSchool, startHarness, studentEmail } from './harness.ts'

let harness: Harness
let school: School
beforeEach(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, {
    sections: ['Tue lab', 'Wed lab'],
    students: { 'Tue lab': 4, 'Wed lab': 4 },
    topics: ['Tempeh', 'Kefir', 'Miso'],
    seats: 3,
  })
})
afterEach(() => harness.end())

const at = () => `/api/sheets/${school.sheet}`
const view = () => must<ComposeView>(school.owner.get(`${at()}/compose`))
const topicCode = async (title: string) => (await view()).topics.find((topic) => topic.title === title)!.code
const seat = async (n: number, group = 'Tempeh/Tue lab') => {
  const student = harness.as(studentEmail('Tue lab', n))
  expect((await claim(student, school.sheet, { kind: 'take', to: school.groups[group] })).status).toBe(200)
  return student
}
const rows = () => {
  const sheet = harness.stores.sheets.byCode(school.sheet)!
  return { ledger: harness.stores.ledger.since(sheet.id, 0), seats: harness.stores.seats.ofSheet(sheet.id) }
}

it('a new sheet starts with the careful rules', async () => {
  expect((await view()).rules).toEqual(CAREFUL)
})

describe('topics', () => {
  it('get one group per section, named by itself', async () => {
    const { topics, sections } = await view()
    expect(topics).toHaveLength(3)
    for (const { groups } of topics)
      expect(groups.map(({ section }) => section)).toEqual(sections.map(({ code }) => code))
  })

  it('follow the common limit until they have one of their own, and again once it is taken away', async () => {
    const code = await topicCode('Tempeh')
    const limitOf = () => harness.stores.sheets.group(school.groups['Tempeh/Tue lab']!)!.seats
    await must(school.owner.patch(at(), { seats: 5 }))
    expect(limitOf()).toBe(5)
    await must(school.owner.patch(`${at()}/topics/${code}`, { seats: 2 }))
    await must(school.owner.patch(at(), { seats: 6 }))
    expect(limitOf()).toBe(2)
    await must(school.owner.patch(`${at()}/topics/${code}`, { seats: null }))
    expect(limitOf()).toBe(6)
  })

  it('are put in another order', async () => {
    const codes = (await view()).topics.map(({ code }) => code)
    const turned = await must<ComposeView>(
      school.owner.send('PUT', `${at()}/topics/order`, { topics: [...codes].reverse() }),
    )
    expect(turned.topics.map(({ title }) => title)).toEqual(['Miso', 'Kefir', 'Tempeh'])
    const unknown = await school.owner.send<Problem>('PUT', `${at()}/topics/order`, { topics: ['gone'] })
    expect(unknown.status).toBe(422)
  })

  it('are removed, and put back where they were', async () => {
    const code = await topicCode('Kefir')
    const without = await must<ComposeView>(school.owner.post(`${at()}/topics/${code}/remove`, {}))
    expect(without.topics.map(({ title }) => title)).toEqual(['Tempeh', 'Miso'])
    const gone = await school.owner.patch<Problem>(`${at()}/topics/${code}`, { title: 'x' })
    expect(gone.body).toMatchObject({ status: 404, detail: expect.stringMatching(/removed meanwhile/) })
    const back = await must<ComposeView>(school.owner.post(`${at()}/topics/${code}/restore`))
    expect(back.topics.map(({ title }) => title)).toEqual(['Tempeh', 'Kefir', 'Miso'])
  })

  it.each([
    [{ title: '' }, 'title', /missing/],
    [{ title: 'x'.repeat(121) }, 'title', /120/],
    [{ brief: 'x'.repeat(10_000) }, 'brief', /4,000/],
    [{ seats: 0 }, 'seats', /at least one/],
    [{ seats: -3 }, 'seats', /at least one/],
    [{ seats: 2.5 }, 'seats', /whole number/],
    [{ seats: 'many' }, 'seats', /whole number/],
    [{ floor: 0 }, 'floor', /at least one/],
    [{ place: { room: 1 } }, 'place', /string/],
  ])('refuse %j beside its field and keep what was there', async (changes, path, message) => {
    const code = await topicCode('Tempeh')
    const before = (await view()).topics
    const answer = await school.owner.patch<Problem>(`${at()}/topics/${code}`, changes)
    expect(answer.status).toBe(422)
    expect(answer.body.errors).toContainEqual({ path, message: expect.stringMatching(message) })
    expect((await view()).topics).toEqual(before)
  })

  it('keep HTML as the text it is', async () => {
    const code = await topicCode('Tempeh')
    const title = '<script>alert(1)</script> & "salt"'
    const changed = await must<ComposeView>(school.owner.patch(`${at()}/topics/${code}`, { title }))
    expect(changed.topics[0]?.title).toBe(title)
  })

  it('are 200 at most', async () => {
    const sheet = await must<ComposeView>(
      school.owner.post(`/api/courses/${school.course}/sheets`, { title: 'Many' }),
    )
    for (let i = 0; i < 200; i++)
      await must(school.owner.post(`/api/sheets/${sheet.code}/topics`, { title: `Topic ${i}` }))
    const one = await school.owner.post<Problem>(`/api/sheets/${sheet.code}/topics`, { title: 'one more' })
    expect(one.body.code).toBe('topic-limit-reached')
  })
})

describe('a change that affects seated people', () => {
  it('asks before a limit goes below the number seated, then keeps everybody', async () => {
    for (const n of [0, 1, 2]) await seat(n)
    const code = await topicCode('Tempeh')
    const asked = await school.owner.patch<Problem>(`${at()}/topics/${code}`, { seats: 1 })
    expect(asked.body).toMatchObject({ status: 409, code: 'seated-affected' })
    expect(asked.body.affected).toEqual([
      { name: 'Student 1 Tue lab', section: 'Tue lab' },
      { name: 'Student 2 Tue lab', section: 'Tue lab' },
    ])
    expect(harness.stores.sheets.group(school.groups['Tempeh/Tue lab']!)!.seats).toBe(3)
    await must(school.owner.patch(`${at()}/topics/${code}`, { seats: 1, confirmed: true }))
    expect(rows().seats.map(({ extra }) => extra)).toEqual([0, 1, 1])
    await must(school.owner.patch(`${at()}/topics/${code}`, { seats: 2 }))
    expect(rows().seats.map(({ extra }) => extra)).toEqual([0, 0, 1])
  })

  it('asks for the common limit too, and leaves topics with their own limit out of it', async () => {
    for (const n of [0, 1, 2]) await seat(n)
    const code = await topicCode('Tempeh')
    expect((await school.owner.patch<Problem>(at(), { seats: 2 })).body.affected).toHaveLength(1)
    await must(school.owner.patch(`${at()}/topics/${code}`, { seats: 3 }))
    await must(school.owner.patch(at(), { seats: 2 }))
    expect(rows().seats.map(({ extra }) => extra)).toEqual([0, 0, 0])
  })

  it('asks before a topic with people in it is removed, then takes their seats and says so in the ledger', async () => {
    const student = await seat(0)
    const code = await topicCode('Tempeh')
    const asked = await school.owner.post<Problem>(`${at()}/topics/${code}/remove`, {})
    expect(asked.body).toMatchObject({ code: 'seated-affected', affected: [{ name: 'Student 0 Tue lab' }] })
    await must(school.owner.post(`${at()}/topics/${code}/remove`, { confirmed: true }))
    const sheet = await must<StudentSheet>(student.get(`${at()}/student`))
    expect(sheet.seats).toEqual([])
    expect(sheet.groups.map(({ title }) => title)).not.toContain('Tempeh')
    expect(rows().ledger.map(({ kind }) => kind)).toContain('seat-removed')
    expect(seatsByLedger(rows().ledger)).toEqual(seatsAsKept(rows().seats))
  })
})

describe('the window', () => {
  const change = (body: object) => school.owner.patch<Problem & ComposeView>(at(), body)

  it('is given in the course’s own time', async () => {
    const changed = await change({ closesAt: '2026-12-01T17:00' })
    expect(changed.body.closesAt).toBe('2026-12-01T16:00:00.000Z')
  })

  it('must close after it opens', async () => {
    const answer = await change({ closesAt: '2026-05-06T08:00' })
    expect(answer.body).toMatchObject({
      status: 422,
      code: 'window-closes-before-opening',
      errors: [
        {
          path: 'closesAt',
          message: expect.stringMatching(/open Wed 6 May, 09:00 and close Wed 6 May, 08:00/),
        },
      ],
    })
  })

  it('cannot begin in an hour that clocks skip', async () => {
    const answer = await change({ opensAt: '2026-03-29T02:30' })
    expect(answer.body).toMatchObject({ code: 'time-never-occurs', errors: [{ path: 'opensAt' }] })
  })

  it('asks which is meant where an hour occurs twice', async () => {
    const answer = await change({ closesAt: '2026-10-25T02:30' })
    expect(answer.body).toMatchObject({ code: 'time-occurs-twice', errors: [{ path: 'closesAt' }] })
    const second = await change({ closesAt: '2026-10-25T02:30', whichCloses: 'second' })
    expect(second.body.closesAt).toBe('2026-10-25T01:30:00.000Z')
  })

  it.each(['2026-02-30T10:00', 'tomorrow', '2026-05-13'])('cannot be %s', async (closesAt) => {
    const answer = await change({ closesAt })
    expect(answer.status).toBe(422)
    expect(answer.body.errors?.[0]?.path).toBe('closesAt')
  })

  it('keeps its closing time once the sheet is out', async () => {
    expect((await change({ closesAt: null })).status).toBe(422)
  })
})

describe('publishing', () => {
  it('needs a topic and a closing time to come', async () => {
    const sheet = await must<ComposeView>(
      school.owner.post(`/api/courses/${school.course}/sheets`, { title: 'Empty' }),
    )
    const publish = () => school.owner.post<Problem & ComposeView>(`/api/sheets/${sheet.code}/publish`)
    expect((await publish()).body).toMatchObject({
      code: 'sheet-not-ready',
      detail: expect.stringMatching(/topic.*closes/),
    })
    await must(school.owner.post(`/api/sheets/${sheet.code}/topics`, { title: 'Tempeh' }))
    await must(school.owner.patch(`/api/sheets/${sheet.code}`, { closesAt: '2026-05-05T10:00' }))
    expect((await publish()).body.detail).toMatch(/passed/)
    await must(school.owner.patch(`/api/sheets/${sheet.code}`, { closesAt: '2026-05-07T10:00' }))
    expect((await publish()).body).toMatchObject({ state: 'open', opensAt: harness.clock.now() })
  })

  it('shows the sheet to students before it opens, and lets them choose only then', async () => {
    harness.clock.set('2026-05-06T06:00:00.000Z')
    const student = harness.as(studentEmail('Tue lab', 0))
    expect((await must<StudentSheet>(student.get(`${at()}/student`))).state).toBe('scheduled')
  })
})
