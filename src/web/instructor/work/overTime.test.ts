import { expect, it } from 'vitest'
import type { OwnerWork, WorkView } from '../../../contract/tasks.ts'
import { byDay, notBegun, overTime } from './overTime.ts'

const work = (owner: string, more: Partial<OwnerWork>) =>
  ({ owner, kind: 'group', state: 'not-due', begun: false, handedAt: null, ...more }) as OwnerWork
const view = {
  now: '2026-05-08T12:00:00.000Z',
  course: { zone: 'UTC' },
  sections: [
    { code: 's1', name: 'Tue' },
    { code: 's2', name: 'Wed' },
  ],
  groups: [
    { code: 'a', section: 's1' },
    { code: 'b', section: 's2' },
    { code: 'c', section: 's1' },
  ],
  people: [{ code: 'p', section: 's2' }],
} as unknown as WorkView
const task = (all: OwnerWork[], more: object = {}) =>
  ({
    work: all,
    handsIn: true,
    outAt: '2026-05-06T09:00:00.000Z',
    availableFrom: null,
    ...more,
  }) as unknown as WorkView['tasks'][number]

it('adds up what was handed in, by section, with a moment for each day and each hand-in', () => {
  const all = [
    work('a', { handedAt: '2026-05-07T15:00:00.000Z' }),
    work('b', { handedAt: '2026-05-08T08:00:00.000Z' }),
    work('c', {}),
  ]
  const moments = overTime(view, task(all))
  expect(moments.map(({ at, all }) => `${at.slice(8, 16)} ${all}`)).toEqual([
    '06T09:00 0',
    '07T00:00 0',
    '07T15:00 1',
    '08T00:00 1',
    '08T08:00 2',
    '08T12:00 2',
  ])
  expect(moments.at(-1)?.sections).toEqual({ s1: 1, s2: 1 })
  expect(byDay(moments, (at) => at.slice(0, 10)).map(({ day, all }) => [day, all])).toEqual([
    ['2026-05-06', 0],
    ['2026-05-07', 1],
    ['2026-05-08', 2],
  ])
  expect(
    overTime(view, task([work('p', { kind: 'student', handedAt: '2026-05-07T15:00:00.000Z' })])).at(-1),
  ).toMatchObject({
    sections: { s1: 0, s2: 1 },
  })
})

it('is nothing before students were shown it', () => {
  expect(overTime(view, task([work('a', {})], { outAt: null }))).toEqual([])
})

it('knows who has not begun', () => {
  const all = [
    work('a', { begun: true }),
    work('b', {}),
    work('c', { state: 'missing' }),
    work('d', { state: 'handed-in', begun: true }),
    work('e', { state: 'no-group' }),
  ]
  expect(notBegun(task(all)).map(({ owner }) => owner)).toEqual(['b', 'c'])
  expect(notBegun(task(all, { handsIn: false }))).toEqual([])
})
