import { describe, expect, it } from 'vitest'
import { makePlan, seatsAfter } from './plan.ts'
import type { PlanGroup, PlanInput } from './types.ts'

const person = (key: string, section: string | null = null) => ({ key, name: `Given ${key}`, section })
const people = (...keys: string[]) => keys.map((key) => person(key))
const group = (key: string, seats: number, more: Partial<PlanGroup> = {}): PlanGroup => ({
  key,
  section: null,
  seats,
  blocked: 0,
  floor: 1,
  ...more,
})
const input = (more: Partial<PlanInput>): PlanInput => ({
  people: [],
  groups: [],
  seats: [],
  heldFor: [],
  offers: 'section',
  keepings: [],
  method: 'evenly',
  lotNumber: 48_213,
  floorsFirst: true,
  mayDissolve: false,
  release: 'none',
  pins: [],
  ...more,
})
const apart = (key: string, ...who: string[]) => ({ key, kind: 'apart' as const, people: who })
const together = (key: string, ...who: string[]) => ({ key, kind: 'together' as const, people: who })

describe('a plan', () => {
  it('brings groups to their floor before it evens out, and says why', () => {
    const plan = makePlan(
      input({
        people: people('a', 'b', 'c', 'd'),
        groups: [group('low', 4, { floor: 3 }), group('fine', 4)],
        seats: [{ person: 'a', group: 'low' }],
      }),
    )
    expect(plan.moves.filter(({ to }) => to === 'low').map(({ reason }) => reason.code)).toEqual([
      'floor',
      'floor',
    ])
    expect(plan.before).toEqual({ left: 3, under: 1, empty: 1, sizes: { least: 1, most: 1 } })
    expect(plan.after).toEqual({ left: 0, under: 0, empty: 0, sizes: { least: 1, most: 3 } })
    expect(plan.proven).toBe(true)
  })

  it('empties a group that cannot reach its floor only when it may', () => {
    const stuck = input({
      people: people('a', 'b'),
      groups: [group('low', 4, { floor: 3 }), group('fine', 4)],
      seats: [
        { person: 'a', group: 'low' },
        { person: 'b', group: 'fine' },
      ],
    })
    expect(makePlan(stuck)).toMatchObject({ moves: [], dissolved: [], moved: 0 })
    const plan = makePlan({ ...stuck, mayDissolve: true })
    expect(plan.moves).toEqual([{ person: 'a', from: 'low', to: 'fine', reason: { code: 'dissolved' } }])
    expect(plan.dissolved).toEqual(['low'])
    expect(plan.moved).toBe(1)
  })

  it('draws the same plan again from the same lot number, and another from another', () => {
    const many = input({
      people: people(...'abcdefghijklmnop'),
      groups: [group('one', 8), group('two', 8)],
      method: 'lot',
    })
    expect(makePlan(many)).toEqual(makePlan(many))
    expect(makePlan({ ...many, lotNumber: 7 }).moves).not.toEqual(makePlan(many).moves)
  })

  it('does not depend on the order in which people are listed', () => {
    const listed = input({ people: people('a', 'b', 'c', 'd'), groups: [group('one', 2), group('two', 2)] })
    const turned = { ...listed, people: listed.people.toReversed() }
    const places = ({ moves }: ReturnType<typeof makePlan>) =>
      moves.map(({ person: who, to }) => `${who} ${to}`).sort()
    expect(places(makePlan(turned))).toEqual(places(makePlan(listed)))
  })

  it('seats by surname in the order of the groups', () => {
    const plan = makePlan(
      input({
        people: [
          { key: '1', name: 'Ada Zeller', section: null },
          { key: '2', name: 'Bo Amsel', section: null },
          { key: '3', name: 'Cy Møller', section: null },
          { key: '4', name: 'Di Brandt', section: null },
        ],
        groups: [group('one', 2), group('two', 2)],
        method: 'surname',
      }),
    )
    expect(plan.moves.map(({ person: who, to }) => `${who} ${to}`)).toEqual([
      '1 two',
      '2 one',
      '3 two',
      '4 one',
    ])
  })

  it('seats those for whom a seat is kept free there, and keeps out of seats kept for a use', () => {
    const plan = makePlan(
      input({
        people: people('a', 'b', 'c'),
        groups: [group('one', 3, { blocked: 1 }), group('two', 0)],
        heldFor: [{ person: 'c', group: 'one' }],
      }),
    )
    expect(plan.moves.find((move) => move.person === 'c')).toMatchObject({
      to: 'one',
      reason: { code: 'held' },
    })
    expect(plan.moves.filter(({ to }) => to === 'one')).toHaveLength(2)
  })

  it('plans around what is set by hand', () => {
    const plan = makePlan(
      input({
        people: people('a', 'b', 'c'),
        groups: [group('one', 1), group('two', 2)],
        pins: [
          { person: 'a', group: 'one' },
          { person: 'b', group: null },
        ],
      }),
    )
    expect(plan.moves).toEqual([
      { person: 'a', from: null, to: 'one', reason: { code: 'by-hand' } },
      { person: 'c', from: null, to: 'two', reason: { code: 'only-room' } },
    ])
    expect(plan.left).toEqual([{ person: 'b', from: null, reason: { code: 'by-hand' } }])
  })

  it('says why somebody is left', () => {
    const plan = makePlan(
      input({
        people: [person('a', 's'), person('b', 's'), person('c', 't'), person('d', null)],
        groups: [group('one', 1, { section: 's' })],
      }),
    )
    expect(plan.left.map(({ reason }) => reason.code).sort()).toEqual([
      'no-group-in-section',
      'no-room',
      'no-section',
    ])
  })

  it('moves nobody who is not released, and as few as it can of those who are', () => {
    const seated = input({
      people: people('a', 'b', 'c', 'd'),
      groups: [group('one', 4), group('two', 4)],
      seats: ['a', 'b', 'c', 'd'].map((who) => ({ person: who, group: 'one' })),
    })
    expect(makePlan(seated).moves).toEqual([])
    expect(makePlan({ ...seated, release: 'all' }).moves).toEqual([])
    expect(makePlan({ ...seated, release: 'afresh' }).after.sizes).toEqual({ least: 2, most: 2 })
  })
})

