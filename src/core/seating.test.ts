import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  checkSeatings,
  inOrderOfSeating,
  inverseOf,
  type SeatingFacts,
  type SeatingGroup,
} from './seating.ts'

const group = (key: string, seats: number, more: Partial<SeatingGroup> = {}): SeatingGroup => ({
  key,
  section: null,
  offered: true,
  seats,
  heldFor: [],
  startsAt: null,
  endsAt: null,
  ...more,
})
const facts = (more: Partial<SeatingFacts> = {}): SeatingFacts => ({
  people: ['a', 'b', 'c'].map((key) => ({ key, section: null, active: true })),
  groups: [group('one', 1), group('two', 2)],
  seats: [{ person: 'a', group: 'one' }],
  rules: { seatsEach: 1, offers: 'section' },
  keepings: [],
  ...more,
})
const codes = ({ faults, concerns }: ReturnType<typeof checkSeatings>) => [
  ...faults.map(({ code }) => code),
  ...concerns.map(({ code }) => code),
]

describe('seating by hand', () => {
  it('lets a free seat be taken, and two people swap where each group is full', () => {
    expect(codes(checkSeatings([{ person: 'b', from: null, to: 'two' }], facts()))).toEqual([])
    const full = facts({
      groups: [group('one', 1), group('two', 1)],
      seats: [
        { person: 'a', group: 'one' },
        { person: 'b', group: 'two' },
      ],
    })
    const swap = [
      { person: 'a', from: 'one', to: 'two' },
      { person: 'b', from: 'two', to: 'one' },
    ]
    expect(codes(checkSeatings(swap, full))).toEqual([])
  })

  it('asks past a limit and counts seats kept for others, and says which seats are extra', () => {
    const check = checkSeatings([{ person: 'b', from: null, to: 'one' }], facts())
    expect(codes(check)).toEqual(['past-limit'])
    expect([...check.extra]).toEqual([0])
    const held = facts({ groups: [group('one', 2, { heldFor: ['c'] })] })
    expect(codes(checkSeatings([{ person: 'b', from: null, to: 'one' }], held))).toEqual(['past-limit'])
    expect(codes(checkSeatings([{ person: 'c', from: null, to: 'one' }], held))).toEqual([])
  })

  it('names every rule that speaks against it', () => {
    const strict = facts({
      people: [
        { key: 'a', section: 's', active: true },
        { key: 'b', section: 't', active: true },
        { key: 'c', section: 's', active: true },
      ],
      groups: [group('one', 4, { section: 's' }), group('two', 4, { section: 's' })],
      keepings: [
        { key: 'k', kind: 'apart', people: ['a', 'b'] },
        { key: 'm', kind: 'together', people: ['a', 'c'] },
      ],
    })
    const check = checkSeatings(
      [
        { person: 'b', from: null, to: 'one' },
        { person: 'c', from: null, to: 'two' },
      ],
      strict,
    )
    expect(check.concerns.map(({ code, others }) => `${code} ${others.join()}`)).toEqual([
      'other-section ',
      'kept-apart a',
      'not-together a',
    ])
  })

  it('asks about two seats at one time', () => {
    const at = { startsAt: '2026-05-06T08:00:00.000Z', endsAt: '2026-05-06T09:00:00.000Z' }
    const dated = facts({
      groups: [group('one', 3, at), group('two', 3, at)],
      rules: { seatsEach: 2, offers: 'section' },
    })
    expect(codes(checkSeatings([{ person: 'a', from: null, to: 'two' }], dated))).toEqual(['time-clash'])
  })

  it.each([
    [{ person: 'a', from: 'two', to: null }, 'not-seated-there'],
    [{ person: 'a', from: null, to: 'one' }, 'seated-there-already'],
    [{ person: 'a', from: null, to: 'two' }, 'too-many-seats'],
    [{ person: 'z', from: null, to: 'two' }, 'person-unknown'],
    [{ person: 'b', from: null, to: 'nine' }, 'group-unknown'],
  ])('refuses %o: %s', (change, code) => {
    expect(codes(checkSeatings([change], facts()))).toEqual([code])
  })

  it('refuses the paused and groups that are not offered', () => {
    const shut = facts({
      people: [{ key: 'b', section: null, active: false }],
      groups: [group('two', 2), group('off', 2, { offered: false })],
      seats: [],
    })
    expect(codes(checkSeatings([{ person: 'b', from: null, to: 'two' }], shut))).toEqual([
      'person-not-active',
    ])
    const active = { ...shut, people: [{ key: 'b', section: null, active: true }] }
    expect(codes(checkSeatings([{ person: 'b', from: null, to: 'off' }], active))).toEqual([
      'group-not-offered',
    ])
  })

  it('can be taken back: the inverse of what was allowed has no faults', () => {
    const change = fc.record({
      person: fc.constantFrom('a', 'b', 'c'),
      to: fc.constantFrom('one', 'two', null),
    })
    fc.assert(
      fc.property(fc.uniqueArray(change, { selector: ({ person }) => person, maxLength: 3 }), (wanted) => {
        const before = facts()
        const changes = wanted.map(({ person, to }) => ({ person, from: person === 'a' ? 'one' : null, to }))
        if (checkSeatings(changes, before).faults.length > 0) return
        const moved = new Set<string>(changes.map(({ person }) => person))
        const seats = [
          ...before.seats.filter(({ person }) => !moved.has(person)),
          ...changes.flatMap(({ person, to }) => (to === null ? [] : [{ person, group: to }])),
        ]
        expect(checkSeatings(inverseOf(changes), { ...before, seats }).faults).toEqual([])
      }),
    )
  })
})

