import { GlobalWorkerOptions, getDocument, type PDFDocumentProxy } from 'pdfjs-dist'
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url'
import { type ReactNode, type RefObject, useEffect, useRef, useState } from 'react'
import type { Parts } from './parts.ts'

GlobalWorkerOptions.workerSrc = worker

/** Where the build puts what the reader loads by itself. */
const PARTS = '/pdf/'

/** Pages that are read here at most, and as many as are laid out at a time, the next when their end comes near. */
const MOST_PAGES = 500
const STEP = 20
/** Pixels of one drawn page at most, whatever size it says it has. */
const MOST_PIXELS = 16_000_000
/** Milliseconds after which a file that does not open is given up. */
const PATIENCE = 30_000

/** A PDF page by page, drawn in a worker. Nothing in it runs, and links in it do not work. */
export function PdfPages({
  address,
  name,
  parts,
}: {
  address: string
  name: string
  parts?: Parts | undefined
}) {
  const [pdf, setPdf] = useState<PDFDocumentProxy | 'failed' | null>(null)
  const [laidOut, setLaidOut] = useState(STEP)
  const end = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const task = getDocument({
      url: address,
      disableRange: true,
      isEvalSupported: false,
      enableXfa: false,
      standardFontDataUrl: `${PARTS}standard_fonts/`,
      cMapUrl: `${PARTS}cmaps/`,
      cMapPacked: true,
      wasmUrl: `${PARTS}wasm/`,
    })
    const giveUp = setTimeout(() => setPdf((known) => known ?? 'failed'), PATIENCE)
    task.promise.then(
      (opened) => setPdf((known) => known ?? opened),
      () => setPdf('failed'),
    )
    return () => {
      clearTimeout(giveUp)
      void task.destroy().catch(() => {})
    }
  }, [address])
  const pages = pdf === null || pdf === 'failed' ? 0 : Math.min(pdf.numPages, MOST_PAGES)
  const shown = Math.min(Math.max(laidOut, parts?.reach ?? 0), pages)
  useNear(end, shown < pages, () => setLaidOut(shown + STEP), shown)
  if (pdf === null) return <p className="p-4 text-soft">Opening {name}…</p>
  if (pdf === 'failed')
    return <p className="p-4 text-sun-ink">It cannot be shown here. Download it to look at it.</p>
  return (
    <div className="flex flex-col gap-3">
      {pdf.numPages > MOST_PAGES && (
        <p className="p-4 text-sun-ink">
          It has {pdf.numPages.toLocaleString('en')} pages; the first {MOST_PAGES} can be read here. Download
          it for the rest.
        </p>
      )}
      {Array.from({ length: shown }, (_, i) => i + 1).map((n) => (
        <div key={n} id={parts?.idOf(n)}>
          <PdfPage pdf={pdf} n={n} name={name} over={parts?.over(n)} />
          {parts?.after?.(n)}
        </div>
      ))}
      {/* It reaches up over the last pages: inside of something that scrolls, only what is in sight counts as near. */}
      <div ref={end} aria-hidden="true" className="pointer-events-none -mt-[1200px] h-[1200px]" />
    </div>
  )
}

/** Calls back once something comes near the window, and again after each change of `again`. */
function useNear(
  box: RefObject<HTMLElement | null>,
  watching: boolean,
  came: () => void,
  again: unknown = null,
): void {
  const call = useRef(came)
  useEffect(() => {
    call.current = came
  })
  // biome-ignore lint/correctness/useExhaustiveDependencies: `again` says when to look anew
  useEffect(() => {
    if (!watching || !box.current) return
    const watch = new IntersectionObserver(
      (entries) => entries.some(({ isIntersecting }) => isIntersecting) && call.current(),
      { rootMargin: '1200px' },
    )
    watch.observe(box.current)
    return () => watch.disconnect()
  }, [box, watching, again])
}

/**
 * One page, drawn once it comes near, and given up again when it is far, so that a long file needs no more memory than
 * what is looked at. Its text is there for those who do not see it.
 */
function PdfPage({
  pdf,
  n,
  name,
  over,
}: {
  pdf: PDFDocumentProxy
  n: number
  name: string
  over: ReactNode
}) {
  const box = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const [near, setNear] = useState(n === 1)
  const [ratio, setRatio] = useState(1 / Math.SQRT2)
  const [text, setText] = useState('')
  useEffect(() => {
    if (!box.current) return
    const watch = new IntersectionObserver(
      (entries) => setNear(entries.some(({ isIntersecting }) => isIntersecting)),
      { rootMargin: '1200px' },
    )
    watch.observe(box.current)
    return () => watch.disconnect()
  }, [])
  useEffect(() => {
    const surface = canvas.current
    if (!near || !surface) return
    let stop = () => {}
    let gone = false
    const draw = async () => {
      const page = await pdf.getPage(n)
      if (gone) return
      const whole = page.getViewport({ scale: 1 })
      setRatio(whole.width / whole.height)
      const width = surface.parentElement?.clientWidth ?? 600
      const sharpness = Math.min(2, window.devicePixelRatio || 1)
      const bound = Math.sqrt(MOST_PIXELS / (whole.width * whole.height))
      const viewport = page.getViewport({ scale: Math.min(bound, (width / whole.width) * sharpness) })
      surface.width = Math.floor(viewport.width)
      surface.height = Math.floor(viewport.height)
      const drawing = page.render({ canvas: surface, viewport })
      stop = () => drawing.cancel()
      await drawing.promise
      const content = await page.getTextContent()
      if (!gone) setText(content.items.map((item) => ('str' in item ? item.str : '')).join(' '))
    }
    draw().catch(() => {})
    return () => {
      gone = true
      stop()
      surface.width = 0
      surface.height = 0
    }
  }, [pdf, n, near])
  return (
    <div ref={box} className="relative border border-line bg-white" style={{ aspectRatio: ratio }}>
      <canvas
        ref={canvas}
        role="img"
        aria-label={`${name}, page ${n} of ${pdf.numPages}`}
        className="block h-full w-full"
      />
      <p className="sr-only">{text}</p>
      {over}
    </div>
  )
}