describe('people who keep apart or together', () => {
  const four = { people: people('a', 'b', 'c', 'd'), groups: [group('one', 2), group('two', 2)] }
  const at = (plan: ReturnType<typeof makePlan>) => new Map(plan.moves.map((move) => [move.person, move.to]))

  it('are seated so, with the reason', () => {
    const plan = makePlan(input({ ...four, keepings: [apart('k', 'a', 'b'), together('m', 'a', 'c')] }))
    expect(at(plan).get('a')).toBe(at(plan).get('c'))
    expect(at(plan).get('a')).not.toBe(at(plan).get('b'))
    expect(plan.moves.find((move) => move.person === 'a')?.reason).toEqual({ code: 'together', with: ['c'] })
    expect(plan.conflicts).toEqual([])
  })

  it('are reported when they contradict each other, are too many, or sit otherwise', () => {
    expect(
      makePlan(input({ ...four, keepings: [apart('k', 'a', 'b'), together('m', 'a', 'b')] })).conflicts,
    ).toEqual([{ keeping: 'm', code: 'both', people: ['a', 'b'] }])
    expect(makePlan(input({ ...four, keepings: [together('m', 'a', 'b', 'c')] })).conflicts).toEqual([
      { keeping: 'm', code: 'too-large', people: ['a', 'b', 'c'] },
    ])
    const seats = [
      { person: 'a', group: 'one' },
      { person: 'b', group: 'one' },
      { person: 'c', group: 'two' },
    ]
    const conflicts = makePlan(
      input({ ...four, seats, keepings: [apart('k', 'a', 'b'), together('m', 'a', 'c')] }),
    ).conflicts
    expect(conflicts.map(({ keeping, code }) => `${keeping} ${code}`)).toEqual([
      'k seated-together',
      'm seated-apart',
    ])
  })

  it('give no reason for a seat where their rule does not hold', () => {
    const keepings = [apart('k', 'a', 'b'), together('m', 'a', 'b')]
    const { moves } = makePlan(input({ ...four, keepings }))
    expect(moves.find((move) => move.person === 'a')?.reason).toEqual({ code: 'apart', from: ['b'] })
  })

  it('stay without a group rather than sit against their rule, and are named', () => {
    const plan = makePlan(
      input({
        people: people('a', 'b', 'c'),
        groups: [group('one', 3)],
        keepings: [apart('k', 'a', 'b')],
      }),
    )
    expect(plan.left).toHaveLength(1)
    expect(plan.left[0]?.reason).toEqual({ code: 'keepings', keepings: ['k'] })
    expect(plan.conflicts).toMatchObject([{ keeping: 'k', code: 'no-room' }])
    expect(plan.after.left).toBe(1)
  })

  it('of different sections cannot keep together', () => {
    const plan = makePlan(
      input({
        people: [person('a', 's'), person('b', 't')],
        groups: [group('one', 2, { section: 's' }), group('two', 2, { section: 't' })],
        keepings: [together('m', 'a', 'b')],
      }),
    )
    expect(plan.conflicts).toEqual([{ keeping: 'm', code: 'sections', people: ['a', 'b'] }])
    expect(plan.after.left).toBe(0)
  })
})

it('gives who sits where once it is applied', () => {
  const seats = [
    { person: 'a', group: 'one' },
    { person: 'b', group: 'one' },
  ]
  expect(
    seatsAfter({ seats }, [{ person: 'a', from: 'one', to: 'two' }], [{ person: 'b', from: 'one' }]),
  ).toEqual([{ person: 'a', group: 'two' }])
})
