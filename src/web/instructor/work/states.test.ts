import { expect, it } from 'vitest'
import type { OwnerWork } from '../../../contract/tasks.ts'
import { standingOf, workOf } from './states.ts'

const work = (owner: string, more: Partial<OwnerWork> = {}): OwnerWork => ({
  owner,
  kind: 'group',
  state: 'missing',
  handedAt: null,
  version: 0,
  members: [],
  points: null,
  apart: [],
  marked: false,
  released: false,
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
  expect(workOf('ada', ['g1'], 'groups', all)).toEqual({
    state: 'handed-in',
    points: 17,
    apart: false,
    owner: 'g1',
  })
  expect(workOf('bao', ['g1'], 'groups', all)).toEqual({
    state: 'handed-in',
    points: 14,
    apart: true,
    owner: 'g1',
  })
  expect(workOf('cy', ['g2'], 'groups', all).state).toBe('missing')
})

it('keeps what somebody handed in who moved since, and gives nothing to who came later', () => {
  expect(workOf('ada', ['g2'], 'groups', all)).toMatchObject({ state: 'handed-in', owner: 'g1' })
  expect(workOf('dee', ['g1'], 'groups', all)).toMatchObject({ state: 'missing', points: null })
})

it('tells no group from a task for others', () => {
  expect(workOf('eli', [], 'groups', all).state).toBe('no-group')
  expect(workOf('eli', [], 'some-groups', all).state).toBe('not-for')
})

it('counts', () => {
  expect(standingOf(all)).toEqual({
    all: 2,
    handedIn: 1,
    late: 0,
    missing: 1,
    noGroup: 0,
    marked: 1,
    released: 0,
  })
})
