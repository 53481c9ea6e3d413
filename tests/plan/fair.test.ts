import { describe, expect, it } from 'vitest'
import { drawer } from '../../src/core/plan/drafted.ts'
import { makePlan } from '../../src/core/plan/plan.ts'
import { seatsAfter } from '../../src/core/plan/seatsAfter.ts'
import { solve } from '../../src/core/plan/solve.ts'
import type { PlanInput } from '../../src/core/plan/types.ts'
import { workOf } from '../../src/core/plan/work.ts'
import { group, people, input as plain } from './build.ts'
import { chiSquare, onceInAMillion, totalVariation } from './chance.ts'
import { everyPlan } from './everyPlan.ts'

const LOTS = 20_000

/** By lot, unless another method is given. */
const input = (more: Partial<PlanInput>) => plain({ method: 'lot', ...more })
const apart = (...who: string[]) => ({ key: `apart ${who}`, kind: 'apart' as const, people: who })
const together = (...who: string[]) => ({ key: `together ${who}`, kind: 'together' as const, people: who })
const sits = (group: string, ...who: string[]) => who.map((person) => ({ person, group }))

/** How often each plan is drawn over many lot numbers, beside how often it should be. */
function drawn(own: PlanInput, lots = LOTS) {
  const plans = everyPlan(own)
  const all = plans.reduce((sum, { weight }) => sum + weight, 0)
  const index = new Map(plans.map(({ key }, i) => [key, i]))
  const counted = plans.map(() => 0)
  const draw = drawer(own, solve(own, workOf(50_000_000)))
  let exact = true
  for (let lot = 0; lot < lots; lot++) {
    const drafted = draw(lot)
    exact &&= drafted.exact
    const where = new Map(drafted.seats.map(({ person, group: at }) => [person, at]))
    const at = index.get(own.people.map(({ key }) => where.get(key) ?? '-').join(' '))
    if (at === undefined) throw new Error('A plan was drawn that is not among the best.')
    counted[at] = (counted[at] ?? 0) + 1
  }
  return { counted, expected: plans.map(({ weight }) => (weight / all) * lots), exact }
}

