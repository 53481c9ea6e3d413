import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { GroupPage } from '../../src/contract/groups.ts'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { Rehearsal } from '../../src/contract/rehearsal.ts'
import type { StudentHome, StudentSheet } from '../../src/contract/seats.ts'
import type { Me } from '../../src/contract/session.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { claim, type Harness, must, type School, setUpSchool, startHarness, studentEmail } from './harness.ts'

let harness: Harness
let school: School
beforeEach(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, {
    sections: ['Tue lab', 'Wed lab'],
    students: { 'Tue lab': 2, 'Wed lab': 1 },
    topics: ['Tempeh', 'Kefir'],
  })
})
afterEach(() => harness.end())

/** As somebody invented in the first section, now. */
const NOW = { person: null, section: null, at: null }
const begin = (body: object = {}, sheet = school.sheet) =>
  school.owner.post<Rehearsal & Problem>(`/api/sheets/${sheet}/rehearsal`, { ...NOW, ...body })
/** The pages of a rehearsal, as its instructor's browser asks for them. */
const played = async (body: object = {}, sheet = school.sheet) => {
  const { code, as, at } = await must(begin(body, sheet))
  const below = (path: string) => `/rehearsal/${code}${path}`
  return {
    code,
    as,
    at,
    below,
    get: <T>(path: string) => must<T>(school.owner.get(below(path))),
    asks: <T = Problem>(method: string, path: string, sent?: unknown) =>
      school.owner.send<T>(method, below(path), sent),
  }
}
const codeOf = (email: string) => {
  const { course_id } = harness.stores.sheets.byCode(school.sheet)!
  return harness.stores.roster.everybody(course_id).find((one) => one.email === email)!.code
}
const takes = (to: string | undefined, key = 'rehearsed-1') => ({ key, kind: 'take', to })
/** Everything that is kept of a sheet, and the mail: nothing of it may come from a rehearsal. */
const kept = () => {
  const { ledger, mail, sheets, roster } = harness.stores
  const sheet = sheets.byCode(school.sheet)!
  return {
    ledger: ledger.since(sheet.id, 0).length,
    mail: mail.lastId(),
    people: roster.everybody(sheet.course_id).length,
    published: sheet.published_at,
  }
}

