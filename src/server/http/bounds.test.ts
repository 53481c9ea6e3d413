import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { array, number, object, string } from 'yup'
import { boundsOf, checkBytes, checkLengths, checkShape } from './bounds.ts'

const schema = object({
  title: string(),
  deep: object({ list: array(object({ names: array(string()).max(2) })).max(3) }),
})
const bounds = boundsOf(schema)!
const list = (lengths: number[]) => ({ deep: { list: lengths.map((n) => ({ names: Array(n).fill('a') })) } })

describe('lists of a body', () => {
  it('are refused by their length, wherever they stand, with where', () => {
    expect(() => checkLengths(bounds, list([2, 2, 2]))).not.toThrow()
    expect(() => checkLengths(bounds, list([0, 0, 0, 0]))).toThrow(/more than 3/)
    expect(() => checkLengths(bounds, list([0, 3]))).toThrow(
      expect.objectContaining({
        more: { errors: [{ path: 'deep.list[1].names', message: expect.any(String) }] },
      }),
    )
  })

  it('are never looked into where there are too many of them', () => {
    let looked = 0
    const item = {
      get names() {
        looked += 1
        return []
      },
    }
    expect(() => checkLengths(bounds, { deep: { list: Array(1_000).fill(item) } })).toThrow()
    expect(looked).toBe(0)
  })

  it('that are something else are left to the schema, whatever they are', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (value) => {
        const body = { deep: { list: value } }
        const long = Array.isArray(value) && value.length > 3
        const inner =
          Array.isArray(value) &&
          value.some((one) => {
            const { names } = (one ?? {}) as { names?: unknown }
            if (!Array.isArray(names)) return false
            return names.length > 2 || names.some((name) => typeof name === 'object' && name !== null)
          })
        if (long || inner) expect(() => checkLengths(bounds, body)).toThrow()
        else expect(() => checkLengths(bounds, body)).not.toThrow()
      }),
    )
  })

  it('refuses a text that is far too long before its schema looks at it: twice its most and what is around, or 1,000', () => {
    const texts = boundsOf(object({ title: string().max(120), code: string() }))!
    expect(() => checkLengths(texts, { title: 'a'.repeat(1_240), code: 'a'.repeat(1_000) })).not.toThrow()
    expect(() => checkLengths(texts, { title: 'a'.repeat(1_241) })).toThrow(/1,241 characters/)
    expect(() => checkLengths(texts, { code: 'a'.repeat(1_001) })).toThrow(/far too long/)
  })

  it('refuses what has parts where a text belongs, whatever its parts are called', () => {
    for (const title of [[], {}, { length: 1e9 }, { trim: 1 }])
      expect(() => checkLengths(bounds, { title })).toThrow(/not a text/)
    for (const title of ['', 'a', 1, true, null, undefined])
      expect(() => checkLengths(bounds, { title })).not.toThrow()
  })

  it('have a bound where their schema says none, and a schema without lists and texts has none', () => {
    const open = boundsOf(object({ list: array(string()) }))!
    expect(() => checkLengths(open, { list: Array(5_001).fill('') })).toThrow(/5,000/)
    expect(boundsOf(object({ seats: number() }))).toBeNull()
  })
})

describe('the shape of a body', () => {
  const nested = (depth: number): unknown => (depth === 0 ? 1 : [nested(depth - 1)])

  it('is refused where it is nested too deep, holds too much, or names what is no field', () => {
    expect(() => checkShape(nested(10))).not.toThrow()
    for (const body of [
      nested(13),
      JSON.parse(`${'['.repeat(5_000)}${']'.repeat(5_000)}`),
      Array(200_000).fill(1),
      Object.fromEntries(Array.from({ length: 200_000 }, (_, i) => [`k${i}`, 1])),
      JSON.parse('{"a":{"__proto__":{"b":1}}}'),
      { constructor: 1 },
    ])
      expect(() => checkShape(body)).toThrow(expect.objectContaining({ code: 'body-malformed' }))
  })

  it('is no matter for anything of a usual size', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 6 }), (value) => {
        fc.pre(
          !/"(__\w+__|constructor|prototype|then|toJSON|\w+Of|to\w*String|hasOwnProperty|propertyIsEnumerable)":/.test(
            JSON.stringify(value),
          ),
        )
        checkShape(value)
      }),
    )
    for (const value of [null, undefined, 'text', 5]) checkShape(value)
  })
})

describe('the bytes of a body', () => {
  const check = (text: string) => () => checkBytes(Buffer.from(text))

  it('are refused where they hold too much, nest too deep, or name too many things at once', () => {
    expect(check(`[${'0,'.repeat(120_001)}0]`)).toThrow(/too much at once/)
    expect(check('['.repeat(13))).toThrow(/too deep/)
    const names = (n: number) => `{${Array.from({ length: n }, (_, i) => `"n${i}":0`).join()}}`
    expect(check(names(5_000))).not.toThrow()
    expect(check(names(5_001))).toThrow(/too many names/)
    // Many small objects with the same few names are what plans and rosters are.
    expect(check(`[${Array(20_000).fill('{"a":1,"b":2}').join()}]`)).not.toThrow()
  })

  it('are not counted inside of texts', () => {
    expect(check(JSON.stringify({ text: `${'[{,:'.repeat(60_000)}"\\` }))).not.toThrow()
  })

  it('refuse nothing that the parsed body would pass, whatever it is', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 14 }), (value) => {
        const fits = (run: () => void) => {
          try {
            run()
            return true
          } catch {
            return false
          }
        }
        const body = { value }
        if (fits(() => checkShape(body))) expect(check(JSON.stringify(body))).not.toThrow()
      }),
    )
  })
})
