import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import type { ComposeView } from '../../../contract/sheets.ts'
import { Button } from '../../kit/Button.tsx'
import { Card } from '../../kit/Card.tsx'
import { toast } from '../../kit/toast.ts'

/** The sheet's link to hand out, as text, as a QR code, and on a notice to print. */
export function LinkCard({ view }: { view: ComposeView }) {
  const address = `${location.origin}${view.link}`
  const copy = async () => {
    try {
      await navigator.clipboard.writeText(address)
      toast.success('The link is copied.')
    } catch {
      toast.error('The browser did not let us copy. Mark the link and copy it by hand.')
    }
  }
  return (
    <Card title="Link to hand out">
      <div className="flex items-start gap-3">
        <QrCode text={address} className="size-24 shrink-0" />
        <div className="min-w-0">
          <a href={view.link} className="font-semibold break-all text-seat underline underline-offset-2">
            {address.replace(/^https?:\/\//, '')}
          </a>
          <p className="mt-1 text-sm text-faint">It leads students through sign-in straight to this sheet.</p>
          <p className="mt-2 flex gap-3">
            <Button size="small" onClick={() => void copy()}>
              Copy
            </Button>
            <Link
              to={`/sheets/${view.code}/notice`}
              className="self-center font-semibold text-seat hover:underline"
            >
              Notice to print
            </Link>
          </p>
        </div>
      </div>
    </Card>
  )
}

/** A text as a QR code, drawn in the browser. Always dark on light, so that cameras read it. */
export function QrCode({ text, className }: { text: string; className: string }) {
  const [image, setImage] = useState<string | null>(null)
  useEffect(() => {
    let wanted = true
    void import('qrcode').then(async ({ default: qrcode }) => {
      const svg = await qrcode.toString(text, { type: 'svg', margin: 2, errorCorrectionLevel: 'M' })
      if (wanted) setImage(`data:image/svg+xml;utf8,${encodeURIComponent(svg)}`)
    })
    return () => {
      wanted = false
    }
  }, [text])
  return image ? (
    <img src={image} alt={`QR code of ${text}`} className={`${className} rounded bg-[#fff]`} />
  ) : (
    <span className={`${className} block`} />
  )
}
