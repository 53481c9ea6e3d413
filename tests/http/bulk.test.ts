import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { LedgerView } from '../../src/contract/ledger.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { RunView } from '../../src/contract/seats.ts'
import type { ComposeView } from '../../src/contract/sheets.ts'
import { type Harness, must } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
let harness: Harness
beforeEach(async () => {
  labs = await startLabs()
  harness = labs.harness
})
afterEach(() => harness.end())

const view = () => must<ComposeView>(labs.school.owner.get(`${labs.at}/compose`))
const several = (topics: object[]) =>
  labs.school.owner.post<Problem & ComposeView>(`${labs.at}/topics/several`, { topics })

describe('several topics at once', () => {
  it('are all added, in order, with what each says', async () => {
    const { body } = await several([
      { title: 'Natto', seats: 'none', place: 'Bench 9' },
      {
        title: 'Koji',
        startsAt: '2026-05-20T10:00',
        endsAt: '2026-05-20T11:30',
        link: 'https://meet.example/k',
      },
    ])
    expect(body.topics.slice(3)).toMatchObject([
      { title: 'Natto', seats: 0, place: 'Bench 9', startsAt: null },
      { title: 'Koji', startsAt: '2026-05-20T08:00:00.000Z', endsAt: '2026-05-20T09:30:00.000Z' },
    ])
    expect(body.topics.every(({ groups }) => groups.length === 2)).toBe(true)
  })

  it.each([
    [{ title: 'Bad', seats: 0 }, 'topics[1].seats'],
    [{ title: 'Bad', floor: 1.5 }, 'topics[1].floor'],
    [{ title: '' }, 'topics[1].title'],
    [{ title: 'Bad', link: 'javascript:alert(1)' }, 'topics[1].link'],
    [{ title: 'Bad', startsAt: 'soon' }, 'topics[1].startsAt'],
    [{ title: 'Bad', startsAt: '2026-05-20T10:00', endsAt: '2026-05-20T09:00' }, 'topics[1].endsAt'],
    [{ title: 'Bad', endsAt: '2026-05-20T09:00' }, 'topics[1].endsAt'],
    [{ title: 'Bad', startsAt: '2026-03-29T02:30' }, 'topics[1].startsAt'],
  ])('are none of them added when one is wrong: %j', async (wrong, path) => {
    const before = await view()
    const { status, body } = await several([{ title: 'Good' }, wrong])
    expect(status).toBe(422)
    expect(body.errors?.map((error) => error.path)).toContain(path)
    expect((await view()).topics).toEqual(before.topics)
  })

  it('bring along what single groups have of their own, seats kept free among it', async () => {
    const before = await view()
    const [tue, wed] = before.sections.map(({ code }) => code)
    const { people } = await must<RunView>(labs.school.owner.get(`${labs.at}/run`))
    const person = people.find(({ section }) => section === tue)
    const { status, body } = await several([
      {
        title: 'Natto',
        seats: 3,
        groups: [
          {
            section: tue,
            seats: 2,
            startsAt: '2026-05-20T22:00',
            endsAt: '2026-05-21T01:00',
            held: [{ person: person?.code }, { note: 'a guest' }],
          },
          { section: wed, offered: false },
        ],
      },
      {
        title: 'Koji',
        mixed: true,
        groups: [{ section: null, place: null, link: null, held: [{ note: 'a guest' }] }],
      },
    ])
    expect(status).toBe(200)
    const [natto, koji] = body.topics.slice(3)
    expect(natto?.groups).toMatchObject([
      {
        section: tue,
        state: 'offered',
        own: {
          seats: 2,
          startsAt: '2026-05-20T20:00:00.000Z',
          endsAt: '2026-05-20T23:00:00.000Z',
          place: null,
        },
        held: [
          { person: person?.code, name: person?.name },
          { person: null, note: 'a guest' },
        ],
      },
      { section: wed, state: 'not-offered', own: { seats: null, startsAt: null }, held: [] },
    ])
    expect(koji?.groups).toMatchObject([{ section: null, state: 'offered', held: [{ note: 'a guest' }] }])
    const { entries } = await must<LedgerView>(labs.school.owner.get(`${labs.at}/ledger`))
    expect(entries.filter(({ kind }) => kind === 'seat-held')).toHaveLength(3)
    expect(entries.filter(({ kind }) => kind === 'group-changed')).toHaveLength(2)
  })

  it('are none of them added when a group of one is wrong, and it is said which', async () => {
    const before = await view()
    const [tue] = before.sections.map(({ code }) => code)
    const { people } = await must<RunView>(labs.school.owner.get(`${labs.at}/run`))
    const person = people[0]?.code
    const wrong = async (groups: object[], topic: object = {}) => {
      const { status, body } = await several([{ title: 'Good' }, { title: 'Natto', ...topic, groups }])
      expect(status).toBe(422)
      expect((await view()).topics).toEqual(before.topics)
      return body.errors?.map(({ path }) => path)
    }
    expect(await wrong([{ section: 'nowhere' }])).toEqual(['topics[1].groups[0].section'])
    expect(await wrong([{ section: null }])).toEqual(['topics[1].groups[0].section'])
    expect(await wrong([{ section: tue }], { mixed: true })).toEqual(['topics[1].groups[0].section'])
    expect(await wrong([{ section: tue }, { section: tue }])).toEqual(['topics[1].groups[1].section'])
    expect(await wrong([{ section: tue, startsAt: '2026-03-29T02:30' }])).toEqual([
      'topics[1].groups[0].startsAt',
    ])
    const holds = (...held: object[]) => wrong([{ section: tue, seats: 2, held }])
    expect(await holds({ person: 'nobody' })).toEqual(['topics[1].groups[0].held[0].person'])
    expect(await holds({ note: ' ' })).toEqual(['topics[1].groups[0].held[0].note'])
    expect(await holds({ person }, { person })).toEqual(['topics[1].groups[0].held[1].person'])
    expect(await holds({ note: 'a' }, { note: 'b' }, { note: 'c' })).toEqual([
      'topics[1].groups[0].held[2].person',
    ])
    const guests = Array.from({ length: 501 }, (_, i) => ({ note: `guest ${i}` }))
    expect(
      (
        await several(
          ['A', 'B'].map((title) => ({ title, seats: 'none', groups: [{ section: tue, held: guests }] })),
        )
      ).status,
    ).toBe(422)
    expect(await wrong(Array.from({ length: 25 }, () => ({ section: tue })))).toEqual(['topics[1].groups'])
  })

  it('are refused when they are more than the sheet holds, or none', async () => {
    expect((await several(Array.from({ length: 198 }, (_, i) => ({ title: `T${i}` })))).body.code).toBe(
      'topic-limit-reached',
    )
    expect((await several([])).status).toBe(422)
  })
})

