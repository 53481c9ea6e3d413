import ReactMarkdown from 'react-markdown'
import { flattenDeep, type MarkdownNode, MOST_DEEP, markdownDepth } from '../../core/markdown.ts'

const bounded = () => (tree: MarkdownNode) => flattenDeep(tree)

/**
 * Text in Markdown as a page shows it. HTML in it stays text; links open beside the page; pictures are left out. What
 * was made to break whoever reads it is shown as it was typed, or flattened.
 */
export function MarkdownText({ text, inline = false }: { text: string; inline?: boolean }) {
  if (markdownDepth(text) > MOST_DEEP) return <p className="prose break-words whitespace-pre-wrap">{text}</p>
  return (
    <div className="prose">
      <ReactMarkdown
        remarkPlugins={[bounded]}
        disallowedElements={inline ? ['img', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'hr', 'table'] : ['img']}
        unwrapDisallowed
        components={{
          a: ({ href, children }) => (
            <a href={href} target={href?.startsWith('mailto:') ? undefined : '_blank'} rel="noreferrer">
              {children}
            </a>
          ),
        }}
      >
        {text}
      </ReactMarkdown>
    </div>
  )
}