const CASES: Record<string, PlanInput> = {
  'two groups that could hold everybody': input({
    people: people(5),
    groups: [group('a', 5), group('b', 5)],
  }),
  'groups without a limit': input({ people: people(6), groups: [group('a', 0), group('b', 0)] }),
  'a group with a limit beside one without': input({
    people: people(5),
    groups: [group('a', 2), group('b', 0)],
  }),
  'groups of different size, some people left': input({
    people: people(6),
    groups: [group('a', 1), group('b', 3), group('c', 1)],
  }),
  'floors that leave one group empty': input({
    people: people(7),
    groups: [group('a', 5, { floor: 3 }), group('b', 5, { floor: 3 }), group('c', 4, { floor: 3 })],
  }),
  'floors that cannot all be reached': input({
    people: people(5),
    groups: [group('a', 3, { floor: 3 }), group('b', 4, { floor: 3 })],
  }),
  'seats that are taken, and one closed': input({
    people: people(7),
    groups: [group('a', 4, { floor: 3 }), group('b', 4), group('c', 3, { closed: true })],
    seats: [...sits('a', 'p0'), ...sits('c', 'p1')],
  }),
  'a group that reaches its floor though it could be emptied': input({
    people: people(6),
    groups: [group('a', 4, { floor: 3 }), group('b', 4), group('c', 4)],
    seats: [...sits('a', 'p0', 'p1'), ...sits('b', 'p2', 'p3')],
    mayDissolve: true,
  }),
  'a group that is emptied': input({
    people: people(5),
    groups: [group('a', 4, { floor: 4 }), group('b', 4), group('c', 4)],
    seats: [...sits('a', 'p0', 'p1'), ...sits('b', 'p2', 'p3')],
    mayDissolve: true,
  }),
  'seats that may be moved where it helps': input({
    people: people(7),
    groups: [group('a', 5), group('b', 5, { floor: 3 })],
    seats: [...sits('a', 'p0', 'p1', 'p2', 'p3', 'p5'), ...sits('b', 'p4')],
    release: 'all',
  }),
  'everybody drawn afresh': input({
    people: people(5),
    groups: [group('a', 3), group('b', 3)],
    seats: sits('a', 'p0', 'p1', 'p2'),
    release: 'afresh',
  }),
  'held seats': input({
    people: people(6),
    groups: [group('a', 4), group('b', 3, { blocked: 1 })],
    heldFor: [
      { person: 'p0', group: 'a' },
      { person: 'p1', group: 'b' },
    ],
  }),
  'two sections': input({
    people: [...people(4, 's'), ...people(3, 't', 4)],
    groups: [
      group('a', 3, { section: 's' }),
      group('b', 3, { section: 's' }),
      group('c', 3, { section: 't' }),
      group('d', 2, { section: 't' }),
    ],
  }),
  'two who keep apart': input({
    people: people(6),
    groups: [group('a', 3), group('b', 3), group('c', 2)],
    keepings: [apart('p0', 'p1')],
  }),
  'three who keep apart, one from somebody who sits': input({
    people: people(6),
    groups: [group('a', 4), group('b', 4), group('c', 2)],
    seats: sits('a', 'p5'),
    keepings: [apart('p0', 'p1', 'p2'), apart('p0', 'p5')],
  }),
  'two who keep together': input({
    people: people(6),
    groups: [group('a', 4), group('b', 3), group('c', 2)],
    keepings: [together('p0', 'p1')],
  }),
  'three together, two together, and one apart': input({
    people: people(7),
    groups: [group('a', 5), group('b', 4), group('c', 3)],
    keepings: [together('p0', 'p1', 'p2'), together('p3', 'p4'), apart('p0', 'p5')],
  }),
  'together with somebody who sits': input({
    people: people(6),
    groups: [group('a', 3), group('b', 4)],
    seats: sits('a', 'p5'),
    keepings: [together('p0', 'p5')],
  }),
  'keepings and floors': input({
    people: people(7),
    groups: [group('a', 4, { floor: 3 }), group('b', 4, { floor: 2 }), group('c', 4, { floor: 3 })],
    keepings: [apart('p0', 'p1'), together('p2', 'p3')],
  }),
  evenly: input({
    people: people(7),
    groups: [group('a', 3), group('b', 4), group('c', 3)],
    method: 'evenly',
  }),
  'evenly, with two who keep apart': input({
    people: people(7),
    groups: [group('a', 3), group('b', 3), group('c', 3)],
    keepings: [apart('p0', 'p1')],
    method: 'evenly',
  }),
  'evenly, with pairs who keep together, floors, and seats taken': input({
    people: people(8),
    groups: [group('a', 4, { floor: 2 }), group('b', 4, { floor: 3 }), group('c', 4)],
    seats: sits('a', 'p6', 'p7'),
    keepings: [together('p0', 'p1'), together('p2', 'p3')],
    method: 'evenly',
  }),
}

describe('over many lot numbers', () => {
  it.each(Object.entries(CASES))('%s: each way that is as good is as likely as any other', (_, own) => {
    const { counted, expected, exact } = drawn(own)
    expect(exact).toBe(true)
    expect(chiSquare(counted, expected)).toBeLessThan(onceInAMillion(expected.length - 1))
  })

  it('draws with the same chances where there are too many people to count all ways', () => {
    const own = input({
      people: people(118),
      groups: Array.from({ length: 15 }, (_, g) => group(`g${g}`, 10)),
    })
    const draw = drawer(own, solve(own, workOf(50_000_000)))
    const lots = 1_000
    const perGroup = own.groups.map(() => 0)
    const perPerson = own.people.map(() => 0)
    const index = new Map(own.groups.map(({ key }, g) => [key, g]))
    for (let lot = 0; lot < lots; lot++) {
      for (const { person, group: at } of draw(lot).seats) {
        const g = index.get(at) ?? 0
        perGroup[g] = (perGroup[g] ?? 0) + 1
        if (g < 5) perPerson[Number(person.slice(1))] = (perPerson[Number(person.slice(1))] ?? 0) + 1
      }
    }
    const [inGroup, inFive] = [(lots * 118) / 15, lots / 3]
    expect(
      chiSquare(
        perGroup,
        perGroup.map(() => inGroup),
      ),
    ).toBeLessThan(onceInAMillion(14))
    const misses = perPerson.map((count) => lots - count)
    const both = chiSquare(
      [...perPerson, ...misses],
      [...perPerson.map(() => inFive), ...misses.map(() => lots - inFive)],
    )
    expect(both).toBeLessThan(onceInAMillion(118))
  })
})

