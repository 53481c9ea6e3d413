import { type KeyboardEvent, type PointerEvent, useState } from 'react'
import { HOUR, type Instant, instantFromMs, MINUTE, msOf } from '../../../core/instant.ts'
import { sayInstant } from '../../../core/zone.ts'

/** Ends are put to full quarters of an hour. */
const STEP = 15 * MINUTE
const KEYS: Record<string, number> = {
  ArrowLeft: -STEP,
  ArrowRight: STEP,
  ArrowDown: -STEP,
  ArrowUp: STEP,
  PageDown: -24 * HOUR,
  PageUp: 24 * HOUR,
}

/** One end of the window on the ruler: dragged with a pointer, or moved by arrow keys (a quarter hour) and Page keys (a day). */
export function RulerHandle({
  label,
  instant,
  zone,
  x,
  instantAt,
  top,
  height,
  onMoved,
}: {
  label: string
  instant: Instant
  zone: string
  /** Where an instant stands on the ruler. */
  x: (instant: Instant) => number
  /** The instant at a place on the screen. */
  instantAt: (clientX: number, target: SVGGraphicsElement) => Instant
  top: number
  height: number
  onMoved: (instant: Instant) => void
}) {
  const [moving, setMoving] = useState<Instant | null>(null)
  const shown = moving ?? instant
  const snapped = (at: Instant) => instantFromMs(Math.round(msOf(at) / STEP) * STEP)
  const drag = (event: PointerEvent<SVGRectElement>) => {
    if (event.currentTarget.hasPointerCapture(event.pointerId))
      setMoving(snapped(instantAt(event.clientX, event.currentTarget)))
  }
  const end = () => {
    if (moving !== null && moving !== instant) onMoved(moving)
    setMoving(null)
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const step = KEYS[event.key]
    if (event.key === 'Escape') setMoving(null)
    if (event.key === 'Enter') end()
    if (step === undefined) return
    event.preventDefault()
    setMoving(instantFromMs(msOf(shown) + step))
  }
  return (
    <>
      {moving !== null && (
        <text
          x={x(shown)}
          y={top - 1}
          textAnchor="middle"
          className="figures fill-moss text-[0.75rem] font-semibold"
        >
          {sayInstant(shown, zone)}
        </text>
      )}
      <rect
        role="slider"
        tabIndex={0}
        aria-label={label}
        aria-valuenow={msOf(shown)}
        aria-valuetext={sayInstant(shown, zone)}
        x={x(shown) - 4}
        y={top}
        width="8"
        height={height}
        rx="2.5"
        className="cursor-ew-resize touch-none fill-moss"
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={drag}
        onPointerUp={end}
        onPointerCancel={() => setMoving(null)}
        onKeyDown={onKeyDown}
        onBlur={end}
      />
    </>
  )
}
