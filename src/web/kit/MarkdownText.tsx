import ReactMarkdown from 'react-markdown'

/** Text in Markdown as a page shows it. HTML in it stays text; links open beside the page; pictures are left out. */
export function MarkdownText({ text, inline = false }: { text: string; inline?: boolean }) {
  return (
    <div className="prose">
      <ReactMarkdown
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