it.each([
  ['a few', 300, 20, 3],
  ['very many, where sizes are drawn by trying', 5_000, 200, 20],
])('draws sizes near the mean in groups without a limit, with floors: %s', (_, n, groups, floor) => {
  const own = input({
    people: people(n),
    groups: Array.from({ length: groups }, (_, g) => group(`g${g}`, 0, { floor })),
  })
  const draw = drawer(own, solve(own, workOf(50_000_000)))
  const perGroup = own.groups.map(() => 0)
  const lots = 60
  for (let lot = 0; lot < lots; lot++) {
    const drafted = draw(lot)
    expect(drafted.exact).toBe(true)
    const sizes = own.groups.map(() => 0)
    for (const { group: at } of drafted.seats) {
      const g = Number(at.slice(1))
      sizes[g] = (sizes[g] ?? 0) + 1
      perGroup[g] = (perGroup[g] ?? 0) + 1
    }
    expect(Math.min(...sizes.filter((size) => size > 0))).toBeGreaterThanOrEqual(floor)
    expect(Math.max(...sizes)).toBeLessThan((3.5 * n) / groups)
  }
  const mean = (lots * n) / groups
  expect(
    chiSquare(
      perGroup,
      perGroup.map(() => mean),
    ),
  ).toBeLessThan(onceInAMillion(groups - 1))
})

describe('where keepings cost something', () => {
  const SHUFFLED: Record<string, PlanInput> = {
    'three keep apart in two groups': input({
      people: people(6),
      groups: [group('a', 4), group('b', 4)],
      keepings: [apart('p0', 'p1', 'p2')],
    }),
    'pairs that do not fill a group': input({
      people: people(6),
      groups: [group('a', 3), group('b', 3)],
      keepings: [together('p0', 'p1'), together('p2', 'p3'), together('p4', 'p5')],
    }),
    'evenly, with three who keep apart in two groups': input({
      people: people(7),
      groups: [group('a', 4), group('b', 4)],
      keepings: [apart('p0', 'p1', 'p2')],
      method: 'evenly',
    }),
    'seats that may be moved': input({
      people: people(6),
      groups: [group('a', 4), group('b', 4)],
      seats: [...sits('a', 'p0', 'p1', 'p2'), ...sits('b', 'p3')],
      keepings: [apart('p0', 'p1')],
      release: 'all',
    }),
  }
  it.each(Object.entries(SHUFFLED))('%s: an answer is shuffled, nearly as evenly', (_, own) => {
    const lots = 1_500
    const { counted, expected, exact } = drawn(own, lots)
    expect(exact).toBe(false)
    const share = (list: readonly number[]) => list.map((count) => count / lots)
    // As far as a fair draw of as many lots lies from its own chances, and a hundredth.
    const noise = Math.sqrt(expected.length / (2 * Math.PI * lots))
    expect(totalVariation(share(counted), share(expected))).toBeLessThan(noise + 0.02)
  })
})

it('says the same as the plan that is made', () => {
  const own = { ...(CASES['keepings and floors'] as PlanInput), lotNumber: 48_213 }
  const plan = makePlan(own)
  const draw = drawer(own, solve(own, workOf(50_000_000)))
  const inOrder = (seats: readonly { person: string; group: string }[]) =>
    seats.map(({ person, group: at }) => `${person} ${at}`).sort()
  expect(inOrder(seatsAfter(own, plan.moves, plan.left))).toEqual(inOrder(draw(48_213).seats))
})
