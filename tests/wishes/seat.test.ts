import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { figuresOf, lotOrder, seatByWishes } from '../../src/core/wishes/seat.ts'
import type { WishAim, Wisher, WishGroup, WishInput, WishSeat } from '../../src/core/wishes/types.ts'
import { ranks, smallClass } from './classes.ts'
import { everySeating, isLess, placed, rankIn, vectorOf } from './every.ts'

const AIMS = ['most-first', 'nobody-far-down', 'least-total'] as const

const wisher = (key: string, ...ranks: (string | string[])[]): Wisher => ({
  key,
  section: null,
  ranks: ranks.map((one) => (typeof one === 'string' ? [one] : one)),
  cannot: [],
})
const group = (topic: string, seats: number, section: string | null = null): WishGroup => ({
  key: `${topic}${section ?? ''}`,
  topic,
  section,
  seats,
})
const seat = (aim: WishAim, wishers: Wisher[], groups: WishGroup[], lotNumber = 7) =>
  seatByWishes({ wishers, groups, aim, lotNumber, offers: 'section' })
const placesOf = (seats: readonly WishSeat[]) =>
  Object.fromEntries(seats.map(({ person, group }) => [person, group]))

describe('seats by wishes', () => {
  const groups = [group('kimchi', 1), group('tempeh', 1), group('miso', 1)]

  it('give as many first wishes as can be, though somebody then has the last', () => {
    const class3 = [
      wisher('a', 'kimchi', 'tempeh', 'miso'),
      wisher('b', 'kimchi', 'tempeh', 'miso'),
      wisher('c', 'tempeh', 'kimchi', 'miso'),
    ]
    const { figures } = seat('most-first', class3, groups)
    expect(figures).toEqual({ left: 0, leftWithWishes: 0, byRank: [2, 0, 1], none: 0, seatedWithout: 0 })
  })

  it('put nobody far down where that can be', () => {
    const class3 = [
      wisher('a', 'kimchi', 'tempeh', 'miso'),
      wisher('b', 'kimchi', 'miso', 'tempeh'),
      wisher('c', 'kimchi', 'tempeh', 'miso'),
    ]
    expect(seat('nobody-far-down', class3, groups).figures.byRank).toEqual([1, 2, 0])
  })

  it('leave as few as can be, before any wish counts, and those without wishes first', () => {
    const two = [group('kimchi', 1), group('tempeh', 1)]
    const class3 = [wisher('a', 'kimchi'), wisher('b', 'kimchi'), wisher('c')]
    for (const aim of AIMS) {
      const { seats, figures } = seat(aim, class3, two)
      expect(figures).toMatchObject({ left: 1, leftWithWishes: 0, byRank: [1], none: 1 })
      expect(placesOf(seats).c).toBeNull()
    }
  })

  it('keep to sections, and to what somebody cannot have', () => {
    const sectioned = [group('kimchi', 2, 'tue'), group('kimchi', 2, 'wed'), group('miso', 1)]
    const class3: Wisher[] = [
      { ...wisher('a', 'kimchi'), section: 'tue' },
      { ...wisher('b', 'kimchi'), section: 'wed' },
      { ...wisher('c'), section: 'tue', cannot: ['kimchi'] },
    ]
    for (const aim of [...AIMS, 'in-turn'] as const)
      expect(placesOf(seat(aim, class3, sectioned).seats)).toEqual({
        a: 'kimchitue',
        b: 'kimchiwed',
        c: 'miso',
      })
  })

  it('are the same for the same lot number, whatever is asked besides; an empty class and no groups are no fault', () => {
    const class3 = [wisher('a', 'kimchi'), wisher('b', 'kimchi'), wisher('c', 'kimchi')]
    for (const aim of [...AIMS, 'in-turn'] as const) {
      expect(seat(aim, class3, groups, 3)).toEqual(seat(aim, class3, groups, 3))
      const turned = seat(aim, class3.toReversed(), groups.toReversed(), 3)
      expect(placesOf(turned.seats)).toEqual(placesOf(seat(aim, class3, groups, 3).seats))
      expect(seat(aim, [], groups).seats).toEqual([])
      expect(seat(aim, class3, []).figures).toMatchObject({ left: 3, leftWithWishes: 3 })
    }
  })

  it('go on without limits', () => {
    expect(
      seat(
        'most-first',
        [wisher('a', 'kimchi'), wisher('b', 'kimchi')],
        [group('kimchi', Number.POSITIVE_INFINITY)],
      ).figures.byRank,
    ).toEqual([2])
  })
})

