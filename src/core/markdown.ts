/** How many quotes, lists and other marks may lie in one another in a text. Nobody reads deeper, and pages break on it. */
export const MOST_DEEP = 12

const MARKS = /^[ \t]*(?:>|[-+*](?=[ \t]|$)|\d{1,9}[.)](?=[ \t]|$))/

/**
 * How deep the quotes and lists of a text in Markdown lie in one another at its deepest line, as its marks and its
 * indentation say (CommonMark 0.31, section 5: two spaces at least for each level of a list).
 */
export function markdownDepth(text: string): number {
  let deepest = 0
  for (const line of text.split('\n')) {
    let rest = line
    let marks = 0
    for (let mark = MARKS.exec(rest); mark && marks <= MOST_DEEP; mark = MARKS.exec(rest)) {
      rest = rest.slice(mark[0].length)
      marks += 1
    }
    if (marks === 0) continue
    const indent = /^[ \t]*/.exec(line)?.[0].replaceAll('\t', '    ').length ?? 0
    deepest = Math.max(deepest, marks + Math.floor(indent / 2))
  }
  return deepest
}

/** A part of a text as a parser of Markdown gives it. */
export interface MarkdownNode {
  type: string
  value?: string
  children?: MarkdownNode[]
}

/**
 * Flattens what lies deeper than is drawn, whatever marks made it: there only the words are left. Works without
 * recursion, so that no text breaks it.
 */
export function flattenDeep(root: MarkdownNode, most = 3 * MOST_DEEP): void {
  const open: [node: MarkdownNode, depth: number][] = [[root, 0]]
  for (let next = open.pop(); next; next = open.pop()) {
    const [node, depth] = next
    if (!node.children) continue
    if (depth < most) for (const child of node.children) open.push([child, depth + 1])
    else node.children = [{ type: 'text', value: wordsOf(node) }]
  }
}

function wordsOf(node: MarkdownNode): string {
  const words: string[] = []
  const open = [node]
  for (let next = open.pop(); next; next = open.pop()) {
    if (next.value !== undefined) words.push(next.value)
    if (next.children) open.push(...next.children.toReversed())
  }
  return words.join(' ')
}
