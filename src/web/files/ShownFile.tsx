import { useEffect, useState } from 'react'
import type { FileView } from '../../contract/files.ts'
import { shownAs } from '../../core/files.ts'
import { part } from '../kit/part.tsx'
import { ScrollBox } from '../kit/ScrollBox.tsx'
import { fileAddress } from './FileLine.tsx'

// The reader of PDFs is large and comes when the first is shown.
const PdfPages = part(
  async () => (await import('./PdfPages.tsx')).PdfPages,
  ({ name }) => <p className="p-4 text-soft">Opening {name}…</p>,
)

/** Characters of a text that are shown. */
const MOST_SHOWN = 200_000

/** What is in a file, where a page can show it; nothing for files that can only be downloaded. */
export function ShownFile({ sheet, file }: { sheet: string; file: FileView }) {
  const address = fileAddress(sheet, file.code)
  switch (shownAs(file.type)) {
    case 'picture':
      return <img src={address} alt={file.name} loading="lazy" className="max-w-full border border-line" />
    case 'pages':
      return <PdfPages address={address} name={file.name} />
    case 'text':
      return <Text address={address} name={file.name} />
    default:
      return null
  }
}

/** A file of plain text, as it is; whatever tags are in it are shown, not followed. */
function Text({ address, name }: { address: string; name: string }) {
  const [text, setText] = useState<string | null>(null)
  const [failed, setFailed] = useState(false)
  useEffect(() => {
    const stop = new AbortController()
    fetch(address, { signal: stop.signal })
      .then(async (answer) => {
        if (answer.ok) setText(await answer.text())
        else setFailed(true)
      })
      .catch(() => !stop.signal.aborted && setFailed(true))
    return () => stop.abort()
  }, [address])
  if (failed) return <p className="p-4 text-sun-ink">It cannot be shown now. Download it to look at it.</p>
  if (text === null) return <p className="p-4 text-soft">Opening {name}…</p>
  return (
    <ScrollBox label={name} className="max-h-[32rem] overflow-auto border border-line p-3">
      <pre className="text-sm whitespace-pre-wrap wrap-anywhere">{text.slice(0, MOST_SHOWN)}</pre>
      {text.length > MOST_SHOWN && <p className="text-soft">There is more; download it to read on.</p>}
    </ScrollBox>
  )
}
