import fc from 'fast-check'
import { type Priority, USUAL_ORDER, type WishRules } from '../../src/core/wishes/rules.ts'
import type { WishInput } from '../../src/core/wishes/types.ts'

/** Small classes with skewed wishes, equal ranks, sections, things that cannot be, and people without wishes. */
const TOPICS = ['p', 'q', 'r', 's']
const someTopics = fc.shuffledSubarray(TOPICS)
export const ranks = someTopics.chain((topics) =>
  fc.array(fc.boolean(), { minLength: topics.length, maxLength: topics.length }).map((joined) =>
    topics.reduce<string[][]>((all, topic, i) => {
      const last = all.at(-1)
      if (i > 0 && joined[i] && last) last.push(topic)
      else all.push([topic])
      return all
    }, []),
  ),
)
export const smallClass: fc.Arbitrary<Omit<WishInput, 'aim'>> = fc.record({
  wishers: fc
    .array(
      fc.record({
        section: fc.constantFrom('tue', 'wed'),
        ranks,
        cannot: fc.oneof(
          { weight: 4, arbitrary: fc.constant([]) },
          { weight: 1, arbitrary: fc.subarray(TOPICS, { maxLength: 2 }) },
        ),
      }),
      { minLength: 1, maxLength: 5 },
    )
    .map((all) => all.map((one, i) => ({ ...one, key: `w${i}` }))),
  groups: fc.uniqueArray(
    fc
      .record({
        topic: fc.constantFrom(...TOPICS),
        section: fc.constantFrom(null, null, 'tue', 'wed'),
        seats: fc.constantFrom(0, 1, 1, 2, 3),
      })
      .map((one) => ({ ...one, key: `${one.topic} ${one.section}` })),
    { maxLength: 4, selector: ({ key }) => key },
  ),
  offers: fc.constantFrom('section' as const, 'course' as const),
  lotNumber: fc.nat(),
})

/** Small classes in which some sit already, some keep together or apart, and groups need so many to work. */
export const withRules: fc.Arbitrary<{ input: Omit<WishInput, 'aim'>; rules: WishRules }> = fc
  .tuple(
    smallClass,
    fc.array(fc.option(fc.nat(3), { nil: null, freq: 2 }), { minLength: 5, maxLength: 5 }),
    fc.array(fc.tuple(fc.constantFrom('together', 'apart'), fc.nat(4), fc.nat(4)), { maxLength: 2 }),
    fc.array(fc.record({ floor: fc.integer({ min: 1, max: 3 }), fixed: fc.constantFrom(0, 0, 0, 1) }), {
      minLength: 4,
      maxLength: 4,
    }),
    fc.shuffledSubarray(USUAL_ORDER as Priority[], { minLength: 3 }),
  )
  .map(([small, homes, pairs, floors, order]): { input: Omit<WishInput, 'aim'>; rules: WishRules } => {
    const taken = small.groups.map(({ seats }) => seats)
    const wishers = small.wishers.map((one, i) => {
      const g = homes[i] ?? null
      const group = g === null ? undefined : small.groups[g]
      const fits =
        group && (group.section === null || group.section === one.section || small.offers === 'course')
      if (g === null || !group || !fits || (taken[g] ?? 0) < 1) return one
      taken[g] = (taken[g] ?? 0) - 1
      return { ...one, home: group.key }
    })
    const named = pairs
      .map(([kind, a, b]) => ({ kind, people: [wishers[a]?.key, wishers[b]?.key] }))
      .filter(({ people: [a, b] }) => a !== undefined && b !== undefined && a !== b)
    const together = named.find(({ kind }) => kind === 'together')?.people as [string, string] | undefined
    const apart = named.find(({ kind }) => kind === 'apart')?.people as [string, string] | undefined
    const both = together && apart && together.every((one) => apart.includes(one))
    return {
      input: { ...small, wishers },
      rules: {
        together: together && !both ? [together] : [],
        apart: apart ? [apart] : [],
        floors: new Map(small.groups.map(({ key }, g) => [key, floors[g] ?? { floor: 1, fixed: 0 }])),
        order,
      },
    }
  })
