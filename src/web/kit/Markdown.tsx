import { part } from './part.tsx'

// The reader of Markdown comes after the page: until it is there the text stands as it was typed.
const MarkdownText = part(
  async () => (await import('./MarkdownText.tsx')).MarkdownText,
  ({ text }) => <div className="prose whitespace-pre-line">{text}</div>,
)

/** Text in Markdown as a page shows it. */
export function Markdown({ text, inline = false }: { text: string; inline?: boolean }) {
  return <MarkdownText text={text} inline={inline} />
}
