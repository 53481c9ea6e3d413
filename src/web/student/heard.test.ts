import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ClaimAnswer, StudentGroup, StudentSheet } from '../../contract/seats.ts'
import { hear, hearAnswer, NOTHING_HEARD, withAnswer, withHeard } from './heard.ts'

const group = (code: string, over: Partial<StudentGroup> = {}) =>
  ({ code, taken: 0, held: 0, heldForYou: false, waiting: 0, names: null, ...over }) as StudentGroup
const view = (rev: number, groups: StudentGroup[]) =>
  ({ rev, groups, seats: [], received: [], sent: [] }) as unknown as StudentSheet
const answer = (rev: number, groups: StudentGroup[]) =>
  ({ rev, groups, seats: [{ group: groups[0]?.code }], received: [], sent: [] }) as unknown as ClaimAnswer
const told = (code: string, taken: number, held = 0, waiting = 0) => ({
  groups: [{ code, taken, held, waiting }],
})

describe('what the stream told', () => {
  it('lies over an older view, and under a newer one', () => {
    const heard = hear(NOTHING_HEARD, told('a', 3), 10)
    expect(withHeard(view(9, [group('a')]), heard).groups[0]?.taken).toBe(3)
    expect(withHeard(view(10, [group('a')]), heard).groups[0]?.taken).toBe(0)
  })

  it('leaves a group that it does not change the same object, so that nothing is drawn anew', () => {
    const same = group('a', { taken: 3 })
    const heard = hear(NOTHING_HEARD, told('a', 3), 10)
    expect(withHeard(view(9, [same]), heard).groups[0]).toBe(same)
  })

  it('counts a seat kept for oneself as kept for nobody else', () => {
    const heard = hear(NOTHING_HEARD, told('a', 1, 2), 10)
    expect(withHeard(view(9, [group('a', { heldForYou: true })]), heard).groups[0]?.held).toBe(1)
  })

  it('comes to the newest figure in whatever order it arrives', () => {
    const messages = fc.uniqueArray(
      fc.record({ position: fc.integer({ min: 1, max: 99 }), taken: fc.nat(9) }),
      {
        selector: ({ position }) => position,
        minLength: 1,
      },
    )
    fc.assert(
      fc.property(messages, (all) => {
        const heard = all.reduce(
          (so, { position, taken }) => hear(so, told('a', taken), position),
          NOTHING_HEARD,
        )
        const newest = all.toSorted((a, b) => b.position - a.position)[0]!
        expect(withHeard(view(0, [group('a')]), heard).groups[0]?.taken).toBe(newest.taken)
      }),
    )
  })
})

describe('the answer to a claim', () => {
  it('puts own seats and touched groups in place, and leaves the rest', () => {
    const before = view(5, [group('a'), group('b', { taken: 2 })])
    const granted = answer(8, [group('a', { taken: 1, names: [] })])
    const after = withAnswer(before, granted)
    expect(after.seats).toEqual([{ group: 'a' }])
    expect(after.groups).toEqual([group('a', { taken: 1, names: [] }), before.groups[1]])
    expect(after.rev).toBe(5)
  })

  it('is not undone by what the stream told before it, and gives way to what it tells after', () => {
    const granted = answer(8, [group('a', { taken: 1 })])
    const late = hear(hearAnswer(NOTHING_HEARD, granted), told('a', 0), 7)
    const after = withAnswer(view(5, [group('a')]), granted)
    expect(withHeard(after, late).groups[0]?.taken).toBe(1)
    expect(withHeard(after, hear(late, told('a', 4), 9)).groups[0]?.taken).toBe(4)
  })
})
