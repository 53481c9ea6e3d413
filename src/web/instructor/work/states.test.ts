import { expect, it } from 'vitest'
import type { OwnerWork } from '../../../contract/tasks.ts'
import { standingOf, workOf } from './states.ts'

const work = (owner: string, more: Partial<OwnerWork> = {}): OwnerWork => ({
  owner,
  kind: 'group',
  state: 'missing',
  dueAt: null,
  difference: null,
  handedAt: null,
  version: 0,
  members: [],
  countsFor: more.version ? 'handed-in' : 'sits-there',
  points: null,
  apart: [],
  marked: false,
  markedBy: null,
  released: false,
  begun: false,
  ...more,
})
const all = [
  work('g1', {
    state: 'handed-in',
    version: 1,
    members: ['ada', 'bao'],
    points: 17,
    apart: [{ person: 'bao', points: 14 }],
    marked: true,
  }),
  work('g2', { members: ['cy'] }),
]

it('gives each person the mark that counts for them', () => {
  expect(workOf('ada', ['g1'], { forWhom: 'groups', list: null }, all)).toMatchObject({
    state: 'handed-in',
    points: 17,
    apart: false,
    owner: 'g1',
  })
  expect(workOf('bao', ['g1'], { forWhom: 'groups', list: null }, all)).toMatchObject({
    state: 'handed-in',
    points: 14,
    apart: true,
    owner: 'g1',
  })
  expect(workOf('cy', ['g2'], { forWhom: 'groups', list: null }, all).state).toBe('missing')
})

it('keeps what somebody handed in who moved since, and gives nothing to who came later', () => {
  expect(workOf('ada', ['g2'], { forWhom: 'groups', list: null }, all)).toMatchObject({
    state: 'handed-in',
    owner: 'g1',
  })
  expect(workOf('dee', ['g1'], { forWhom: 'groups', list: null }, all)).toMatchObject({
    state: 'missing',
    points: null,
  })
})

it('tells no group from a task for others', () => {
  expect(workOf('eli', [], { forWhom: 'groups', list: null }, all).state).toBe('no-group')
  expect(workOf('eli', [], { forWhom: 'some-groups', list: null }, all).state).toBe('not-for')
  // Nor is one for a list of people for somebody who is not on it.
  expect(workOf('eli', [], { forWhom: 'students', list: 'l1' }, all).state).toBe('not-for')
})

it('gives what took place to whoever was there, wherever they sit now', () => {
  const talk = [
    work('g1', { state: 'took-place', countsFor: 'was-there', members: ['ada'], points: 8, marked: true }),
    work('g2', { state: 'ahead', members: ['cy'] }),
  ]
  const task = { forWhom: 'groups', list: null } as const
  expect(workOf('ada', ['g2'], task, talk)).toMatchObject({ points: 8, owner: 'g1' })
  expect(workOf('bao', ['g1'], task, talk)).toMatchObject({ state: 'missing', points: null })
  expect(standingOf(talk)).toMatchObject({ all: 2, tookPlace: 1, handedIn: 0, marked: 1 })
})

it('counts', () => {
  expect(standingOf(all)).toEqual({
    all: 2,
    handedIn: 1,
    late: 0,
    missing: 1,
    tookPlace: 0,
    noGroup: 0,
    marked: 1,
    released: 0,
  })
})
