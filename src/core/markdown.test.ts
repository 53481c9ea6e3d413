import { expect, it } from 'vitest'
import { flattenDeep, type MarkdownNode, MOST_DEEP, markdownDepth } from './markdown.ts'

it.each([
  ['', 0],
  ['Starters are fed on Tuesday.\n\n    indented, and no list', 0],
  ['> quoted', 1],
  ['> > - three deep', 3],
  ['- one\n  - two\n    - three', 3],
  ['1. one\n   1. two', 2],
  ['2026-05-13 is no list, nor is -5 or *emphasis*', 0],
])('counts how deep quotes and lists lie: %j', (text, depth) => {
  expect(markdownDepth(text)).toBe(depth)
})

it('ends on texts made to break it, and says that they are deeper than is kept', () => {
  const hostile = [
    '>'.repeat(8_000),
    '- '.repeat(4_000),
    '1. '.repeat(2_000),
    Array.from({ length: 200 }, (_, n) => `${'  '.repeat(n)}- x`).join('\n'),
  ]
  for (const text of hostile) expect(markdownDepth(text)).toBeGreaterThan(MOST_DEEP)
})

it('flattens a tree of any depth to words in their order, and leaves others as they are', () => {
  let tree: MarkdownNode = { type: 'text', value: 'last' }
  for (let n = 0; n < 50_000; n++)
    tree = { type: 'emphasis', children: [{ type: 'text', value: n < 3 ? `${n}` : '' }, tree] }
  flattenDeep(tree, 5)
  let depth = 0
  let node: MarkdownNode | undefined = tree
  for (; node; node = node.children?.at(-1)) depth += 1
  expect(depth).toBe(7)
  const flat: MarkdownNode = { type: 'paragraph', children: [{ type: 'text', value: 'as it is' }] }
  flattenDeep(flat)
  expect(flat).toEqual({ type: 'paragraph', children: [{ type: 'text', value: 'as it is' }] })
})
