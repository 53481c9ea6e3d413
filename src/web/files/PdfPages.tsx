import { GlobalWorkerOptions, getDocument, type PDFDocumentProxy } from 'pdfjs-dist'
import worker from 'pdfjs-dist/build/pdf.worker.min.mjs?url'
import { useEffect, useRef, useState } from 'react'

GlobalWorkerOptions.workerSrc = worker

/** Where the build puts what the reader loads by itself. */
const PARTS = '/pdf/'

/** A PDF page by page, drawn in a worker. Nothing in it runs, and links in it do not work. */
export function PdfPages({ address, name }: { address: string; name: string }) {
  const [pdf, setPdf] = useState<PDFDocumentProxy | 'failed' | null>(null)
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
    task.promise.then(setPdf, () => setPdf('failed'))
    return () => void task.destroy().catch(() => {})
  }, [address])
  if (pdf === null) return <p className="p-4 text-soft">Opening {name}…</p>
  if (pdf === 'failed')
    return <p className="p-4 text-sun-ink">It cannot be shown here. Download it to look at it.</p>
  return (
    <div className="flex flex-col gap-3">
      {Array.from({ length: pdf.numPages }, (_, i) => i + 1).map((n) => (
        <PdfPage key={n} pdf={pdf} n={n} name={name} />
      ))}
    </div>
  )
}

/** One page, drawn once it comes near. Its text is there for those who do not see it. */
function PdfPage({ pdf, n, name }: { pdf: PDFDocumentProxy; n: number; name: string }) {
  const box = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
  const [near, setNear] = useState(n === 1)
  const [text, setText] = useState('')
  useEffect(() => {
    if (!box.current) return
    const watch = new IntersectionObserver(
      (entries) => entries.some(({ isIntersecting }) => isIntersecting) && setNear(true),
      { rootMargin: '600px' },
    )
    watch.observe(box.current)
    return () => watch.disconnect()
  }, [])
  useEffect(() => {
    if (!near) return
    let stop = () => {}
    let gone = false
    const draw = async () => {
      const page = await pdf.getPage(n)
      const surface = canvas.current
      if (gone || !surface) return
      const width = surface.parentElement?.clientWidth ?? 600
      const sharpness = Math.min(2, window.devicePixelRatio || 1)
      const scale = (width / page.getViewport({ scale: 1 }).width) * sharpness
      const viewport = page.getViewport({ scale })
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
    }
  }, [pdf, n, near])
  return (
    <div ref={box} className="relative border border-line bg-white">
      <canvas
        ref={canvas}
        role="img"
        aria-label={`${name}, page ${n} of ${pdf.numPages}`}
        className={`block w-full ${near ? '' : 'aspect-[1/1.414]'}`}
      />
      <p className="sr-only">{text}</p>
    </div>
  )
}
