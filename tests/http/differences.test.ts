import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DeskView } from '../../src/contract/marks.ts'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { RosterView } from '../../src/contract/roster.ts'
import type { WorkView } from '../../src/contract/tasks.ts'
import { type Answer, type Client, type Harness, must } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
let harness: Harness
let owner: Client
/** Tue lab: 0 and 1 at Tempeh, 2 at Kefir, 3 and 4 without a group. */
let codes: string[]
beforeAll(async () => {
  labs = await startLabs()
  harness = labs.harness
  owner = labs.school.owner
  await labs.rule({ seats: 4 })
  harness.clock.set('2026-05-06T10:00:00.000Z')
  await labs.take(labs.tue(0), 'Tempeh/Tue lab')
  await labs.take(labs.tue(1), 'Tempeh/Tue lab')
  await labs.take(labs.tue(2), 'Kefir/Tue lab')
  const { people } = await must<RosterView>(owner.get(`/api/courses/${labs.school.course}/roster`))
  codes = [0, 1, 2, 3, 4].map((n) => people.find(({ name }) => name === `Student ${n} Tue lab`)!.code)
})
afterAll(() => harness.end())

const group = (name: string) => labs.school.groups[`${name}/Tue lab`]!
const own = (client: Client) => must<OwnWork>(client.get(`${labs.at}/own-work`))
const setTask = async (body: object): Promise<string> => {
  const view = await must<WorkView>(
    owner.post(`${labs.at}/tasks`, { title: 'Report', out: true, dueAt: '2026-05-12T12:00', ...body }),
  )
  return view.tasks.at(-1)!.code
}
const differ = (task: string, body: object): Promise<Answer<WorkView & Problem>> =>
  owner.post(`${labs.at}/tasks/${task}/differences`, body)
const dueFor = async (client: Client, task: string) =>
  (await own(client)).tasks.find(({ code }) => code === task)?.dueAt

/** Everything that a student reads, but for the clock and the position in the ledger. */
async function read(client: Client): Promise<string> {
  const paths = [
    `${labs.at}/own-work`,
    `${labs.at}/student`,
    `${labs.at}/groups/${group('Tempeh')}`,
    `${labs.at}/groups/${group('Kefir')}`,
    '/api/home',
    '/api/me',
    '/api/find?typed=Report',
  ]
  const answers = await Promise.all(paths.map((path) => client.get(path)))
  return JSON.stringify(
    answers.map(({ status, body }) => [status, body]),
    (key, value) => (['now', 'rev', 'at'].includes(key) ? undefined : value),
  )
}