describe('limits of several groups at once', () => {
  const limits = (changes: object[], confirmed = false) =>
    labs.school.owner.send<Problem & ComposeView>('PUT', `${labs.at}/limits`, { changes, confirmed })
  const own = async () =>
    (await view()).topics.flatMap(({ groups }) => groups.map((group) => group.own.seats))

  it('are set and taken back, asking once for everybody they affect', async () => {
    const { groups } = labs.school
    for (const n of [0, 1]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
    for (const n of [2, 3]) await labs.take(labs.tue(n), 'Kefir/Tue lab')
    const tighter = ['Tempeh/Tue lab', 'Kefir/Tue lab'].map((name) => ({ group: groups[name], seats: 1 }))
    const asked = await limits(tighter)
    expect(asked.body.affected?.map(({ name }) => name)).toEqual(['Student 1 Tue lab', 'Student 3 Tue lab'])
    expect(await own()).toEqual([null, null, null, null, null, null])
    expect((await limits(tighter, true)).status).toBe(200)
    expect(await own()).toEqual([1, null, 1, null, null, null])
    const back = await limits(tighter.map(({ group }) => ({ group, seats: null })))
    expect(back.status).toBe(200)
    const sheet = harness.stores.sheets.byCode(labs.school.sheet)!
    expect(harness.stores.seats.ofSheet(sheet.id).every(({ extra }) => extra === 0)).toBe(true)
  })

  it('are refused as a whole when one group is unknown', async () => {
    const { groups } = labs.school
    const answer = await limits([
      { group: groups['Miso/Tue lab'], seats: 9 },
      { group: 'gone', seats: 9 },
    ])
    expect(answer.status).toBe(404)
    expect(await own()).toEqual([null, null, null, null, null, null])
  })
})

describe('the server', () => {
  it('answers what it does not know in the same way everywhere', async () => {
    const { owner } = labs.school
    for (const path of [
      '/api/sheets/nothing/compose',
      '/api/courses/nothing',
      '/api/links/nothing',
      '/api/nothing',
      '/api/problems/nothing',
    ]) {
      const answer = await owner.get<Problem>(path)
      expect(answer.body, path).toMatchObject({
        status: 404,
        code: 'not-found',
        type: '/api/problems/not-found',
      })
    }
    expect((await owner.patch<Problem>(`${labs.at}/groups/nothing`, { offered: true })).status).toBe(404)
    expect((await owner.patch<Problem>(`${labs.at}/topics/nothing`, { title: 'x' })).status).toBe(404)
  })

  it('is healthy, explains its problems, and lets no answer be kept', async () => {
    expect((await harness.stranger.get('/healthz')).body).toEqual({
      ok: true,
      version: expect.stringMatching(/^\d+\.\d+\.\d+$/),
      fault: null,
    })
    expect((await harness.stranger.get('/api/problems/group-full')).body).toMatchObject({ status: 409 })
    const { headers } = await harness.stranger.get('/api/about')
    expect(headers.get('cache-control')).toBe('no-store')
    expect(headers.get('content-security-policy')).toMatch(/default-src 'none'/)
    expect(headers.get('x-powered-by')).toBeNull()
  })
})
