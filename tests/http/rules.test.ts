import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import type { StudentHome, StudentSheet } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import {
  claim,
  type Harness,
  must,
  outcome,
  type School,
  START,
  setUpSchool,
  startHarness,
  studentEmail,
} from './harness.ts'
import { seatsAsKept, seatsByLedger } from './replay.ts'

let harness: Harness
let school: School
beforeEach(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, {
    sections: ['Tue lab', 'Wed lab'],
    students: { 'Tue lab': 5, 'Wed lab': 2 },
    topics: ['Tempeh', 'Kefir', 'Miso'],
    seats: 3,
  })
})
afterEach(() => harness.end())

const at = () => `/api/sheets/${school.sheet}`
const tue = (n: number) => harness.as(studentEmail('Tue lab', n))
const wed = (n: number) => harness.as(studentEmail('Wed lab', n))
const rule = (changes: object) => must<ComposeView>(school.owner.patch(at(), { ...changes, confirmed: true }))
const take = (client: ReturnType<typeof tue>, group: string) =>
  claim(client, school.sheet, { kind: 'take', to: school.groups[group] })
const move = (client: ReturnType<typeof tue>, from: string, to: string) =>
  claim(client, school.sheet, { kind: 'move', from: school.groups[from], to: school.groups[to] })
const giveUp = (client: ReturnType<typeof tue>, from: string) =>
  claim(client, school.sheet, { kind: 'give-up', from: school.groups[from] })
const sheetOf = (client: ReturnType<typeof tue>) => must<StudentSheet>(client.get(`${at()}/student`))
const topic = async (title: string) =>
  (await must<ComposeView>(school.owner.get(`${at()}/compose`))).topics.find((t) => t.title === title)!

describe('changing seats', () => {
  it.each([
    ['until-close', 'granted', 'granted'],
    ['by-asking', 'change-only-by-asking', 'change-only-by-asking'],
    ['never', 'change-not-allowed', 'change-not-allowed'],
  ] as const)('%s: a move is %s, giving up is %s', async (changing, moving, leaving) => {
    await rule({ changing })
    const [one, two] = [tue(0), tue(1)]
    for (const client of [one, two]) expect(outcome(await take(client, 'Tempeh/Tue lab'))).toBe('granted')
    expect(outcome(await move(one, 'Tempeh/Tue lab', 'Kefir/Tue lab'))).toBe(moving)
    expect(outcome(await giveUp(two, 'Tempeh/Tue lab'))).toBe(leaving)
  })

  it('asks before those who sit there already can no longer move by themselves', async () => {
    await take(tue(0), 'Tempeh/Tue lab')
    const asked = await school.owner.patch<Problem>(at(), { changing: 'never' })
    expect(asked.body).toMatchObject({ code: 'seated-affected', affected: [{ name: 'Student 0 Tue lab' }] })
  })
})

describe('names', () => {
  /** Every name of another student that any answer to this reader holds. */
  const namesReaching = async (client: ReturnType<typeof tue>) => {
    const answers = [await sheetOf(client), await must<StudentHome>(client.get('/api/home'))]
    return [...new Set(JSON.stringify(answers).match(/Student \d (Tue|Wed) lab/g) ?? [])].sort()
  }
  const seated = ['Student 0 Tue lab', 'Student 1 Tue lab']

  it.each([
    ['mates', { unseated: [], elsewhere: [], mate: ['Student 0 Tue lab'], closed: [] }],
    [
      'seated',
      { unseated: [], elsewhere: seated, mate: ['Student 0 Tue lab', 'Student 2 Tue lab'], closed: [] },
    ],
    ['after-close', { unseated: [], elsewhere: [], mate: [], closed: [...seated, 'Student 2 Tue lab'] }],
    [
      'everyone',
      {
        unseated: [...seated, 'Student 2 Tue lab'],
        elsewhere: seated,
        mate: ['Student 0 Tue lab', 'Student 2 Tue lab'],
        closed: [...seated, 'Student 2 Tue lab'],
      },
    ],
    ['nobody', { unseated: [], elsewhere: [], mate: [], closed: [] }],
  ] as const)('shown to %s reach nobody else', async (names, expected) => {
    await rule({ names })
    await take(tue(0), 'Tempeh/Tue lab')
    await take(tue(1), 'Tempeh/Tue lab')
    await take(tue(2), 'Kefir/Tue lab')
    expect(await namesReaching(tue(3))).toEqual(expected.unseated)
    expect(await namesReaching(tue(2))).toEqual(expected.elsewhere)
    expect(await namesReaching(tue(1))).toEqual(expected.mate)
    harness.clock.set('2026-05-14T00:00:00.000Z')
    expect(await namesReaching(tue(3))).toEqual(expected.closed)
  })

  it('asks before those who sit there already are shown to more people', async () => {
    await take(tue(0), 'Tempeh/Tue lab')
    expect((await school.owner.patch<Problem>(at(), { names: 'everyone' })).body.code).toBe('seated-affected')
    expect((await school.owner.patch(at(), { names: 'nobody' })).status).toBe(200)
  })
})

