import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { PlanBasis } from './basis.ts'
import { mendingsFor, planOf } from './mend.ts'

const FLOOR = 2
/** A class as seats say it: `{ a: ['p', 'q'] }`; everybody of one section. */
function classOf(seats: Record<string, string[]>, more: Partial<PlanBasis> = {}): PlanBasis {
  const people = [...new Set(Object.values(seats).flat())]
  return {
    people: people.map((key) => ({ key, name: key, section: null })),
    groups: Object.keys(seats).map((key) => ({ key, section: null, seats: 4, blocked: 0, floor: FLOOR })),
    seats: Object.entries(seats).flatMap(([group, who]) => who.map((person) => ({ person, group }))),
    heldFor: [],
    offers: 'section',
    keepings: [],
    ...more,
  }
}
const moved = (basis: PlanBasis, small: string) =>
  Object.fromEntries(
    mendingsFor(basis, small).map(({ kind, moves }) => [
      kind,
      moves.map(({ person, from, to }) => `${person} ${from}>${to}`),
    ]),
  )

describe('a group that fell under its floor', () => {
  it('is merged with another small one, or filled up from the largest by who came last', () => {
    const basis = classOf({ a: ['p'], b: ['q'], c: ['r', 's', 't'], d: ['u', 'v', 'w', 'x'] })
    expect(moved(basis, 'a')).toEqual({ merge: ['p a>b'], fill: ['x d>a'] })
  })

  it('is left alone where it is not too small, empty, unknown, or has handed in', () => {
    const basis = classOf({ a: ['p', 'q'], b: [], c: ['r'] })
    for (const key of ['a', 'b', 'none']) expect(mendingsFor(basis, key)).toEqual([])
    const bound = basis.groups.map((group) => ({ ...group, closed: group.key === 'c' }))
    expect(mendingsFor({ ...basis, groups: bound }, 'c')).toEqual([])
  })

  it('takes nobody from a group that would be too small, nor where there is no room', () => {
    expect(moved(classOf({ a: ['p'], b: ['q', 'r'] }), 'a')).toEqual({ merge: ['p a>b'] })
    const full = classOf({ a: ['p'], b: ['q', 'r', 's', 't'] })
    expect(moved(full, 'a')).toEqual({ fill: ['t b>a'] })
    const held = classOf({ a: ['p'], b: ['q', 'r', 's'] }, { heldFor: [{ person: 'x', group: 'b' }] })
    expect(moved(held, 'a')).toEqual({ fill: ['s b>a'] })
  })

  it('keeps sections, and those apart and together who are to be', () => {
    const basis = classOf({ a: ['p'], b: ['q', 'r', 's'] })
    const groups = basis.groups.map((group) => ({ ...group, section: group.key }))
    const people = basis.people.map((one) => ({ ...one, section: one.key === 'p' ? 'a' : 'b' }))
    expect(mendingsFor({ ...basis, groups, people }, 'a')).toEqual([])
    expect(moved({ ...basis, groups, people, offers: 'course' }, 'a')).toEqual({
      merge: ['p a>b'],
      fill: ['s b>a'],
    })
    const apart = { key: 'k', kind: 'apart' as const, people: ['p', 's'] }
    expect(moved({ ...basis, keepings: [apart] }, 'a')).toEqual({ fill: ['r b>a'] })
    const together = { key: 'k', kind: 'together' as const, people: ['r', 's'] }
    expect(moved({ ...basis, keepings: [together] }, 'a')).toEqual({ merge: ['p a>b'], fill: ['q b>a'] })
  })

  it('as a plan says how the class stands before and after', () => {
    const basis = classOf({ a: ['p'], b: ['q'], c: ['r', 's', 't'] })
    const [merge, fill] = mendingsFor(basis, 'a').map((one) => planOf(basis, one))
    expect(merge).toMatchObject({
      dissolved: ['a'],
      before: { under: 2, empty: 0 },
      after: { under: 0, empty: 1 },
    })
    expect(fill).toMatchObject({ dissolved: [], after: { under: 1, sizes: { least: 1, most: 2 } } })
  })

  it('is never mended at another’s cost: no group is brought past its limit or under its floor', () => {
    const seats = fc
      .array(fc.integer({ min: 0, max: 5 }), { minLength: 2, maxLength: 7 })
      .map((sizes) =>
        Object.fromEntries(sizes.map((n, i) => [`g${i}`, Array.from({ length: n }, (_, p) => `p${i}.${p}`)])),
      )
    fc.assert(
      fc.property(seats, fc.array(fc.integer({ min: 0, max: 5 }), { maxLength: 3 }), (seated, blocks) => {
        const all = classOf(seated)
        const groups = all.groups.map((group, i) => ({ ...group, seats: 5, blocked: blocks[i] ? 1 : 0 }))
        const basis = { ...all, groups }
        for (const { key, floor } of groups)
          for (const mending of mendingsFor(basis, key)) {
            const size = (group: string) => seated[group]!.length
            const change = (group: string) =>
              mending.moves.filter(({ to }) => to === group).length -
              mending.moves.filter(({ from }) => from === group).length
            for (const other of groups) {
              const after = size(other.key) + change(other.key)
              if (change(other.key) > 0) expect(after + other.blocked).toBeLessThanOrEqual(other.seats)
              if (change(other.key) < 0 && other.key !== key)
                expect(after).toBeGreaterThanOrEqual(other.floor)
            }
            const own = size(key) + change(key)
            expect(mending.kind === 'merge' ? own === 0 : own >= floor).toBe(true)
            const { before, after } = planOf(basis, mending)
            expect(after.under).toBeLessThan(before.under)
          }
      }),
    )
  })
})