describe('a difference', () => {
  it('gives a group another date, text, form and size, and its hand-in is late by that date', async () => {
    const task = await setTask({ takesText: true, takesLinks: true })
    await must(
      differ(task, {
        groups: [group('Tempeh')],
        note: 'Their starter died',
        fields: {
          dueAt: '2026-05-06T11:00',
          late: 'always',
          instructions: 'Half of it will do.',
          takesText: true,
          takesLinks: false,
          mostWords: 3,
        },
      }),
    )
    const { tasks } = await own(labs.tue(0))
    const mine = tasks.find(({ code }) => code === task)!
    expect(mine).toMatchObject({
      dueAt: '2026-05-06T09:00:00.000Z',
      gate: { state: 'late' },
      work: { instructions: 'Half of it will do.', takesLinks: false, mostWords: 3 },
    })
    expect(await dueFor(labs.tue(2), task)).toBe('2026-05-12T10:00:00.000Z')
    const handIn = (text: string): Promise<Answer<OwnWork & Problem>> =>
      labs.tue(0).post(`${labs.at}/tasks/${task}/hand-ins`, { group: group('Tempeh'), text, after: 0 })
    expect((await handIn('one two three four')).body.code).toBe('too-many-words')
    await must(handIn('one two three'))
    const { piles } = await must<DeskView>(owner.get(`${labs.at}/tasks/${task}/desk`))
    expect(piles.find(({ owner: of }) => of === group('Tempeh'))).toMatchObject({ state: 'late' })
    const view = await must<WorkView>(owner.get(`${labs.at}/work`))
    expect(view.tasks.find(({ code }) => code === task)?.differences).toMatchObject([
      { note: 'Their starter died', groups: [group('Tempeh')], fields: { takesLinks: false, mostWords: 3 } },
    ])
    // Whoever has handed in keeps a task with a hand-in.
    const nothing = await differ(task, {
      groups: [group('Tempeh')],
      fields: { handsIn: false },
      confirmed: true,
    })
    expect(nothing.body.code).toBe('task-fixed')
  })

  it('can be for a group in which nobody sits yet, and holds once somebody does', async () => {
    const task = await setTask({})
    await must(differ(task, { groups: [group('Miso')], fields: { dueAt: '2026-05-20T12:00' } }))
    await labs.take(labs.tue(3), 'Miso/Tue lab')
    expect(await dueFor(labs.tue(3), task)).toBe('2026-05-20T10:00:00.000Z')
    await labs.giveUp(labs.tue(3), 'Miso/Tue lab')
  })

  it('asks about whoever is in two, and then says which holds', async () => {
    const task = await setTask({ forWhom: 'students', withoutGroup: 'open' })
    const list = await must<{ added: string }>(
      owner.post(`/api/courses/${labs.school.course}/lists`, { title: 'Mondays', people: [codes[3]] }),
    )
    await must(differ(task, { lists: [list.added], fields: { dueAt: '2026-05-14T12:00' } }))
    const second = { students: [codes[3]], groups: [group('Tempeh')], fields: { dueAt: '2026-05-15T12:00' } }
    const asked = await differ(task, second)
    expect(asked.status).toBe(409)
    expect(asked.body).toMatchObject({
      code: 'differences-meet',
      affected: [{ name: 'Student 3 Tue lab' }],
    })
    await must(differ(task, { ...second, confirmed: true }))
    // By name before by list; whoever sits at Tempeh has it by their group.
    expect(await dueFor(labs.tue(3), task)).toBe('2026-05-15T10:00:00.000Z')
    expect(await dueFor(labs.tue(0), task)).toBe('2026-05-15T10:00:00.000Z')
    expect(await dueFor(labs.tue(4), task)).toBe('2026-05-12T10:00:00.000Z')
    // A list that a task differs for stays.
    const gone = await owner.send<Problem>('DELETE', `/api/courses/${labs.school.course}/lists/${list.added}`)
    expect(gone.body.code).toBe('list-in-use')
  })

  it('takes a group over from another one once that was confirmed, and ends', async () => {
    const task = await setTask({})
    const at = `${labs.at}/tasks/${task}/differences`
    await must(
      differ(task, { groups: [group('Tempeh'), group('Kefir')], fields: { dueAt: '2026-05-14T12:00' } }),
    )
    const asked = await differ(task, { groups: [group('Kefir')], fields: { dueAt: '2026-05-15T12:00' } })
    expect(asked.body).toMatchObject({ code: 'differences-meet' })
    expect(asked.body.detail).toContain('Kefir')
    const { tasks } = await must(
      differ(task, { groups: [group('Kefir')], fields: { dueAt: '2026-05-15T12:00' }, confirmed: true }),
    )
    const now = tasks.find(({ code }) => code === task)!.differences
    expect(now.map(({ groups }) => groups)).toEqual([[group('Tempeh')], [group('Kefir')]])
    await must(
      owner.send('PUT', `${at}/${now[0]!.code}`, {
        groups: [group('Tempeh')],
        fields: { dueAt: '2026-05-16T12:00' },
      }),
    )
    expect(await dueFor(labs.tue(0), task)).toBe('2026-05-16T10:00:00.000Z')
    await must(owner.send('DELETE', `${at}/${now[0]!.code}`))
    expect(await dueFor(labs.tue(0), task)).toBe('2026-05-12T10:00:00.000Z')
    expect((await owner.send('DELETE', `${at}/${now[0]!.code}`)).status).toBe(404)
  })

  it('is refused where it cannot be, beside what is wrong, and nothing changes', async () => {
    const task = await setTask({ availableFrom: '2026-05-07T12:00' })
    const refused = async (body: object, path: string) => {
      const answer = await differ(task, body)
      expect(answer.status, JSON.stringify(answer.body)).toBe(422)
      expect(answer.body.errors?.map((one) => one.path)).toContain(path)
    }
    const fields = { dueAt: '2026-05-14T12:00' }
    const groups = [group('Tempeh')]
    await refused({ groups: [], fields }, 'groups')
    await refused({ groups, fields: {} }, 'fields')
    await refused({ groups: ['nothere'], fields }, 'groups[0]')
    await refused({ students: [codes[0]], fields }, 'students')
    // Before the task begins; in an hour that clocks skip; with no form at all.
    await refused({ groups, fields: { dueAt: '2026-05-06T12:00' } }, 'dueAt')
    await refused({ groups, fields: { dueAt: '2027-03-28T02:30' } }, 'dueAt')
    await refused({ groups, fields: { takesText: false, takesLinks: false } }, 'takesText')
    const view = await must<WorkView>(owner.get(`${labs.at}/work`))
    expect(view.tasks.find(({ code }) => code === task)?.differences).toEqual([])
    // What differs is looked at again when the task's own times change.
    await must(differ(task, { groups, fields }))
    const later = await owner.patch<Problem>(`${labs.at}/tasks/${task}`, {
      availableFrom: '2026-05-15T12:00',
      dueAt: '2026-05-20T12:00',
    })
    expect(later.body.errors?.[0]?.message).toMatch(/^For some/)
  })

  it('of a group that goes is left without effect, and a gone group is said to staff', async () => {
    const task = await setTask({})
    await must(differ(task, { groups: [group('Miso')], fields: { dueAt: '2026-05-14T12:00' } }))
    const { code } = await labs.topic('Miso')
    await must(owner.post(`${labs.at}/topics/${code}/remove`, { confirmed: true }))
    const view = await must<WorkView>(owner.get(`${labs.at}/work`))
    const { groups } = view.tasks.find((one) => one.code === task)!.differences[0]!
    expect(view.groups.find((one) => one.code === groups[0])?.onSheet).toBe(false)
    await must(owner.post(`${labs.at}/topics/${code}/restore`, {}))
  })
})

