import { useEffect, useState } from 'react'
import type { FileView } from '../../contract/files.ts'
import { shownAs } from '../../core/files.ts'
import { Button } from '../kit/Button.tsx'
import { part } from '../kit/part.tsx'
import { ScrollBox } from '../kit/ScrollBox.tsx'
import { fileAddress } from './FileLine.tsx'
import type { Parts } from './parts.ts'

// The reader of PDFs is large and comes when the first is shown.
const PdfPages = part(
  async () => (await import('./PdfPages.tsx')).PdfPages,
  ({ name }) => <p className="p-4 text-soft">Opening {name}…</p>,
)

/** Characters of a text that are shown. */
const MOST_SHOWN = 200_000

/** What is in a file, where a page can show it; nothing for files that can only be downloaded. */
export function ShownFile({
  sheet,
  file,
  parts,
}: {
  sheet: string
  file: FileView
  parts?: Parts | undefined
}) {
  const address = fileAddress(sheet, file.code)
  switch (shownAs(file.type)) {
    case 'picture':
      return <Picture address={address} name={file.name} parts={parts} />
    case 'pages':
      return <PdfPages address={address} name={file.name} parts={parts} />
    case 'text':
      return <Text address={address} name={file.name} shown={parts?.text} />
    default:
      return null
  }
}

/** How many times as wide as its place a picture is shown. */
const SIZES = [1, 2, 4] as const

/** A picture, as wide as there is room or larger; a large one is read from the file and drawn while the page goes on. */
function Picture({ address, name, parts }: { address: string; name: string; parts: Parts | undefined }) {
  const [size, setSize] = useState(0)
  const times = SIZES[size] ?? 1
  return (
    <div className="flex flex-col gap-1" id={parts?.idOf(1)}>
      <div className="flex gap-1">
        <Button size="small" disabled={size === SIZES.length - 1} onClick={() => setSize(size + 1)}>
          Larger<span className="sr-only"> {name}</span>
        </Button>
        <Button size="small" disabled={size === 0} onClick={() => setSize(size - 1)}>
          Smaller<span className="sr-only"> {name}</span>
        </Button>
      </div>
      <ScrollBox label={name} className={times > 1 ? 'max-h-[80vh]' : ''}>
        <div className="relative w-fit max-w-none" style={times > 1 ? { width: `${100 * times}%` } : {}}>
          <img
            src={address}
            alt={name}
            loading="lazy"
            decoding="async"
            draggable={false}
            className={`block border border-line ${times > 1 ? 'w-full' : 'max-w-full'}`}
          />
          {parts?.over(1)}
        </div>
      </ScrollBox>
      {parts?.after?.(1)}
    </div>
  )
}

/** A file of plain text, as it is; whatever tags are in it are shown, not followed. */
function Text({ address, name, shown }: { address: string; name: string; shown: Parts['text'] | undefined }) {
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
  if (shown) {
    return (
      <div className="border border-line p-3">
        {shown(text.slice(0, MOST_SHOWN))}
        {text.length > MOST_SHOWN && <p className="text-soft">There is more; download it to read on.</p>}
      </div>
    )
  }
  return (
    <ScrollBox label={name} className="max-h-[32rem] overflow-auto border border-line p-3">
      <pre className="text-sm whitespace-pre-wrap wrap-anywhere">{text.slice(0, MOST_SHOWN)}</pre>
      {text.length > MOST_SHOWN && <p className="text-soft">There is more; download it to read on.</p>}
    </ScrollBox>
  )
}
