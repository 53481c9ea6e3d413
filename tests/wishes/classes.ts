import fc from 'fast-check'
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
