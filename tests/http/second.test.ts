import { afterEach, beforeEach, expect, it } from 'vitest'
import type { DeskView } from '../../src/contract/marks.ts'
import type { OwnWork } from '../../src/contract/ownWork.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { WorkView } from '../../src/contract/tasks.ts'
import { type Answer, type Client, must } from './harness.ts'
import { type Labs, startLabs } from './labs.ts'
import { bring, download } from './uploading.ts'

let labs: Labs
let owner: Client
let tutor: Client
let task: string
const TUTOR = 'tutor@school.example'
beforeEach(async () => {
  labs = await startLabs()
  owner = labs.school.owner
  tutor = labs.harness.as(TUTOR)
  await labs.take(labs.tue(0), 'Tempeh/Tue lab')
  await labs.take(labs.tue(1), 'Kefir/Tue lab')
  await labs.take(labs.tue(2), 'Miso/Tue lab')
  const view = await must<WorkView>(
    owner.post(`${labs.at}/tasks`, { title: 'Report', out: true, takesFiles: true }),
  )
  task = view.tasks[0]!.code
})
afterEach(() => labs.harness.end())

const group = (name: string) => labs.school.groups[`${name}/Tue lab`]!
const desk = (client: Client) => must<DeskView>(client.get(`${labs.at}/tasks/${task}/second-readings`))
const work = (client: Client) => must<WorkView>(client.get(`${labs.at}/work`))
const mark = (name: string, points: number) =>
  must(
    owner.send('PUT', `${labs.at}/tasks/${task}/marks`, {
      owner: group(name),
      apart: null,
      version: 0,
      placements: {},
      points,
      feedback: 'Of the first.',
    }),
  )
const draw = async (count: number): Promise<Answer<WorkView & Problem>> => {
  const { staff } = await work(owner)
  const reader = staff.find(({ name }) => name === 'Tutor One')!.code
  return owner.post(`${labs.at}/tasks/${task}/second-readings`, { count, reader })
}
const say = (of: string, points: number, version = 0): Promise<Answer<DeskView & Problem>> =>
  tutor.send('PUT', `${labs.at}/tasks/${task}/second-readings`, {
    owner: of,
    apart: null,
    version,
    placements: {},
    points,
    feedback: 'Of the second.',
  })

it('works that are marked are drawn by lot, read without the first mark, and compared; no mark changes', async () => {
  await bring(
    labs.harness,
    labs.tue(0),
    labs.at,
    { aim: 'work', task, group: group('Tempeh') },
    'log.txt',
    'Day 1',
  )
  const { tasks: own0 } = await must<OwnWork>(labs.tue(0).get(`${labs.at}/own-work`))
  const file = own0[0]!.work!.brought[0]!.code
  await must(
    labs.tue(0).post(`${labs.at}/tasks/${task}/hand-ins`, {
      group: group('Tempeh'),
      text: 'Ours',
      files: [file],
      after: 0,
    }),
  )
  await mark('Tempeh', 8)
  await mark('Kefir', 5)
  const path = `${labs.at}/files/${file}`
  const read = async () => (await download(labs.harness, tutor, path)).status
  expect(await read()).toBe(404)
  const { tasks } = await must(draw(5))
  // The third is not marked, so it cannot be drawn.
  expect(tasks[0]?.second.map(({ owner: of, first, second }) => [of, first, second]).toSorted()).toEqual(
    [
      [group('Tempeh'), 8, null],
      [group('Kefir'), 5, null],
    ].toSorted(),
  )
  expect((await draw(1)).body.code).toBe('nothing-to-draw')
  // The reader looks after neither group, and reads what was drawn whole, but nothing of the first mark.
  const { piles } = await desk(tutor)
  expect(piles).toHaveLength(2)
  expect(JSON.stringify(piles)).not.toContain('Of the first')
  expect(piles.map(({ points, marked }) => [points, marked])).toEqual([
    [null, false],
    [null, false],
  ])
  expect(await read()).toBe(200)
  await must(say(group('Tempeh'), 6))
  expect((await say(group('Tempeh'), 7)).body.code).toBe('marked-meanwhile')
  expect((await say(group('Miso'), 7)).status).toBe(422)
  expect((await say(group('Kefir'), 99)).body.code).toBe('points-past-most')
  const after = await work(owner)
  expect(after.tasks[0]?.second.find(({ owner: of }) => of === group('Tempeh'))).toMatchObject({
    first: 8,
    second: 6,
    read: true,
  })
  expect(after.tasks[0]?.work.find(({ owner: of }) => of === group('Tempeh'))?.points).toBe(8)
  // The tutor is told what waits, and no first points.
  const own = (await work(tutor)).tasks[0]?.second
  expect(own?.map(({ first }) => first)).toEqual([null, null])
  // Ended, what was read stays, and what was not goes.
  await must(owner.send('DELETE', `${labs.at}/tasks/${task}/second-readings/all`))
  expect((await desk(tutor)).piles.map(({ owner: of }) => of)).toEqual([group('Tempeh')])
})

it('are drawn for somebody who teaches, of works that somebody else marked', async () => {
  await mark('Tempeh', 8)
  const { staff } = await work(owner)
  const self = staff.find(({ name }) => name !== 'Tutor One')!.code
  const path = `${labs.at}/tasks/${task}/second-readings`
  expect((await owner.post<Problem>(path, { count: 1, reader: self })).body.code).toBe('nothing-to-draw')
  expect((await owner.post<Problem>(path, { count: 1, reader: 'nobody' })).body.errors?.[0]?.path).toBe(
    'reader',
  )
  expect((await owner.post<Problem>(path, { count: 0, reader: self })).body.errors?.[0]?.path).toBe('count')
  await must(draw(1))
  const mails = labs.harness.stores.mail.newest(20).filter(({ recipient }) => recipient === TUTOR)
  expect(mails.some(({ subject }) => subject.includes('second reading'))).toBe(true)
})