describe('a rehearsal', () => {
  it('is all that a student meets: first page, sheet, group page, talk, a locked task, hand-in; nothing is kept', async () => {
    await must(school.owner.send('PUT', `/api/sheets/${school.sheet}/extras`, { talk: true }))
    await must(school.owner.post(`/api/sheets/${school.sheet}/tasks`, { title: 'Report', out: true }))
    const before = kept()
    const one = await played()
    expect(one.as).toBe('an invented student of Tue lab')
    expect((await one.get<Me>('/api/me')).enrolments.map(({ role }) => role)).toEqual(['student'])
    expect((await one.get<StudentHome>('/api/home')).sheets).toMatchObject([{ tasks: { locked: 1 } }])
    const at = `/api/sheets/${school.sheet}`
    const work = () => one.get<OwnWork>(`${at}/own-work`)
    expect((await work()).tasks[0]?.gate.state).toBe('locked')
    const group = school.groups['Tempeh/Tue lab']!
    expect((await one.asks('GET', `${at}/groups/${group}`)).status).toBe(404)
    await must(one.asks('POST', `${at}/claims`, takes(group)))
    const page = await one.get<GroupPage>(`${at}/groups/${group}`)
    expect(page.members.map(({ name }) => name)).toEqual(['Somebody New'])
    await must(one.asks('POST', `${at}/groups/${group}/talk`, { title: 'Hello', text: 'Who else?' }))
    const task = (await work()).tasks[0]!.code
    await must(one.asks('POST', `${at}/tasks/${task}/hand-ins`, { group, text: 'pH 4.2', after: 0 }))
    expect((await work()).tasks[0]?.work?.handIns).toHaveLength(1)
    expect((await one.get<StudentHome>('/api/home')).sheets).toMatchObject([
      { tasks: { open: 0, locked: 0 } },
    ])
    expect(kept()).toEqual(before)
    // What staff see, a student does not.
    for (const path of ['compose', 'run', 'settle', 'work', 'ledger'])
      expect([403, 404]).toContain((await one.asks('GET', `${at}/${path}`)).status)
  })

  it('as a real student is word for word what that student gets', async () => {
    const student = harness.as(studentEmail('Tue lab', 0))
    for (const n of [1, 0])
      await claim(harness.as(studentEmail('Tue lab', n)), school.sheet, {
        kind: 'take',
        to: school.groups['Tempeh/Tue lab'],
      })
    const one = await played({ person: codeOf(studentEmail('Tue lab', 0)) })
    const path = `/api/sheets/${school.sheet}/student`
    const { now: _, ...shown } = await one.get<StudentSheet>(path)
    const { now: __, ...own } = await must<StudentSheet>(student.get(path))
    expect(shown).toEqual(own)
    expect(one.as).toBe('Student 0 Tue lab')
  })

  it('is played at any hour: as it is after the close, and before the opening', async () => {
    const after = await played({ at: '2026-05-14T09:00' })
    const sheet = await after.get<StudentSheet>(`/api/sheets/${school.sheet}/student`)
    expect(sheet.state).toBe('closed')
    const late = await after.asks<{ problem?: Problem } & Problem>(
      'POST',
      `/api/sheets/${school.sheet}/claims`,
      takes(school.groups['Tempeh/Tue lab']),
    )
    expect(late.status).toBe(409)
    await must(school.owner.patch(`/api/sheets/${school.sheet}`, { opensAt: '2026-05-08T09:00' }))
    // What is not open yet is played from its opening, unless another hour is wanted.
    const opened = await played()
    expect((await opened.get<StudentSheet>(`/api/sheets/${school.sheet}/student`)).state).toBe('open')
    const before = await played({ at: '2026-05-07T09:00' })
    expect((await before.get<StudentSheet>(`/api/sheets/${school.sheet}/student`)).state).toBe('scheduled')
    const never = await begin({ at: '2026-03-29T02:30' })
    expect(never.body.errors?.[0]?.path).toBe('at')
  })

  it('of a draft is played as if it were open', async () => {
    const draft = await setUpSchool(harness, { students: { '': 1 }, topics: ['Miso'], publish: false })
    const one = await played({}, draft.sheet)
    expect((await one.get<StudentSheet>(`/api/sheets/${draft.sheet}/student`)).state).toBe('open')
    await must(one.asks('POST', `/api/sheets/${draft.sheet}/claims`, takes(draft.groups.Miso)))
    expect(harness.stores.sheets.byCode(draft.sheet)!.published_at).toBeNull()
  })

  it('of groups that are made and not out yet shows each their own, with nothing to choose', async () => {
    const student = harness.as(studentEmail('Tue lab', 0))
    await claim(student, school.sheet, { kind: 'take', to: school.groups['Tempeh/Tue lab'] })
    const at = `/api/sheets/${school.sheet}`
    await must(school.owner.post(`${at}/withdraw`, { confirmed: true }))
    await must(school.owner.patch(at, { road: 'made', confirmed: true }))
    const one = await played({ person: codeOf(studentEmail('Tue lab', 0)) })
    const seen = await one.get<StudentSheet>(`${at}/student`)
    expect(seen.state).toBe('closed')
    expect(seen.seats.map(({ group }) => group)).toEqual([school.groups['Tempeh/Tue lab']])
    const other = await one.asks('POST', `${at}/claims`, {
      key: 'rehearsed-2',
      kind: 'move',
      from: school.groups['Tempeh/Tue lab'],
      to: school.groups['Kefir/Tue lab'],
    })
    expect(other.status).toBe(409)
    expect((await student.get(`${at}/student`)).status).toBe(404)
  })

  it('is as somebody of another section, or of a list that the sheet is for', async () => {
    const { sections } = await must<ComposeView>(school.owner.get(`/api/sheets/${school.sheet}/compose`))
    const wed = await played({ section: sections[1]!.code })
    const seen = await wed.get<StudentSheet>(`/api/sheets/${school.sheet}/student`)
    expect(seen.section).toBe('Wed lab')
    expect(seen.groups.map(({ code }) => code)).toEqual([
      school.groups['Tempeh/Wed lab'],
      school.groups['Kefir/Wed lab'],
    ])
    const { added } = await must<{ added: string }>(
      school.owner.post(`/api/courses/${school.course}/lists`, {
        title: 'Some',
        note: '',
        people: [codeOf(studentEmail('Tue lab', 0))],
      }),
    )
    await must(school.owner.patch(`/api/sheets/${school.sheet}`, { forWhom: 'list', list: added }))
    const one = await played()
    expect((await one.get<StudentHome>('/api/home')).sheets).toHaveLength(1)
    const nobody = await begin({ person: codeOf(studentEmail('Tue lab', 1)) })
    expect(nobody.body.errors?.[0]?.path).toBe('person')
    expect((await begin({ section: 'nothing' })).body.errors?.[0]?.path).toBe('section')
  })

  it('is one for each person, however often it is begun at once', async () => {
    const tutor = harness.as('tutor@school.example')
    const theirs = await must<Rehearsal>(tutor.post(`/api/sheets/${school.sheet}/rehearsal`, NOW))
    // One stands already: all that come have to wait until it has ended, and go on in the same moment.
    expect((await begin()).status).toBe(200)
    const many = await Promise.all(Array.from({ length: 8 }, () => begin()))
    const alive = await Promise.all(
      many.map(async ({ body }) => (await school.owner.get(`/rehearsal/${body.code}/api/me`)).status),
    )
    expect(alive.filter((status) => status === 200)).toHaveLength(1)
    // Nobody else's ends by it.
    expect((await tutor.get(`/rehearsal/${theirs.code}/api/me`)).status).toBe(200)
  })

  it('as a real student shows nothing of theirs besides: no other course, no secret address, no sign-in', async () => {
    const email = studentEmail('Tue lab', 0)
    const elsewhere = await setUpSchool(harness, { students: { '': 1 }, topics: ['Miso'] })
    const csv = `name,email,role\nStudent 0 Tue lab,${email},student\nOwner,owner@school.example,instructor`
    await must(
      school.owner.post(`/api/courses/${elsewhere.course}/roster/import`, { csv, skipFaults: false }),
    )
    const student = harness.as(email)
    expect((await must<StudentHome>(student.get('/api/home'))).sheets).toHaveLength(2)
    await must(student.post('/api/calendar', {}))
    const one = await played({ person: codeOf(email) })
    expect((await one.get<StudentHome>('/api/home')).sheets).toHaveLength(1)
    const me = await one.get<Me>('/api/me')
    expect(me.enrolments).toHaveLength(1)
    expect(me.email).toBe(email)
    expect(await one.get<object>('/api/calendar')).toMatchObject({ path: null })
    expect((await one.asks('GET', `/api/sheets/${elsewhere.sheet}/student`)).status).toBe(404)
  })

  it('is for whoever began it alone, hands the browser no cookie, and is over when it is ended or another begins', async () => {
    const one = await played()
    const strangers = [
      harness.stranger,
      harness.as('tutor@school.example'),
      harness.as(studentEmail('Tue lab', 0)),
    ]
    for (const other of strangers)
      expect((await other.get<Problem>(one.below('/api/me'))).body.code).toBe('rehearsal-over')
    const out = await one.asks('POST', '/api/access/sign-out')
    expect(out.headers.get('set-cookie')).toBeNull()
    expect((await school.owner.get('/api/me')).status).toBe(200)
    const next = await played()
    expect((await one.asks('GET', '/api/me')).status).toBe(404)
    await must(school.owner.send('DELETE', '/api/rehearsal'))
    expect((await next.asks('GET', '/api/me')).status).toBe(404)
    expect(
      (await harness.as(studentEmail('Tue lab', 0)).post(`/api/sheets/${school.sheet}/rehearsal`, NOW))
        .status,
    ).toBe(403)
  })
})
