import fc from 'fast-check'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { array, number, object, string, ValidationError } from 'yup'
import { checkShape } from './bounds.ts'
import { checkInTurns } from './inTurns.ts'

const schema = object({
  name: string().trim().required('A name is missing.'),
  lines: array(object({ title: string().trim().max(3, 'Too long.'), seats: number().min(1, 'Too few.') }))
    .min(1, 'There is nothing.')
    .max(60, 'There is too much.'),
  notes: array(string().max(2, 'A long note.')),
})
const check = checkInTurns(schema)

/** What a check says of a body: the cast body, or each fault with its path. */
async function said(what: () => unknown): Promise<unknown> {
  try {
    return { body: await what() }
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error
    const all = error.inner.length > 0 ? error.inner : [error]
    return { faults: all.map(({ path = '', message }) => `${path}: ${message}`).sort() }
  }
}

/** Whether a body comes as far as its check: names that every object has are refused before. */
function isOfGoodShape(body: unknown): boolean {
  try {
    checkShape(body)
    return true
  } catch {
    return false
  }
}

afterEach(() => vi.restoreAllMocks())

describe('a body checked in turns', () => {
  it('says the same as its schema does in one go, whatever is sent', async () => {
    const line = fc.record(
      {
        title: fc.oneof(fc.string({ maxLength: 5 }), fc.constant(null), fc.integer()),
        seats: fc.oneof(fc.integer({ min: -2, max: 5 }), fc.constant('x')),
        other: fc.boolean(),
      },
      { requiredKeys: [] },
    )
    const lines = fc.array(fc.oneof({ weight: 5, arbitrary: line }, fc.jsonValue({ maxDepth: 1 })), {
      maxLength: 20,
    })
    const body = fc.oneof(
      fc.record(
        {
          name: fc.oneof(fc.constant(' Ada '), fc.jsonValue({ maxDepth: 0 })),
          lines: fc.oneof({ weight: 5, arbitrary: lines }, fc.jsonValue({ maxDepth: 1 })),
          notes: fc.array(fc.string({ maxLength: 3 })),
          other: fc.integer(),
        },
        { requiredKeys: [] },
      ),
      fc.jsonValue({ maxDepth: 2 }),
    )
    await fc.assert(
      fc.asyncProperty(body.filter(isOfGoodShape), async (sent) => {
        expect(await said(() => check(sent))).toEqual(
          await said(() => schema.validateSync(sent, { abortEarly: false, stripUnknown: true })),
        )
      }),
    )
  })

  it('looks no further after many wrong items, and says where the first are', async () => {
    const lines = Array.from({ length: 60 }, () => ({ title: 'much too long', seats: 0 }))
    const { faults } = (await said(() => check({ name: 'a', lines }))) as { faults: string[] }
    expect(faults).toHaveLength(100)
    expect(faults).toContain('lines[0].title: Too long.')
    expect(faults).not.toContain('lines[50].title: Too long.')
  })

  it('lets others have their turn while a list is long', async () => {
    let clock = 0
    vi.spyOn(performance, 'now').mockImplementation(() => {
      clock += 5
      return clock
    })
    let turns = 0
    const count = () => {
      turns += 1
      going = setImmediate(count)
    }
    let going = setImmediate(count)
    await check({ name: 'a', lines: Array.from({ length: 40 }, () => ({ title: 'abc', seats: 2 })) })
    clearImmediate(going)
    expect(turns).toBeGreaterThan(10)
  })

  it('has nothing to wait for where no list holds objects', () => {
    expect(checkInTurns(object({ name: string() }))({ name: 'a', more: 1 })).toEqual({ name: 'a' })
  })
})
