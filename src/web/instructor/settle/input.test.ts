import { describe, expect, it } from 'vitest'
import type { SettleView } from '../../../contract/plans.ts'
import { makePlan } from '../../../core/plan/plan.ts'
import { CAREFUL } from '../../../core/rules.ts'
import {
  firstChoices,
  firstMaking,
  inputOf,
  madeGroups,
  madeIn,
  nextRound,
  packed,
  roundChosen,
  unpacked,
} from './input.ts'

const view = {
  sections: [
    { code: 'tue', name: 'Tue lab', students: 29 },
    { code: 'wed', name: 'Wed lab', students: 6 },
  ],
  topics: [{ code: 't', title: 'Group 2' }],
  sat: [
    {
      sheet: 'first',
      title: 'First',
      groups: [
        ['p1', 'p0', 'gone'],
        ['p2', 'p3'],
      ],
    },
    { sheet: 'second', title: 'Second', groups: [['p0', 'p1']] },
  ],
  attributes: [{ name: 'Level', of: { p0: 'high', p1: 'low' } }],
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
const choices = firstChoices({ lotNumber: 48_213, rules: CAREFUL })
const making = firstMaking({ basis: view.basis, mixed: false })

describe('groups made for a plan', () => {
  it('are as many as are wanted, or of about the size that is', () => {
    const bySize = { ...choices, making: { ...making, by: 'size' as const, n: 3 } }
    expect(madeIn(view, bySize).map(({ sizes }) => sizes)).toEqual([
      [3, 3, 3, 3, 3, 3, 3, 3, 3, 2],
      [3, 3],
    ])
    const byNumber = { ...choices, making: { ...making, by: 'number' as const, n: 4 } }
    expect(madeIn(view, byNumber).map(({ sizes }) => sizes)).toEqual([
      [8, 7, 7, 7],
      [2, 2, 1, 1],
    ])
  })

  it('bear titles that are not taken, and hold the largest size', () => {
    const made = madeIn(view, { ...choices, making: { ...making, by: 'number' as const, n: 3 } })
    const titles = ['Group 1', 'Group 3', 'Group 4']
    expect(madeGroups(view, made, making)).toEqual({ titles, mixed: false, seats: 10 })
    const lettered = { ...making, pattern: 'Crock #', letters: true }
    expect(madeGroups(view, made, lettered)?.titles).toEqual(['Crock A', 'Crock B', 'Crock C'])
    expect(madeGroups(view, [], making)).toBeNull()
  })

  it('mix sections where that is chosen, each group for all of them', () => {
    const mixed = { ...choices, making: { ...making, by: 'most' as const, n: 3, mixed: true } }
    const made = madeIn(view, mixed)
    expect(made.map(({ section, people, sizes }) => [section, people, sizes.length])).toEqual([
      [null, 35, 12],
    ])
    const plan = makePlan(inputOf(view, mixed))
    expect(plan.left).toEqual([])
    expect(plan.after.sizes).toEqual({ least: 2, most: 3 })
    const sections = new Map(view.basis.people.map(({ key, section }) => [key, section]))
    const met = new Map<string, Set<string | null>>()
    for (const { person, to } of plan.moves)
      met.set(to, (met.get(to) ?? new Set()).add(sections.get(person) ?? null))
    expect([...met.values()].some((own) => own.size > 1)).toBe(true)
  })

  it('take everybody, and leave the groups that there are alone', () => {
    const plan = makePlan(inputOf(view, { ...choices, making: { ...making, by: 'size' as const, n: 3 } }))
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

it('mixes by who sat together on the sheets that are chosen, and by columns of the roster', () => {
  expect(inputOf(view, choices).mixing).toBeUndefined()
  const both = inputOf(view, { ...choices, fresh: ['first', 'second'] }).mixing
  expect(both?.met).toEqual([
    { a: 'p0', b: 'p1', times: 2 },
    { a: 'p2', b: 'p3', times: 1 },
  ])
  expect(inputOf(view, { ...choices, fresh: ['second'] }).mixing?.met).toHaveLength(1)
  const balance = [
    { name: 'Level', how: 'alike' as const },
    { name: 'Gone', how: 'mix' as const },
  ]
  const balanced = inputOf(view, { ...choices, balance }).mixing
  expect(balanced?.attributes.map(({ name, how, of }) => [name, how, of.get('p0')])).toEqual([
    ['Level', 'alike', 'high'],
  ])
})

it('takes up choices that were kept before there was more to choose', () => {
  const { fresh: _, balance: __, ...old } = packed(choices)
  expect(unpacked(old as ReturnType<typeof packed>)).toEqual(choices)
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

describe('rounds of seats by wishes', () => {
  const plan = (round: number, undoneAt: string | null = null) => ({
    appliedAt: '2026-05-14',
    undoneAt,
    content: { settings: { wishes: { aim: 'in-turn', order: [], round } } },
  })
  const next = (plans: object[], seatsEach = 3) =>
    nextRound({ plans, rules: { ...CAREFUL, seatsEach } } as unknown as SettleView)

  it('follow each other as they are applied, and end where everybody may hold no more', () => {
    expect(next([])).toBe(1)
    expect(next([plan(1)])).toBe(2)
    expect(next([plan(1), plan(2)])).toBe(3)
    expect(next([plan(1), plan(2), plan(3)])).toBe(3)
    expect(next([plan(1), plan(2, '2026-05-15')])).toBe(2)
    expect(next([plan(1)], 1)).toBe(1)
  })

  it('are the newest where none was chosen, and never one whose turn has not come', () => {
    const byWishes = { aim: 'in-turn' as const, order: [] }
    expect(roundChosen({ round: 2 }, byWishes)).toBe(2)
    expect(roundChosen({ round: 2 }, { ...byWishes, round: 1 })).toBe(1)
    // What was chosen before a plan was undone.
    expect(roundChosen({ round: 1 }, { ...byWishes, round: 2 })).toBe(1)
    expect(roundChosen({}, byWishes)).toBe(1)
  })
})
