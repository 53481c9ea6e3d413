import pino from 'pino'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { ListsView } from '../../src/contract/lists.ts'
import type { PlanContent, SettleView } from '../../src/contract/plans.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { RunView, StudentHome } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import { createOutboxMailer } from '../../src/server/mail/mailer.ts'
import { createClosing, tellOfLate } from '../../src/server/plans/closing.ts'
import { createPlanner } from '../../src/server/plans/planner.ts'
import {
  type Client,
  claim,
  type Harness,
  must,
  outcome,
  type School,
  setUpSchool,
  studentEmail,
  unitWith,
} from './harness.ts'
import { type Labs, startLabs } from './labs.ts'
import { planningIn } from './planning.ts'

let labs: Labs
let harness: Harness
let school: School
const { settle, runView, apply, mailsTo, agree } = planningIn(() => labs)
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
  school = labs.school
})
afterEach(async () => {
  agree()
  await harness.end()
})

const compose = () => must<ComposeView>(school.owner.get(`${labs.at}/compose`))
const home = (client: Client) => must<StudentHome>(client.get('/api/home'))

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
    const content = await emptyContent({ titles: ['Group 1', 'Group 2'], mixed: true, seats: 4 })
    await must(apply({ ...content, moves }))
    const view = await runView()
    const made = view.topics.filter(({ title }) => title.startsWith('Group'))
    expect(made).toHaveLength(2)
    for (const { code } of made)
      expect(view.groups.filter(({ topic }) => topic === code).map(({ section }) => section)).toEqual([null])
    expect(view.seats).toHaveLength(7)
  })
})

async function emptyContent(made: PlanContent['settings']['made']): Promise<PlanContent> {
  const { basis } = await settle()
  const {
    moves: _,
    left: __,
    ...plan
  } = makePlan({
    ...basis,
    people: [],
    method: 'evenly',
    lotNumber: 1,
    floorsFirst: true,
    mayDissolve: false,
    release: 'none',
    pins: [],
  })
  const { conflicts, dissolved, before, after, gap, evenChances } = plan
  const settings = { method: 'evenly' as const, lotNumber: 1, floorsFirst: true, mayDissolve: false }
  return {
    settings: { ...settings, release: 'none', made },
    moves: [],
    left: [],
    conflicts,
    dissolved,
    before,
    after,
    gap,
    evenChances,
    mix: null,
  }
}

