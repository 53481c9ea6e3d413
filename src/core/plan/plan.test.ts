import { describe, expect, it } from 'vitest'
import { makePlan } from './plan.ts'
import { seatsAfter } from './seatsAfter.ts'
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

  it('mixes sections in groups that are for all of them, whatever is offered to sections', () => {
    const plan = makePlan(
      input({
        people: [person('a', 'tue'), person('b', 'tue'), person('c', 'wed'), person('d', null)],
        groups: [group('one', 2), group('two', 2)],
      }),
    )
    expect(plan.left).toEqual([])
    expect(plan.after.sizes).toEqual({ least: 2, most: 2 })
    expect(plan.proven).toBe(true)
  })

  it('fills groups of a section with that section alone, where others are for all', () => {
    const own = input({
      people: [
        person('a', 'tue'),
        person('b', 'tue'),
        person('c', 'wed'),
        person('d', 'wed'),
        person('e', 'wed'),
      ],
      groups: [group('tue', 2, { section: 'tue' }), group('all', 3)],
    })
    for (let lotNumber = 1; lotNumber <= 20; lotNumber++) {
      const plan = makePlan({ ...own, lotNumber })
      const to = (key: string) => plan.moves.find(({ person }) => person === key)?.to
      expect(plan.left).toEqual([])
      expect([to('c'), to('d'), to('e')]).toEqual(['all', 'all', 'all'])
      expect([to('a'), to('b')]).toEqual(['tue', 'tue'])
    }
    const cramped = makePlan({ ...own, groups: [group('tue', 4, { section: 'tue' }), group('all', 2)] })
    expect(cramped.left).toHaveLength(1)
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

  it('leaves extra seats where they are, also where seats may be moved', () => {
    const plan = makePlan(
      input({
        people: people('a', 'b', 'c', 'd'),
        groups: [group('one', 2), group('two', 1)],
        seats: [
          { person: 'a', group: 'one' },
          { person: 'b', group: 'one' },
          { person: 'c', group: 'one' },
          { person: 'd', group: 'two' },
        ],
        release: 'all',
      }),
    )
    expect(plan).toMatchObject({ moves: [], left: [], moved: 0 })
  })

  it('keeps held seats free for whoever sits elsewhere, is of another section, or finds the limit lowered', () => {
    const plan = makePlan(
      input({
        people: [person('a', 's'), person('b', 's'), person('c', 't'), person('d', 's')],
        groups: [
          group('one', 2, { section: 's' }),
          group('two', 1, { section: 's' }),
          group('three', 1, { section: 't' }),
        ],
        seats: [{ person: 'd', group: 'two' }],
        heldFor: [
          { person: 'd', group: 'one' },
          { person: 'c', group: 'one' },
          { person: 'b', group: 'two' },
        ],
      }),
    )
    // Both seats of the first group stay held, the second is full: only the third has room.
    expect(plan.moves).toEqual([{ person: 'c', from: null, to: 'three', reason: { code: 'lot', among: 1 } }])
    expect(plan.left.map(({ person: who }) => who)).toEqual(['a', 'b'])
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

  it('are seated so, and the rule is the reason where it changed something', () => {
    const keepings = [apart('k', 'a', 'b'), together('m', 'a', 'c')]
    const roomy = { ...four, groups: [group('one', 3), group('two', 3)] }
    const said = new Set<string>()
    for (let lotNumber = 0; lotNumber < 60; lotNumber++) {
      const plan = makePlan(input({ ...roomy, keepings, lotNumber, method: 'lot' }))
      expect(at(plan).get('a')).toBe(at(plan).get('c'))
      expect(at(plan).get('a')).not.toBe(at(plan).get('b'))
      expect(plan.conflicts).toEqual([])
      for (const { person: who, reason } of plan.moves) said.add(`${who} ${reason.code}`)
    }
    expect(said).toContain('c together')
    expect(said).toContain('b apart')
    expect(said).toContain('c lot')
    // Nobody names the fourth.
    expect([...said].filter((one) => one.startsWith('d'))).toEqual(['d lot'])
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
    for (let lotNumber = 0; lotNumber < 20; lotNumber++) {
      const { moves } = makePlan(input({ ...four, keepings, lotNumber }))
      expect(moves.some(({ reason }) => reason.code === 'together')).toBe(false)
    }
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
    expect(plan.conflicts).toEqual([
      {
        keeping: 'k',
        code: 'no-room',
        people: [plan.left[0]?.person],
        seats: [plan.left[0]?.person],
      },
    ])
    expect(plan.after.left).toBe(1)
    expect(plan.proven).toBe(true)
  })

  it('are not minded in part where they cannot hold as a whole', () => {
    const plan = makePlan(
      input({
        people: people('a', 'b', 'c'),
        groups: [group('one', 3)],
        seats: [
          { person: 'a', group: 'one' },
          { person: 'b', group: 'one' },
        ],
        keepings: [apart('k', 'a', 'b', 'c')],
      }),
    )
    expect(plan.conflicts.map(({ code }) => code)).toEqual(['seated-together'])
    expect(plan.after.left).toBe(0)
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

it('says by how much at most it could be better when it is given up early', () => {
  const many = Array.from({ length: 40 }, (_, i) => `p${i}`)
  const hard = input({
    people: people(...many),
    groups: Array.from({ length: 12 }, (_, i) => group(`g${i}`, 3 + (i % 3), { floor: 3 })),
    seats: many.slice(0, 30).map((who, i) => ({ person: who, group: `g${Math.floor(i / 3)}` })),
    release: 'all',
    keepings: Array.from({ length: 9 }, (_, i) =>
      together(`t${i}`, `p${i}`, `p${(i * 7 + 11) % 40}`, `p${(i * 11 + 23) % 40}`),
    ),
  })
  const plans: number[] = []
  const plan = makePlan(hard, { steps: 2_000, onBetter: (better) => plans.push(better().after.left) })
  expect(plans.length).toBeGreaterThan(0)
  expect(plan.proven).toBe(plan.gap === null)
  expect(plan.gap?.by).toBeGreaterThan(0)
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