describe('where a topic offers seats', () => {
  it('its own section: others are refused and not even listed', async () => {
    expect(outcome(await take(wed(0), 'Tempeh/Tue lab'))).toBe('other-section')
    expect((await sheetOf(wed(0))).groups).toHaveLength(3)
  })

  it('the whole course: any section, each group with its section’s name', async () => {
    await rule({ offers: 'course' })
    expect(outcome(await take(wed(0), 'Tempeh/Tue lab'))).toBe('granted')
    const { groups } = await sheetOf(wed(1))
    expect(groups).toHaveLength(6)
    expect(new Set(groups.map(({ section }) => section))).toEqual(new Set(['Tue lab', 'Wed lab']))
    const back = await school.owner.patch<Problem>(at(), { offers: 'section' })
    expect(back.body.affected).toEqual([{ name: 'Student 0 Wed lab', section: 'Wed lab' }])
  })
})

describe('seats per student', () => {
  it('up to two: a third is refused, and so are two at the same time', async () => {
    await rule({ seatsEach: 2 })
    const student = tue(0)
    const times = { startsAt: '2026-05-20T10:00', endsAt: '2026-05-20T11:00' }
    for (const title of ['Tempeh', 'Kefir']) {
      await must(school.owner.patch(`${at()}/topics/${(await topic(title)).code}`, times))
    }
    expect(outcome(await take(student, 'Tempeh/Tue lab'))).toBe('granted')
    expect(outcome(await take(student, 'Kefir/Tue lab'))).toBe('time-clash')
    expect(outcome(await take(student, 'Miso/Tue lab'))).toBe('granted')
    await must(school.owner.post(`${at()}/topics`, { title: 'Natto' }))
    const natto = (await topic('Natto')).groups[0]!.code
    expect(outcome(await claim(student, school.sheet, { kind: 'take', to: natto }))).toBe(
      'seat-limit-reached',
    )
    expect((await sheetOf(student)).seats).toHaveLength(2)
    const fewer = await school.owner.patch<Problem>(at(), { seatsEach: 1 })
    expect(fewer.body).toMatchObject({ code: 'seated-affected', affected: [{ name: 'Student 0 Tue lab' }] })
  })

  it.each([0, 21, 1.5, 'many'])('cannot be %s', async (seatsEach) => {
    expect((await school.owner.patch<Problem>(at(), { seatsEach })).body.errors?.[0]?.path).toBe('seatsEach')
  })
})

describe('the convener', () => {
  const answersFor = async (client: ReturnType<typeof tue>) => {
    const sheet = await sheetOf(client)
    return sheet.seats[0]!.convener
      ? 'me'
      : sheet.groups.find(({ code }) => code === sheet.seats[0]!.group)!.convener
  }

  it.each([
    ['first', 'me', 'Student 0 Tue lab'],
    ['named', null, null],
    ['none', null, null],
  ] as const)('%s', async (convener, first, second) => {
    await rule({ convener })
    await take(tue(0), 'Tempeh/Tue lab')
    harness.clock.advance(1_000)
    await take(tue(1), 'Tempeh/Tue lab')
    expect(await answersFor(tue(0))).toBe(first)
    expect(await answersFor(tue(1))).toBe(second)
  })

  it('by lot is one of the members, and the same for all of them', async () => {
    await rule({ convener: 'lot' })
    await take(tue(0), 'Tempeh/Tue lab')
    await take(tue(1), 'Tempeh/Tue lab')
    const [one, two] = [await answersFor(tue(0)), await answersFor(tue(1))]
    expect([[one, two].includes('me'), one === two]).toEqual([true, false])
  })

  it('is named among those who sit there, and nobody else', async () => {
    await rule({ convener: 'named' })
    await take(tue(1), 'Tempeh/Tue lab')
    const codeOf = (n: number) => {
      const { course_id } = harness.stores.sheets.byCode(school.sheet)!
      return harness.stores.roster
        .everybody(course_id)
        .find(({ email }) => email === studentEmail('Tue lab', n))!.code
    }
    const name = (convener: string) =>
      school.owner.patch<Problem>(`${at()}/groups/${school.groups['Tempeh/Tue lab']}`, { convener })
    expect((await name(codeOf(0))).body.errors?.[0]?.path).toBe('convener')
    expect((await name(codeOf(1))).status).toBe(200)
    expect(await answersFor(tue(1))).toBe('me')
  })
})