describe('against every seating that there is', () => {
  it.each(AIMS)(
    '%s gives among what is as good the best to the first of the lot, then to the second, and so on',
    (aim) => {
      fc.assert(
        fc.property(smallClass, (drawn) => {
          const input: WishInput = { ...drawn, aim }
          const order = lotOrder(input.wishers, input.lotNumber, 'people').map((one) =>
            input.wishers.indexOf(one),
          )
          /** How good what each has is, in the order of the lot. */
          const ranksOf = (at: readonly (number | null)[]) =>
            order.map((i) => {
              const g = at[i] ?? null
              return g === null ? 99 : (rankIn(input.wishers[i] as Wisher, input.groups[g]?.topic) ?? 50)
            })
          let [best, ranks] = [null as number[] | null, [] as number[]]
          for (const other of everySeating(input)) {
            const vector = vectorOf(input, other)
            const own = ranksOf(other)
            if (best === null || isLess(vector, best)) [best, ranks] = [vector, own]
            else if (!isLess(best, vector) && isLess(own, ranks)) ranks = own
          }
          expect(ranksOf(placed(input, seatByWishes(input).seats))).toEqual(ranks)
        }),
        { numRuns: 1_500 },
      )
    },
  )

  it.each(AIMS)('%s is as good as the best of all, and seats nobody where they cannot be', (aim) => {
    fc.assert(
      fc.property(smallClass, (drawn) => {
        const input: WishInput = { ...drawn, aim }
        const { seats, figures } = seatByWishes(input)
        const at = placed(input, seats)
        const ours = vectorOf(input, at)
        let best = ours
        let allowed = false
        for (const other of everySeating(input)) {
          const vector = vectorOf(input, other)
          if (isLess(vector, best)) best = vector
          allowed ||= other.every((g, i) => g === at[i])
        }
        expect(allowed).toBe(true)
        expect(ours).toEqual(best)
        expect(figures).toEqual(figuresOf(input, seats))
        seats.forEach(({ rank }, i) => {
          const g = at[i] ?? null
          expect(rank).toBe(g === null ? null : rankIn(input.wishers[i] as Wisher, input.groups[g]?.topic))
        })
      }),
      { numRuns: 1_000 },
    )
  })
})

describe('in turn', () => {
  /** How good a seat is for somebody, the least the best: a wish, any other seat, none. */
  const worth = (one: Wisher, seats: readonly WishSeat[], groups: readonly WishGroup[]) => {
    const at = seats.find(({ person }) => person === one.key)?.group ?? null
    const topic = groups.find(({ key }) => key === at)?.topic
    return at === null ? 99 : (rankIn(one, topic) ?? 50)
  }

  it('is not to be gained on: no other list of wishes brings anybody a seat that they like better', () => {
    fc.assert(
      fc.property(smallClass, ranks, fc.nat(4), (drawn, otherwise, n) => {
        const input: WishInput = { ...drawn, aim: 'in-turn' }
        const one = input.wishers[n % input.wishers.length] as Wisher
        fc.pre(one.ranks.length > 0 && otherwise.length > 0)
        const told = worth(one, seatByWishes(input).seats, input.groups)
        const lied = input.wishers.map((wisher) =>
          wisher === one ? { ...wisher, ranks: otherwise } : wisher,
        )
        expect(
          worth(one, seatByWishes({ ...input, wishers: lied }).seats, input.groups),
        ).toBeGreaterThanOrEqual(told)
      }),
      { numRuns: 3_000 },
    )
  })

  it('gives the first of the lot their first wish, whoever that is', () => {
    const wishers = ['a', 'b', 'c'].map((key) => wisher(key, 'kimchi', 'tempeh', 'miso'))
    const groups = [group('kimchi', 1), group('tempeh', 1), group('miso', 1)]
    const got = new Set<string>()
    for (let lot = 0; lot < 60; lot++) {
      const { seats, figures } = seat('in-turn', wishers, groups, lot)
      expect(figures.byRank).toEqual([1, 1, 1])
      got.add(seats.find(({ rank }) => rank === 1)?.person ?? '')
    }
    expect([...got].sort()).toEqual(['a', 'b', 'c'])
  })
})

describe('the lot', () => {
  it.each([...AIMS, 'in-turn'] as const)('%s: people with the same wishes have the same chances', (aim) => {
    const wishers = [
      wisher('a', 'kimchi', 'tempeh'),
      wisher('b', 'kimchi', 'tempeh'),
      wisher('c', 'kimchi', 'tempeh'),
      wisher('d', 'tempeh', 'kimchi'),
    ]
    const groups = [group('kimchi', 1), group('tempeh', 1), group('miso', 2)]
    const DRAWS = 20_000
    const first = new Map<string, number>()
    for (let lot = 0; lot < DRAWS; lot++)
      for (const { person, group: at } of seat(aim, wishers, groups, lot).seats)
        if (at === 'kimchi') first.set(person, (first.get(person) ?? 0) + 1)
    const equals = ['a', 'b', 'c'].map((key) => first.get(key) ?? 0)
    const expected = equals.reduce((sum, n) => sum + n, 0) / 3
    const chi = equals.reduce((sum, n) => sum + (n - expected) ** 2 / expected, 0)
    // Two degrees of freedom: beyond this once in a million fair draws.
    expect(chi).toBeLessThan(27.7)
    expect(expected).toBeGreaterThan(DRAWS / 6)
  })
})
