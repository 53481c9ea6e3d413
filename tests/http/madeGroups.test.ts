import { describe, expect, it } from 'vitest'
import type { GroupPage } from '../../src/contract/groups.ts'
import type { SettleView } from '../../src/contract/plans.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { RunView, StudentHome } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { type Client, type Harness, must, outcome, type School } from './harness.ts'
import type { Labs } from './labs.ts'
import { labsEach } from './planning.ts'

let labs: Labs
let harness: Harness
let school: School
const { emptyPlan, runView, mailsTo } = labsEach((started) => {
  labs = started
  harness = started.harness
  school = started.school
})

const home = (client: Client) => must<StudentHome>(client.get('/api/home'))

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
    const content = await emptyPlan({ titles, mixed: true, seats: Math.max(...sizes) })
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

  it('can be named by their section and number: each is a topic of its own there', async () => {
    const at = await newSheet({ mixed: false })
    const view = await must<SettleView>(school.owner.get(`${at}/settle`))
    const [tue, wed] = view.sections.map(({ code }) => code)
    let n = 0
    const moves = view.basis.people.map(({ key, section }) => {
      // Five on Tuesday in two groups, two on Wednesday in one.
      const to = section === tue ? `made ${n++ % 2} ${tue}` : `made 0 ${wed}`
      return { person: key, from: null, to, reason: { code: 'even' as const } }
    })
    const content = await emptyPlan({ titles: ['§ 1', '§ 2'], mixed: false, seats: 3 })
    const plan = { key: 'by-section', title: 'Made', content: { ...content, moves }, tell: false }
    await must(school.owner.post(`${at}/plans/apply`, plan))
    const made = await must<ComposeView>(school.owner.get(`${at}/compose`))
    expect(
      made.topics.map(({ title, groups }) => [title, groups.map(({ state, taken }) => [state, taken])]),
    ).toEqual([
      [
        'Tue lab 1',
        [
          ['offered', 3],
          ['not-offered', 0],
        ],
      ],
      [
        'Tue lab 2',
        [
          ['offered', 2],
          ['not-offered', 0],
        ],
      ],
      [
        'Wed lab 1',
        [
          ['not-offered', 0],
          ['offered', 2],
        ],
      ],
    ])
    await must(school.owner.post(`${at}/plans/by-section/undo`, {}))
    expect((await must<ComposeView>(school.owner.get(`${at}/compose`))).topics).toEqual([])
  })

  it('are made and go out in one step, or neither: what cannot go out is not made', async () => {
    const at = await newSheet()
    const view = await must<SettleView>(school.owner.get(`${at}/settle`))
    const moves = view.basis.people.map(({ key }) => ({
      person: key,
      from: null,
      to: 'made 0',
      reason: { code: 'even' as const },
    }))
    const content = { ...(await emptyPlan({ titles: ['All'], mixed: true, seats: 7 })), moves }
    const plan = { key: 'all-at-once', title: 'Made', content, tell: true, publish: true }
    // Where students choose, a sheet goes out with a close alone.
    await must(school.owner.patch(at, { road: 'chosen' }))
    const refused = await school.owner.post<Problem>(`${at}/plans/apply`, plan)
    expect(refused.body.code).toBe('sheet-not-ready')
    const before = await must<ComposeView>(school.owner.get(`${at}/compose`))
    expect([before.topics, before.publishedAt]).toEqual([[], null])
    expect(mailsTo('Tue lab', 0)).toEqual([])
    await must(school.owner.patch(at, { road: 'made' }))
    await must(school.owner.post(`${at}/plans/apply`, plan))
    const after = await must<ComposeView>(school.owner.get(`${at}/compose`))
    expect(after.publishedAt).not.toBeNull()
    expect(after.topics.map(({ groups }) => groups.map(({ taken }) => taken))).toEqual([[7]])
    expect(mailsTo('Tue lab', 0)).toHaveLength(1)
    await must(school.owner.post(`${at}/withdraw`, { confirmed: true }))
    await must(school.owner.post(`${at}/plans/all-at-once/undo`, {}))
    expect((await must<ComposeView>(school.owner.get(`${at}/compose`))).topics).toEqual([])
  })

  it('have the first subject and the first task of their sheet, whenever they are made', async () => {
    const firstSubject = { title: 'Who are you?', text: 'Say one thing.' }
    const late = { title: 'Log', dueAt: '2026-05-20T17:00' }
    const at = await newSheet({ extras: ['talk'], firstSubject, firstTask: late })
    const twoOf = (rounds: string[]) =>
      Promise.all(
        rounds.map(async (code) => {
          const page = await must<GroupPage>(school.owner.get(`${at}/groups/${code}`))
          return [page.talk.map(({ title, shared }) => [title, shared]), page.tasks.map(({ title }) => title)]
        }),
      )
    await makeIn(at, [3, 4])
    const made = (await must<RunView>(school.owner.get(`${at}/run`))).groups.map(({ code }) => code)
    expect(made).toHaveLength(2)
    const both = [[[firstSubject.title, true]], ['Log']]
    expect(await twoOf(made)).toEqual([both, both])
    // A group that comes later has what its sisters have.
    const later = await must<ComposeView>(school.owner.post(`${at}/topics`, { title: 'Pair 3' }))
    expect(await twoOf(later.topics.at(-1)!.groups.map(({ code }) => code))).toEqual([both])
    const without = await school.owner.post<Problem>(`/api/courses/${school.course}/sheets`, {
      title: 'Half said',
      firstSubject: { title: 'Only a title' },
      firstTask: { title: '', dueAt: 'soon' },
    })
    expect(new Set(without.body.errors?.map(({ path }) => path))).toEqual(
      new Set(['firstSubject.text', 'firstTask.dueAt', 'firstTask.title']),
    )
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

  it('recalls all that its step caused, also where the mail before was recalled in the same step, or it is undone in the ledger', async () => {
    const { people } = await runView()
    const person = people.find(({ name }) => name === 'Student 0 Tue lab')!.code
    const other = people.find(({ name }) => name === 'Student 1 Tue lab')!.code
    const [one, two] = [school.groups['Tempeh/Tue lab']!, school.groups['Kefir/Tue lab']!]
    const seat = (changes: object[], more: object) =>
      must<{ position: number }>(
        school.owner.post(`${labs.at}/seatings`, { changes, confirmed: true, ...more }),
      )
    const told = () => [0, 1].map((n) => mailsTo('Tue lab', n).map(({ subject }) => subject))
    await seat([{ person, from: null, to: one }], { tell: { as: 'by-hand-1' } })
    await seat([{ person, from: one, to: two }], { recall: 'by-hand-1', tell: { as: 'by-hand-2' } })
    await seat([{ person, from: two, to: null }], { recall: 'by-hand-2' })
    expect(told()).toEqual([[], []])
    // In the ledger one change of a step is undone, and its mail alone is recalled.
    const both = [person, other].map((who) => ({ person: who, from: null, to: one }))
    await seat(both, { tell: { as: 'by-hand-3' } })
    expect(told().map(({ length }) => length)).toEqual([1, 1])
    const { entries } = await must<{ entries: { position: number; person: string; kind: string }[] }>(
      school.owner.get(`${labs.at}/ledger`),
    )
    const { position } = entries.findLast((entry) => entry.person === person && entry.kind === 'seat-taken')!
    await must(school.owner.post(`${labs.at}/ledger/${position}/undo`, { confirmed: true }))
    expect(told().map(({ length }) => length)).toEqual([0, 1])
  })
})