describe('being visible before opening', () => {
  it('or not: then the sheet does not exist for students until it opens', async () => {
    harness.clock.set('2026-05-06T06:00:00.000Z')
    expect((await sheetOf(tue(0))).state).toBe('scheduled')
    await rule({ visibleBefore: false })
    expect((await tue(0).get(`${at()}/student`)).status).toBe(404)
    expect((await must<StudentHome>(tue(0).get('/api/home'))).sheets).toEqual([])
    harness.clock.set(START)
    expect((await sheetOf(tue(0))).state).toBe('open')
  })
})

describe('groups of their own kind', () => {
  it('not offered in a section are refused and not listed there', async () => {
    const group = school.groups['Tempeh/Tue lab']!
    await must(school.owner.patch(`${at()}/groups/${group}`, { offered: false }))
    expect(outcome(await take(tue(0), 'Tempeh/Tue lab'))).toBe('group-not-offered')
    expect((await sheetOf(tue(0))).groups.map(({ title }) => title)).toEqual(['Kefir', 'Miso'])
    expect((await sheetOf(wed(0))).groups).toHaveLength(3)
  })

  it('that are no longer offered ask first, then let go of those who sit there', async () => {
    await take(tue(0), 'Tempeh/Tue lab')
    const path = `${at()}/groups/${school.groups['Tempeh/Tue lab']}`
    expect((await school.owner.patch<Problem>(path, { offered: false })).body.code).toBe('seated-affected')
    await must(school.owner.patch(path, { offered: false, confirmed: true }))
    expect((await sheetOf(tue(0))).seats).toEqual([])
    const sheet = harness.stores.sheets.byCode(school.sheet)!
    expect(seatsByLedger(harness.stores.ledger.since(sheet.id, 0))).toEqual(
      seatsAsKept(harness.stores.seats.ofSheet(sheet.id)),
    )
  })

  it('with a limit of their own, or none, keep to it', async () => {
    const path = `${at()}/groups/${school.groups['Tempeh/Tue lab']}`
    await must(school.owner.patch(path, { seats: 1 }))
    expect(outcome(await take(tue(0), 'Tempeh/Tue lab'))).toBe('granted')
    expect(outcome(await take(tue(1), 'Tempeh/Tue lab'))).toBe('group-full')
    await must(school.owner.patch(path, { seats: 'none' }))
    for (const n of [1, 2, 3, 4]) expect(outcome(await take(tue(n), 'Tempeh/Tue lab'))).toBe('granted')
    await must(school.owner.patch(path, { seats: null, confirmed: true }))
    expect((await sheetOf(tue(0))).groups.find(({ title }) => title === 'Tempeh')).toMatchObject({
      seats: 3,
      taken: 5,
    })
  })

  it('keep a seat free for a named person, who alone can take it', async () => {
    const { course_id } = harness.stores.sheets.byCode(school.sheet)!
    const person = harness.stores.roster
      .everybody(course_id)
      .find(({ email }) => email === studentEmail('Tue lab', 4))!.code
    const path = `${at()}/groups/${school.groups['Tempeh/Tue lab']}/held`
    await must(school.owner.post(path, { person }))
    expect((await school.owner.post<Problem>(path, { note: '' })).body.errors?.[0]?.path).toBe('note')
    for (const n of [0, 1]) expect(outcome(await take(tue(n), 'Tempeh/Tue lab'))).toBe('granted')
    expect(outcome(await take(tue(2), 'Tempeh/Tue lab'))).toBe('group-full')
    const seen = (await sheetOf(tue(2))).groups.find(({ title }) => title === 'Tempeh')
    expect(seen).toMatchObject({ taken: 2, held: 1, heldForYou: false })
    expect(JSON.stringify(seen)).not.toContain('Student 4')
    expect(outcome(await take(tue(4), 'Tempeh/Tue lab'))).toBe('granted')
    expect((await topic('Tempeh')).groups[0]!.held).toEqual([])
  })
})

