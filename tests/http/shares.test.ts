import { afterEach, beforeEach, expect, it } from 'vitest'
import type { DeskView } from '../../src/contract/marks.ts'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { WorkView } from '../../src/contract/tasks.ts'
import { type Answer, type Client, must } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'

let labs: Labs
let task: string
let owner: Client
beforeEach(async () => {
  labs = await startLabs()
  owner = labs.school.owner
  for (const n of [0, 1, 2]) await labs.take(labs.tue(n), 'Tempeh/Tue lab')
  await labs.take(labs.tue(3), 'Kefir/Tue lab')
  const view = await must<WorkView>(
    owner.post(`${labs.at}/tasks`, { title: 'Report', out: true, shares: 'own' }),
  )
  task = view.tasks[0]!.code
})
afterEach(() => labs.harness.end())

const tempeh = () => labs.school.groups['Tempeh/Tue lab']!
const shares = async (n: number) =>
  (await must<OwnWork>(labs.tue(n).get(`${labs.at}/own-work`))).tasks[0]?.work?.shares
const handIn = () =>
  must(labs.tue(0).post(`${labs.at}/tasks/${task}/hand-ins`, { group: tempeh(), text: 'Ours', after: 0 }))
const give = async (n: number, points: number[], words = ''): Promise<Answer<OwnWork & Problem>> => {
  const { others = [] } = (await shares(n)) ?? {}
  return labs.tue(n).send('PUT', `${labs.at}/tasks/${task}/shares`, {
    group: tempeh(),
    points: Object.fromEntries(others.map(({ code }, i) => [code, points[i]])),
    words,
  })
}
const desk = async () => {
  const { piles } = await must<DeskView>(owner.get(`${labs.at}/tasks/${task}/desk`))
  return piles.find((one) => one.owner === tempeh())!
}
const markAndRelease = async () => {
  const body = { owner: tempeh(), apart: null, version: 0, placements: {}, points: 8, feedback: '' }
  await must(owner.send('PUT', `${labs.at}/tasks/${task}/marks`, body))
  await must(owner.post(`${labs.at}/tasks/${task}/release`, { owners: null, released: true }))
}

it('members are asked once there is something to share, in private, and each is told their own average alone', async () => {
  expect(await shares(0)).toBeNull()
  await handIn()
  expect(await shares(0)).toMatchObject({
    open: true,
    toGive: 20,
    others: [{ name: 'Student 1 Tue lab' }, { name: 'Student 2 Tue lab' }],
    given: null,
    average: null,
  })
  await must(give(0, [15, 5], 'One of us did the weighing.'))
  await must(give(1, [12, 8]))
  const before = await desk()
  expect(before.shares?.given.map(({ words }) => words)).toEqual(['One of us did the weighing.', ''])
  expect(Object.values(before.shares?.average ?? {}).toSorted()).toEqual([12, 15, 6.5])
  // The mark is as it was, and the others read nothing of it.
  expect(before.points).toBeNull()
  const seen = JSON.stringify(await must(labs.tue(2).get(`${labs.at}/own-work`)))
  expect(seen).not.toContain('weighing')
  expect(seen).not.toContain('"average":6.5')
  // Once the marks are out it is told, where enough have given.
  await markAndRelease()
  expect(await shares(2)).toMatchObject({ open: false, average: 6.5 })
  expect(await shares(0)).toMatchObject({ average: null })
  expect((await give(2, [10, 10])).body.code).toBe('shares-closed')
})

it('points that do not add up are refused with how many are to give, and what was given stays', async () => {
  await handIn()
  await must(give(0, [15, 5]))
  const wrong = async (points: number[], words: RegExp) => {
    const { status, body } = await give(0, points)
    expect([status, body.code]).toEqual([422, 'shares-wrong'])
    expect(body.errors?.[0]).toMatchObject({ path: 'points', message: expect.stringMatching(words) })
  }
  await wrong([15, 6], /21.*1 are too many/)
  await wrong([15, 4], /1 are still to give/)
  await wrong([20.5, -0.5], /whole points/)
  const stranger = await labs.tue(0).send<Problem>('PUT', `${labs.at}/tasks/${task}/shares`, {
    group: tempeh(),
    points: { nobody: 20 },
  })
  expect(stranger.body.code).toBe('shares-wrong')
  expect(Object.values((await shares(0))?.given?.points ?? {})).toEqual([15, 5])
})

it('is asked of nobody else: another group, whoever came later, where names are hidden, where it is not asked', async () => {
  await handIn()
  expect(await shares(3)).toBeNull()
  const body = { group: tempeh(), points: {}, words: '' }
  const other = await labs.tue(3).send<Problem>('PUT', `${labs.at}/tasks/${task}/shares`, body)
  expect(other.body.code).toBe('shares-closed')
  await labs.rule({ names: 'nobody' })
  expect(await shares(0)).toBeNull()
  await labs.rule({ names: 'mates' })
  expect(await shares(0)).not.toBeNull()
  await must(owner.patch(`${labs.at}/tasks/${task}`, { shares: 'no' }))
  expect(await shares(0)).toBeNull()
  expect((await desk()).shares).toBeNull()
  // What was given is kept, and staff alone see it where that is the rule.
  await must(owner.patch(`${labs.at}/tasks/${task}`, { shares: 'staff' }))
  await must(give(0, [10, 10]))
  await must(give(1, [10, 10]))
  await markAndRelease()
  expect(await shares(2)).toMatchObject({ average: null })
})
