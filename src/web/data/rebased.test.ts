import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { changesBetween, rebase } from './rebased.ts'

interface Fields {
  title: string
  rows: string[]
  due: string
}
const fields = fc.record<Fields>({
  title: fc.constantFrom('a', 'b', 'c'),
  rows: fc.subarray(['x', 'y']),
  due: fc.constantFrom('', 'Mon'),
})

describe('what was written over what is there by now', () => {
  it('follows it where the writer touched nothing, keeps what was written, and names what both changed', () => {
    const base = { title: 'Report', rows: ['x'], due: '' }
    const draft = { ...base, title: 'My report', due: 'Mon' }
    const now = { title: 'Their report', rows: ['x', 'y'], due: '' }
    expect(rebase({ base, draft }, now)).toEqual({
      over: {
        base: { title: 'Report', rows: ['x', 'y'], due: '' },
        draft: { title: 'My report', rows: ['x', 'y'], due: 'Mon' },
      },
      met: ['title'],
    })
    expect(rebase({ base, draft: now }, now)).toEqual({ over: { base: now, draft: now }, met: [] })
  })

  it('sends of each field only what the writer changed, with what it was made from, whatever happens', () => {
    fc.assert(
      fc.property(fields, fields, fields, (base, draft, now) => {
        const { over, met } = rebase({ base, draft }, now)
        const { changes, was } = changesBetween(over.base, over.draft)
        for (const key of ['title', 'rows', 'due'] as const) {
          const sent = key in changes
          const touched = JSON.stringify(draft[key]) !== JSON.stringify(base[key])
          if (sent) expect(touched).toBe(true)
          if (!touched) expect(over.draft[key]).toEqual(now[key])
          else expect(over.draft[key]).toEqual(draft[key])
          // What both changed is sent over what was seen, so that the server asks.
          if (met.includes(key)) expect(was[key]).toEqual(base[key])
          else if (sent) expect(was[key]).toEqual(now[key])
        }
      }),
    )
  })
})