describe('asking for a change', () => {
  const ask = (client: ReturnType<typeof tue>, to: string | null, reason = 'My bus leaves early.') =>
    client.post<StudentSheet & Problem>(`${at()}/requests`, {
      from: school.groups['Tempeh/Tue lab'],
      to: to && school.groups[to],
      reason,
    })
  const waiting = async () =>
    (await must<{ requests: { code: string }[] }>(school.owner.get(`${at()}/requests`))).requests
  const answer = async (granted: boolean) =>
    school.owner.post<Problem>(`${at()}/requests/${(await waiting())[0]!.code}/answer`, { granted })
  beforeEach(async () => {
    await rule({ changing: 'by-asking' })
    await take(tue(0), 'Tempeh/Tue lab')
  })

  it('moves the student once it is granted, also after the close, and says so by mail and on the page', async () => {
    expect((await ask(tue(0), 'Kefir/Tue lab')).body.request).toMatchObject({ state: 'open' })
    harness.clock.set('2026-05-14T00:00:00.000Z')
    expect((await answer(true)).status).toBe(200)
    const sheet = await sheetOf(tue(0))
    expect(sheet.seats.map(({ group }) => group)).toEqual([school.groups['Kefir/Tue lab']])
    expect(sheet.request).toMatchObject({ state: 'granted' })
    expect(harness.stores.mail.newest(1)[0]).toMatchObject({
      recipient: studentEmail('Tue lab', 0),
      subject: expect.stringMatching(/granted/),
    })
    expect(await waiting()).toEqual([])
  })

  it('leaves everything as it was when it is declined', async () => {
    await ask(tue(0), 'Kefir/Tue lab')
    await answer(false)
    const sheet = await sheetOf(tue(0))
    expect(sheet.seats.map(({ group }) => group)).toEqual([school.groups['Tempeh/Tue lab']])
    expect(sheet.request).toMatchObject({ state: 'declined' })
  })

  it('cannot be granted into a full group, and then still waits', async () => {
    for (const n of [1, 2, 3]) await take(tue(n), 'Kefir/Tue lab')
    await ask(tue(0), 'Kefir/Tue lab')
    expect((await answer(true)).body).toMatchObject({
      code: 'group-full',
      detail: expect.stringMatching(/could not be moved/),
    })
    expect(await waiting()).toHaveLength(1)
  })

  it('needs a reason, a seat, and patience', async () => {
    expect((await ask(tue(0), 'Kefir/Tue lab', '  ')).body.errors?.[0]?.path).toBe('reason')
    expect((await ask(tue(1), 'Kefir/Tue lab')).body.errors?.[0]?.path).toBe('from')
    await ask(tue(0), null)
    expect((await ask(tue(0), 'Kefir/Tue lab')).body.code).toBe('request-open-already')
  })

  it('can be taken back, and only by the one who asked', async () => {
    await ask(tue(0), null)
    const [request] = await waiting()
    expect((await tue(1).send('DELETE', `${at()}/requests/${request!.code}`)).status).toBe(404)
    const sheet = await must<StudentSheet>(tue(0).send('DELETE', `${at()}/requests/${request!.code}`))
    expect(sheet.request).toBeNull()
    expect(
      (await school.owner.post<Problem>(`${at()}/requests/${request!.code}/answer`, { granted: true })).body
        .code,
    ).toBe('request-answered')
  })

  it('is not needed where the rules do not want it', async () => {
    await rule({ changing: 'until-close' })
    expect((await ask(tue(0), 'Kefir/Tue lab')).body.code).toBe('request-not-needed')
  })
})

