import fc from 'fast-check'
import { expect, it } from 'vitest'
import type { RunView } from '../../../contract/seats.ts'
import { withHeard } from './useRunSheet.ts'

const view = (rev: number, seats: [string, string][]) =>
  ({ rev, seats: seats.map(([person, group]) => ({ person, group, at: '' })) }) as unknown as RunView
const pairs = ({ seats }: RunView) => seats.map(({ person, group }) => `${person} ${group}`).sort()

interface Change {
  person: string
  from: string | null
  to: string | null
  at: string
}

/** A history that could have happened: each person moves from where they are. */
const history = fc
  .array(fc.record({ person: fc.constantFrom('ada', 'bao', 'cem'), to: fc.constantFrom('g1', 'g2', null) }), {
    maxLength: 20,
  })
  .map((steps) => {
    const at = new Map<string, string | null>()
    return steps.map(({ person, to }): Change => {
      const from = at.get(person) ?? null
      at.set(person, to)
      return { person, from, to, at: '' }
    })
  })

const replay = (changes: readonly Change[]) => {
  const at = new Map<string, string>()
  for (const { person, to } of changes) {
    if (to === null) at.delete(person)
    else at.set(person, to)
  }
  return [...at].map(([person, group]): [string, string] => [person, group])
}

it('shows the same seats however the history is split between the fetched view and what the stream told', () => {
  fc.assert(
    fc.property(
      history,
      fc.nat(20),
      fc.nat(20),
      fc.integer({ min: 1, max: 5 }),
      (changes, fetched, from, size) => {
        const rev = Math.min(fetched, changes.length)
        const start = view(rev, replay(changes.slice(0, rev)))
        // The stream may begin before what the view already holds, in messages of several changes each.
        const heard = []
        for (let i = Math.min(from, rev); i < changes.length; i += size) {
          heard.push({ changes: changes.slice(i, i + size), position: Math.min(i + size, changes.length) })
        }
        expect(pairs(withHeard(start, heard))).toEqual(
          replay(changes)
            .map(([person, group]) => `${person} ${group}`)
            .sort(),
        )
      },
    ),
  )
})
