import { quiet } from '../data/quiet.ts'
import { part } from './part.tsx'

// The reader of Markdown comes when the page stands: until it is there the text stands as it was typed.
const MarkdownText = part(
  async () => (await quiet().then(() => import('./MarkdownText.tsx'))).MarkdownText,
  ({ text }) => <div className="prose whitespace-pre-line">{text}</div>,
)

/** Text in Markdown as a page shows it. */
export function Markdown({ text, inline = false }: { text: string; inline?: boolean }) {
  return <MarkdownText text={text} inline={inline} />
}