describe('a sheet as a whole', () => {
  it('is put away: nothing changes in it any more, until it is taken out', async () => {
    await must(school.owner.post(`${at()}/archive`, { archived: true }))
    expect(outcome(await take(tue(0), 'Tempeh/Tue lab'))).toBe('sheet-archived')
    expect((await school.owner.patch<Problem>(at(), { title: 'x' })).body.code).toBe('sheet-archived')
    await must(school.owner.post(`${at()}/archive`, { archived: false }))
    expect(outcome(await take(tue(0), 'Tempeh/Tue lab'))).toBe('granted')
  })

  it('that is a draft stays hidden from students when it is put away', async () => {
    const draft = await setUpSchool(harness, { students: { '': 1 }, topics: ['Koji'], publish: false })
    await must(draft.owner.post(`/api/sheets/${draft.sheet}/archive`, { archived: true }))
    const student = harness.as(studentEmail('', 0))
    expect((await student.get(`/api/sheets/${draft.sheet}/student`)).status).toBe(404)
    expect((await must<StudentHome>(student.get('/api/home'))).sheets).toEqual([])
  })

  it('is deleted as if it did not exist, and brought back as it was', async () => {
    await take(tue(0), 'Tempeh/Tue lab')
    await must(school.owner.send('DELETE', at()))
    expect((await school.owner.get(`${at()}/compose`)).status).toBe(404)
    expect((await tue(0).get(`${at()}/student`)).status).toBe(404)
    expect((await must<StudentHome>(tue(0).get('/api/home'))).sheets).toEqual([])
    await must(school.owner.post(`/api/courses/${school.course}/deleted/${school.sheet}/restore`))
    expect((await sheetOf(tue(0))).seats).toHaveLength(1)
  })

  it('is copied without its people, its dates moved with the opening', async () => {
    await take(tue(0), 'Tempeh/Tue lab')
    const { code } = await topic('Tempeh')
    await must(
      school.owner.patch(`${at()}/topics/${code}`, {
        startsAt: '2026-05-20T10:00',
        endsAt: '2026-05-20T11:00',
      }),
    )
    await must(school.owner.patch(`${at()}/groups/${school.groups['Miso/Wed lab']}`, { seats: 7 }))
    const copied = await must<ComposeView>(
      school.owner.post(`${at()}/copy`, {
        course: school.course,
        title: 'Next term',
        opensAt: '2026-09-07T09:00',
      }),
    )
    expect(copied).toMatchObject({
      title: 'Next term',
      state: 'draft',
      opensAt: '2026-09-07T07:00:00.000Z',
      closesAt: '2026-09-14T15:00:00.000Z',
    })
    expect(copied.topics.map(({ title }) => title)).toEqual(['Tempeh', 'Kefir', 'Miso'])
    expect(copied.topics[0]).toMatchObject({
      startsAt: '2026-09-21T08:00:00.000Z',
      endsAt: '2026-09-21T09:00:00.000Z',
    })
    expect(copied.topics[2]!.groups.map(({ own }) => own.seats)).toEqual([null, 7])
    expect(copied.topics.flatMap(({ groups }) => groups.map(({ taken }) => taken))).toEqual([
      0, 0, 0, 0, 0, 0,
    ])
    const elsewhere = await setUpSchool(harness, { students: { '': 1 }, topics: ['Koji'] })
    const other = await must<ComposeView>(
      school.owner.post(`${at()}/copy`, { course: elsewhere.course, title: 'Elsewhere', opensAt: null }),
    )
    expect(other).toMatchObject({ opensAt: null, closesAt: null, topics: [{ startsAt: null }, {}, {}] })
    expect(other.topics[0]!.groups).toHaveLength(1)
    const stranger = await school.owner.post<Problem>(`${at()}/copy`, {
      course: 'no-such-course',
      title: 'x',
      opensAt: null,
    })
    expect(stranger.body.errors?.[0]?.path).toBe('course')
  })
})

describe('tutors on groups', () => {
  it('are assigned by instructors, and only from the course’s own staff', async () => {
    const { course_id } = harness.stores.sheets.byCode(school.sheet)!
    const codeOf = (email: string) =>
      harness.stores.roster.everybody(course_id).find((one) => one.email === email)!.code
    const groups = [school.groups['Tempeh/Tue lab'], school.groups['Kefir/Wed lab']]
    const assign = (tutors: string[]) =>
      school.owner.send<Problem>('PUT', `${at()}/tutors`, { groups, tutors })
    expect((await assign([codeOf(studentEmail('Tue lab', 0))])).body.errors?.[0]?.path).toBe('tutors[0]')
    await must(assign([codeOf('tutor@school.example')]))
    const run = await must<{ you: string; groups: { code: string; tutors: string[] }[] }>(
      harness.as('tutor@school.example').get(`${at()}/run`),
    )
    expect(
      run.groups
        .filter(({ tutors }) => tutors.includes(run.you))
        .map(({ code }) => code)
        .sort(),
    ).toEqual([...groups].sort())
  })
})
