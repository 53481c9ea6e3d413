import { describe, expect, it } from 'vitest'
import type { SettleView } from '../../../contract/plans.ts'
import { makePlan } from '../../../core/plan/plan.ts'
import { firstChoices, inputOf, madeGroups, madeIn } from './input.ts'

const view = {
  sections: [
    { code: 'tue', name: 'Tue lab', students: 29 },
    { code: 'wed', name: 'Wed lab', students: 6 },
  ],
  topics: [{ code: 't', title: 'Group 2' }],
  basis: {
    people: Array.from({ length: 35 }, (_, i) => ({
      key: `p${i}`,
      name: `Given Name${i}`,
      section: i < 29 ? 'tue' : 'wed',
    })),
    groups: [{ key: 'g', section: 'tue', seats: 4, blocked: 0, floor: 1 }],
    seats: [],
    heldFor: [],
    offers: 'section',
    keepings: [],
  },
} as unknown as SettleView
const choices = firstChoices(48_213)

describe('groups made for a plan', () => {
  it('are as many as are wanted, or of about the size that is', () => {
    const bySize = { ...choices, making: { by: 'size' as const, n: 3 } }
    expect(madeIn(view, bySize).map(({ sizes }) => sizes)).toEqual([
      [3, 3, 3, 3, 3, 3, 3, 3, 3, 2],
      [3, 3],
    ])
    const byNumber = { ...choices, making: { by: 'number' as const, n: 4 } }
    expect(madeIn(view, byNumber).map(({ sizes }) => sizes)).toEqual([
      [8, 7, 7, 7],
      [2, 2, 1, 1],
    ])
  })

  it('bear titles that are not taken, and hold the largest size', () => {
    const made = madeIn(view, { ...choices, making: { by: 'number', n: 3 } })
    expect(madeGroups(view, made)).toEqual({ titles: ['Group 1', 'Group 3', 'Group 4'], seats: 10 })
    expect(madeGroups(view, [])).toBeNull()
  })

  it('take everybody, and leave the groups that there are alone', () => {
    const plan = makePlan(inputOf(view, { ...choices, making: { by: 'size', n: 3 } }))
    expect(plan.left).toEqual([])
    expect(new Set(plan.moves.map(({ to }) => to)).size).toBe(12)
    expect(plan.moves.every(({ to }) => to.startsWith('made '))).toBe(true)
  })
})

it('passes on what was chosen', () => {
  const input = inputOf(view, {
    ...choices,
    release: 'some',
    released: ['p1'],
    floorsFirst: false,
    mayDissolve: true,
    pins: new Map([['p2', null]]),
  })
  expect(input).toMatchObject({ release: ['p1'], mayDissolve: false, pins: [{ person: 'p2', group: null }] })
})

it('leaves out what was set by hand for people and groups that are gone', () => {
  const pins = new Map<string, string | null>([
    ['p1', 'g'],
    ['p2', 'gone'],
    ['nobody', 'g'],
    ['p3', null],
  ])
  expect(inputOf(view, { ...choices, pins }).pins).toEqual([
    { person: 'p1', group: 'g' },
    { person: 'p3', group: null },
  ])
})
