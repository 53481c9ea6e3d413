import { lazy, Suspense } from 'react'

// The reader of Markdown comes after the page: until it is there the text stands as it was typed.
const MarkdownText = lazy(async () => ({ default: (await import('./MarkdownText.tsx')).MarkdownText }))

/** Text in Markdown as a page shows it. */
export function Markdown({ text, inline = false }: { text: string; inline?: boolean }) {
  return (
    <Suspense fallback={<div className="prose whitespace-pre-line">{text}</div>}>
      <MarkdownText text={text} inline={inline} />
    </Suspense>
  )
}