describe('what a difference leaks', () => {
  const fields = fc.record(
    {
      dueAt: fc.constantFrom('2026-05-08T12:00', '2026-05-29T12:00', null),
      availableFrom: fc.constantFrom('2026-05-05T12:00', '2026-05-07T12:00'),
      instructions: fc.constantFrom('Otherwise', ''),
      takesFiles: fc.boolean(),
      mostWords: fc.constantFrom(5, 500),
      handsIn: fc.boolean(),
    },
    { requiredKeys: ['instructions'] },
  )
  it('is nothing: whoever it is not for reads the same as before, whatever differs and for whom', async () => {
    await fc.assert(
      fc.asyncProperty(
        fields,
        fc.constantFrom('groups', 'students' as const),
        fc.subarray([0, 1, 2, 3], { minLength: 1 }),
        async (differing, forWhom, targets) => {
          const task = await setTask({ forWhom, withoutGroup: forWhom === 'students' ? 'open' : 'locked' })
          const before = await Promise.all([0, 1, 2, 3, 4].map((n) => read(labs.tue(n))))
          const mailed = harness.stores.mail.newest(1)[0]?.id
          const groups = ['Tempeh', 'Kefir'].filter((_, i) => targets.includes(i))
          const body =
            forWhom === 'students'
              ? { students: targets.map((n) => codes[n]) }
              : { groups: groups.map(group) }
          if (forWhom === 'students' || groups.length > 0)
            await must(differ(task, { ...body, fields: differing }))
          const seatedIn = ['Tempeh', 'Tempeh', 'Kefir', null, null]
          for (const n of [0, 1, 2, 3, 4]) {
            const concerned =
              forWhom === 'students' ? targets.includes(n) : groups.includes(seatedIn[n] ?? 'nowhere')
            if (!concerned) expect(await read(labs.tue(n))).toBe(before[n])
          }
          expect(harness.stores.mail.newest(1)[0]?.id).toBe(mailed)
          await must(owner.send('DELETE', `${labs.at}/tasks/${task}`))
        },
      ),
      { numRuns: 25 },
    )
  }, 120_000)
})