describe('each thing that speaks against a seat', () => {
  const one = (
    change: Partial<Parameters<typeof checkSeatings>[0][number]>,
    more: Partial<SeatingFacts> = {},
  ) => checkSeatings([{ person: 'b', from: null, to: 'two', ...change }], facts(more))

  it.each([
    ['person-unknown', { person: 'nobody' }, {}],
    ['group-unknown', { to: 'nowhere' }, {}],
    ['person-not-active', {}, { people: [{ key: 'b', section: null, active: false }] }],
    ['group-not-offered', {}, { groups: [group('two', 2, { offered: false })] }],
    ['not-seated-there', { from: 'one' }, {}],
    ['seated-there-already', { person: 'a', to: 'one' }, {}],
    ['too-many-seats', { person: 'a' }, {}],
  ] as const)('%s', (code, change, more) => {
    const { faults } = one(change, more)
    expect(faults.map((fault) => fault.code)).toEqual([code])
    expect(faults[0]).toMatchObject({
      person: change && 'person' in change ? change.person : 'b',
      others: [],
    })
  })

  it('is nothing where one holds fewer seats than the rules let, and a second seat leaves the first', () => {
    const rules = { seatsEach: 2, offers: 'section' as const }
    expect(codes(one({ person: 'a' }, { rules }))).toEqual([])
    expect(codes(one({ person: 'a', from: 'one' }))).toEqual([])
    expect(codes(one({ person: 'a', from: 'one', to: null }))).toEqual([])
  })

  it('two at one time, and another section, each with whom and where', () => {
    const dated = { startsAt: '2026-05-06T09:00:00.000Z', endsAt: '2026-05-06T10:00:00.000Z' }
    const rules = { seatsEach: 2, offers: 'section' as const }
    const groups = [group('one', 3, dated), group('two', 3, { ...dated, section: 't' })]
    const { concerns } = one({ person: 'a' }, { rules, groups })
    expect(concerns).toEqual([
      { code: 'other-section', person: 'a', group: 'two', others: [] },
      { code: 'time-clash', person: 'a', group: 'two', others: [] },
    ])
  })

  it('work that is handed in, where one leaves and where one comes', () => {
    const groups = [group('one', 3, { bound: true }), group('two', 3, { bound: true })]
    expect(one({ person: 'a', from: 'one' }, { groups }).concerns).toEqual([
      { code: 'work-handed-in', person: 'a', group: 'one', others: [] },
      { code: 'work-handed-in', person: 'a', group: 'two', others: [] },
    ])
  })

  it('a seat used up by whoever it was kept for is free for nobody else', () => {
    const groups = [group('two', 2, { heldFor: ['a', null] })]
    const both = [
      { person: 'a', from: null, to: 'two' },
      { person: 'b', from: null, to: 'two' },
    ]
    const check = checkSeatings(both, facts({ groups, seats: [] }))
    expect(codes(check)).toEqual(['past-limit'])
    expect([...check.extra]).toEqual([1])
    // Once they sit there, nothing is kept any more: the other seat is anybody's.
    const alone = [group('two', 2, { heldFor: ['a'] })]
    expect(codes(checkSeatings(both, facts({ groups: alone, seats: [] })))).toEqual([])
    const three = [...both, { person: 'c', from: null, to: 'two' }]
    const more = [group('two', 3, { heldFor: ['b', 'a'] })]
    expect(codes(checkSeatings(three, facts({ groups: more, seats: [] })))).toEqual([])
  })

  it('keepings speak of those they name, where they sit then', () => {
    const keepings = [
      { key: 'k', kind: 'apart' as const, people: ['a', 'b'] },
      { key: 'm', kind: 'together' as const, people: ['b', 'c'] },
    ]
    const seats = [
      { person: 'a', group: 'one' },
      { person: 'c', group: 'two' },
    ]
    const groups = [group('one', 5), group('two', 5)]
    const check = (change: object) => one(change, { keepings, seats, groups }).concerns
    expect(check({ to: 'one' })).toEqual([
      { code: 'kept-apart', person: 'b', group: 'one', others: ['a'] },
      { code: 'not-together', person: 'b', group: 'one', others: ['c'] },
    ])
    expect(check({ to: 'two' })).toEqual([])
    // Somebody without a seat is not away from anybody, and leaving brings nobody together.
    expect(check({ person: 'c', from: 'two', to: null })).toEqual([])
    expect(one({ to: 'one' }, { keepings, seats: [], groups }).concerns).toEqual([])
  })
})

it('those come first for whom a seat is kept', () => {
  const changes = ['a', 'b', 'c'].map((person) => ({ person, from: null, to: 'two' }))
  const order = inOrderOfSeating(changes, {
    groups: [group('two', 3, { heldFor: ['c', null] }), group('one', 1)],
  })
  expect(order.map(({ person }) => person)).toEqual(['c', 'a', 'b'])
  expect(inOrderOfSeating([{ person: 'c', from: 'two', to: null }], { groups: [] })).toHaveLength(1)
})
