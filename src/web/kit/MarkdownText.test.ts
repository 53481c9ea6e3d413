import { createElement } from 'react'
import { renderToStaticMarkup } from 'react-dom/server'
import { expect, it } from 'vitest'
import { MarkdownText } from './MarkdownText.tsx'

const drawn = (text: string) => renderToStaticMarkup(createElement(MarkdownText, { text }))

it('draws what lies too deep as words, whatever marks made it', () => {
  for (const text of [
    `${'>'.repeat(8_000)} deep words`,
    `${'- '.repeat(2_000)}deep words`,
    `${'*a '.repeat(500)}deep words${'*'.repeat(500)}`,
  ]) {
    const html = drawn(text)
    expect(html).toContain('deep words')
    expect(html.split('<').length).toBeLessThan(200)
  }
})

it('draws what people write as it is meant', () => {
  expect(drawn('> quoted\n> - one\n>   - two')).toMatch(/<blockquote>[\s\S]*<li>one[\s\S]*<li>two/)
  expect(drawn('a *b* **c**')).toContain('<em>b</em> <strong>c</strong>')
})