describe('groups that the instructor makes', () => {
  const newSheet = async (more: object = {}) => {
    const sheet = await must<ComposeView>(
      school.owner.post(`/api/courses/${school.course}/sheets`, {
        title: 'Pairs',
        road: 'made',
        mixed: true,
        ...more,
      }),
    )
    return `/api/sheets/${sheet.code}`
  }
  const makeIn = async (at: string, sizes: number[], tell = false) => {
    const view = await must<SettleView>(school.owner.get(`${at}/settle`))
    const keys = sizes.flatMap((size, i) => Array.from({ length: size }, () => `made ${i}`))
    const moves = view.basis.people.map(({ key }, i) => ({
      person: key,
      from: null,
      to: keys[i]!,
      reason: { code: 'even' as const },
    }))
    const titles = sizes.map((_, i) => `Pair ${i + 1}`)
    const content = await emptyContent({ titles, mixed: true, seats: Math.max(...sizes) })
    await must(
      school.owner.post(`${at}/plans/apply`, {
        key: 'made-plan-1',
        title: 'Made',
        content: { ...content, moves },
        tell,
      }),
    )
  }

  it('are nobody’s to know before they are published, need no window, and are told by mail only then', async () => {
    const at = await newSheet()
    const none = await school.owner.post<Problem>(`${at}/publish`)
    expect(none.body).toMatchObject({ code: 'sheet-not-ready', detail: expect.stringContaining('Settle') })
    await makeIn(at, [3, 2, 2], true)
    expect(mailsTo('Tue lab', 0)).toEqual([])
    expect((await labs.tue(0).get(`${at}/student`)).status).toBe(404)
    expect((await home(labs.tue(0))).sheets.map(({ title }) => title)).not.toContain('Pairs')
    const view = await must<RunView>(school.owner.get(`${at}/run`))
    // A smaller group has no free seat that nobody meant.
    expect(view.groups.map(({ seats }) => seats)).toEqual([3, 2, 2])
    await must(school.owner.post(`${at}/publish`, { tell: true }))
    const [mail] = mailsTo('Tue lab', 0)
    expect(mail?.subject).toBe('Pairs: you sit at Pair 1')
    expect(mail?.body).toMatch(
      /With: Student 1 Tue lab, Student 2 Tue lab\.[\s\S]*Who answers for the group: you\.[\s\S]*\/s\/\w+/,
    )
    const own = await must<{ seats: unknown[]; state: string }>(labs.tue(0).get(`${at}/student`))
    expect(own.seats).toHaveLength(1)
    expect(own.state).toBe('closed')
    expect((await must<ComposeView>(school.owner.get(`${at}/compose`))).state).toBe('closed')
  })

  it('are not taken, moved, given up, waited for or asked for by students; the page says who makes them', async () => {
    const at = await newSheet()
    await makeIn(at, [4, 3])
    await must(school.owner.post(`${at}/publish`))
    const view = await must<RunView>(school.owner.get(`${at}/run`))
    const [one, two] = view.groups.map(({ code }) => code)
    const asks = [
      { kind: 'give-up', from: one },
      { kind: 'move', from: one, to: two },
      { kind: 'take', to: two },
      { kind: 'wait', to: two },
    ]
    for (const [i, ask] of asks.entries()) {
      const answer = await labs.tue(0).post<Problem>(`${at}/claims`, { key: `made-claim-${i}`, ...ask })
      expect(outcome(answer as never)).toBe('groups-are-made')
      expect(answer.body.detail).toMatch(/instructor makes the groups/)
    }
    const asked = await labs.tue(0).post<Problem>(`${at}/requests`, { from: one, to: two, reason: 'Please' })
    expect(asked.body.code).toBe('groups-are-made')
  })

  it('may take over from choosing, and give way to it; both are asked about where somebody sits or waits', async () => {
    await labs.rule({ fullGroups: 'line', seats: 1 })
    await labs.take(labs.tue(0), 'Tempeh/Tue lab')
    await must(
      labs.tue(1).post(`${labs.at}/claims`, {
        key: 'waits-for-it',
        kind: 'wait',
        to: school.groups['Tempeh/Tue lab'],
      }),
    )
    const asked = await school.owner.patch<Problem>(labs.at, { road: 'made' })
    expect(asked.body.code).toBe('seated-affected')
    expect(asked.body.affected?.map(({ name }) => name)).toEqual(['Student 0 Tue lab', 'Student 1 Tue lab'])
    const view = await labs.rule({ road: 'made' })
    expect(view.state).toBe('closed')
    const sheet = await labs.sheetOf(labs.tue(1))
    expect(sheet.groups.every(({ yourPlace }) => yourPlace === null)).toBe(true)
    expect((await labs.sheetOf(labs.tue(0))).seats).toHaveLength(1)
    // Choosing again asks who sits there, and takes a window.
    expect((await school.owner.patch<Problem>(labs.at, { road: 'chosen' })).body.code).toBe('seated-affected')
    await labs.rule({ road: 'chosen', closesAt: '2026-06-01T17:00' })
    harness.clock.advance(60 * 60_000)
    expect(outcome(await labs.take(labs.tue(2), 'Kefir/Tue lab'))).toBe('granted')
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

describe('seating by hand', () => {
  it('tells nobody unless that is wanted, and an undo within a minute recalls the mail; later a mail says so', async () => {
    const { people } = await runView()
    const person = people.find(({ name }) => name === 'Student 0 Tue lab')!.code
    const [one, two] = [school.groups['Tempeh/Tue lab']!, school.groups['Kefir/Tue lab']!]
    const seat = (from: string | null, to: string | null, more: object) =>
      must(
        school.owner.post(`${labs.at}/seatings`, {
          changes: [{ person, from, to }],
          confirmed: true,
          ...more,
        }),
      )
    await seat(null, one, {})
    expect(mailsTo('Tue lab', 0)).toEqual([])
    await seat(one, two, { tell: { as: 'by-hand-1' } })
    expect(mailsTo('Tue lab', 0)).toMatchObject([
      { subject: 'Culture benches: you sit at Kefir', state: 'waiting' },
    ])
    await seat(two, one, { recall: 'by-hand-1' })
    expect(mailsTo('Tue lab', 0)).toEqual([])
    await seat(one, two, { tell: { as: 'by-hand-2' } })
    harness.clock.advance(61_000)
    harness.db.transaction(() => harness.stores.mail.keepHeld(harness.clock.now()))()
    await seat(two, one, { recall: 'by-hand-2' })
    expect(mailsTo('Tue lab', 0).map(({ subject }) => subject)).toEqual([
      'Culture benches: what you were told of your seat was taken back',
      'Culture benches: you sit at Kefir',
    ])
  })
})

describe('newcomers', () => {
  const add = async (name: string, section: string) => {
    const { sections } = await compose()
    const code = sections.find((one) => one.name === section)!.code
    const email = `${name.toLowerCase()}@school.example`
    await must(
      school.owner.post(`/api/courses/${school.course}/roster/people`, {
        name,
        email,
        section: code,
        role: 'student',
      }),
    )
    return email
  }
  const carryOut = async () => {
    const { stores, db } = harness
    const mailer = createOutboxMailer(stores.mail, harness.clock.now)
    const unit = unitWith({ db, stores }, mailer)
    const planner = createPlanner()
    const closing = createClosing({ log: pino({ level: 'silent' }), stores, unit, mailer, planner })
    await closing.carryOut(harness.clock.now())
    tellOfLate(unit, stores, mailer, harness.clock.now())
    await closing.stop()
  }

  it('join the smallest group of a full class by themselves, are told, and their instructor once a day', async () => {
    await labs.rule({ seats: 1, late: 'seat', lateFull: 'extra' })
    for (const [n, topic] of ['Tempeh', 'Kefir', 'Miso'].entries())
      await labs.take(labs.wed(n % 2), `${topic}/Wed lab`)
    for (const [n, topic] of ['Tempeh', 'Kefir', 'Miso'].entries())
      await labs.take(labs.tue(n), `${topic}/Tue lab`)
    await labs.rule({ closesAt: '2026-05-06T09:30' })
    harness.clock.advance(60 * 60_000)
    const email = await add('Nadia', 'Tue lab')
    await carryOut()
    const view = await must<RunView>(school.owner.get(`${labs.at}/run`))
    const nadia = view.people.find(({ name }) => name === 'Nadia')!
    const own = view.seats.find(({ person }) => person === nadia.code)!
    expect(view.groups.find(({ code }) => code === own.group)?.section).toBe(nadia.section)
    const mails = (to: string, subject: RegExp) =>
      harness.stores.mail.newest(200).filter((mail) => mail.recipient === to && subject.test(mail.subject))
    expect(mails(email, /you sit at/)).toHaveLength(1)
    const told = () => mails('owner@school.example', /new (was|people were) seated on Culture benches/)
    expect(told()).toHaveLength(1)
    expect(told()[0]?.body).toMatch(/Nadia: (Tempeh|Kefir|Miso)/)
    // One more the same day is told the next.
    await add('Omar', 'Tue lab')
    await carryOut()
    expect(told()).toHaveLength(1)
    harness.clock.advance(24 * 60 * 60_000)
    await carryOut()
    expect(told()).toHaveLength(2)
    expect(told()[0]?.body).toContain('Omar')
    expect(told()[0]?.body).not.toContain('Nadia')
  })

  it('wait for the instructor where the rule says so, who is told why', async () => {
    await labs.rule({ seats: 1, late: 'seat' })
    for (const [n, topic] of ['Tempeh', 'Kefir', 'Miso'].entries())
      await labs.take(labs.tue(n), `${topic}/Tue lab`)
    await labs.rule({ closesAt: '2026-05-06T09:30' })
    harness.clock.advance(60 * 60_000)
    await add('Nadia', 'Tue lab')
    await carryOut()
    const view = await runView()
    expect(view.seats).toHaveLength(3)
    expect((await settle()).troubles[0]).toMatchObject({ rule: 'late' })
  })
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
