import { describe, expect, it } from 'vitest'
import type { Schema, SchemaDescription } from 'yup'
import { boundsOf, checkLengths } from '../../src/server/http/bounds.ts'
import { EVERY_ROUTE } from './everyRoute.ts'

type Described = SchemaDescription & {
  fields?: Record<string, Described>
  innerType?: Described | Described[]
}

/** Every text in a schema: where it stands, its most characters where that is said, and a body with a value there. */
function textsIn(
  described: Described,
  path: string,
  around: (value: unknown) => unknown,
): { path: string; most: number | null; body: (value: unknown) => unknown }[] {
  if (described.type === 'string') {
    const rule = described.tests.find(({ name }) => name === 'max')
    return [{ path, most: rule ? Number(rule.params?.max) : null, body: around }]
  }
  const inner = Array.isArray(described.innerType) ? described.innerType[0] : described.innerType
  const own = inner ? textsIn(inner, `${path}[0]`, (value) => around([value])) : []
  const fields = Object.entries(described.fields ?? {}).flatMap(([name, field]) =>
    textsIn(field, path === '' ? name : `${path}.${name}`, (value) => around({ [name]: value })),
  )
  return [...own, ...fields]
}

/** Texts that are costly to look at: marks piled on a letter, an address without an end, blanks. */
const COSTLY = {
  'marks on a letter': (n: number) => `a${'\u0316\u0301'.repeat(n / 2)}`,
  'an address': (n: number) => `https://${'ü.'.repeat(n / 2)}`,
  blanks: (n: number) => `a${' '.repeat(n)}b`,
}

describe('every text of every route', () => {
  it('is refused by its length before anything looks at it, with where it stands', () => {
    let looked = 0
    for (const { method, path, body } of EVERY_ROUTE) {
      if (!body) continue
      const bounds = boundsOf(body as Schema)
      for (const text of textsIn((body as Schema).describe() as Described, '', (value) => value)) {
        looked += 1
        const name = `${method} ${path}: ${text.path}`
        const past = text.most === null ? 1_001 : 2 * text.most + 1_001
        for (const costly of Object.values(COSTLY))
          expect(() => checkLengths(bounds!, text.body(costly(past))), name).toThrow(
            expect.objectContaining({
              more: { errors: [{ path: text.path, message: expect.stringMatching(/far too long/) }] },
            }),
          )
        expect(() => checkLengths(bounds!, text.body('short')), name).not.toThrow()
      }
    }
    expect(looked).toBeGreaterThan(250)
  })
})
