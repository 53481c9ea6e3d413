import { type KeyboardEvent, type PointerEvent as Pressing, useEffect, useRef, useState } from 'react'
import {
  type Area,
  areaBetween,
  movePlace,
  type RemarkPlace,
  type Spot,
  sizePlace,
} from '../../core/remarks.ts'
import type { Making, Placed } from './placed.ts'

/** Parts of a page by which one press of an arrow key moves a place. */
const NUDGE = 0.01

/**
 * The remarks on one page or picture, over it. Where remarks can be made, a press makes a spot and a drag an area; the
 * place being written about is moved and sized by its corner, or by the arrow keys.
 */
export function PlacesOver({
  page,
  what,
  placed,
  making,
  active,
  onActive,
  onMark,
  onMove,
}: {
  page: number
  /** What it is, in words: a page of a file, or a picture. */
  what: string
  placed: readonly Placed[]
  making: Making | null
  active: string | null
  onActive: (code: string) => void
  onMark?: ((place: RemarkPlace) => void) | undefined
  /** Moves or sizes the place that is being written about. */
  onMove?: ((place: RemarkPlace) => void) | undefined
}) {
  const box = useRef<HTMLDivElement>(null)
  const [drawing, setDrawing] = useState<Area | Spot | null>(null)
  const mark = useRef(onMark)
  useEffect(() => {
    mark.current = onMark
  })
  const makes = onMark !== undefined
  // The page itself is pressed and dragged over; what lies over it lets that through, but for its own places.
  useEffect(() => {
    const under = box.current?.parentElement
    if (!under || !makes) return
    let from: { x: number; y: number } | null = null
    const at = ({ clientX, clientY }: PointerEvent) => {
      const around = under.getBoundingClientRect()
      return {
        x: (clientX - around.left) / Math.max(1, around.width),
        y: (clientY - around.top) / Math.max(1, around.height),
      }
    }
    // A finger that is drawn over it scrolls; its press is a spot.
    const byFinger = (event: PointerEvent) => event.pointerType === 'touch'
    const begin = (event: PointerEvent) => {
      if (event.button !== 0 || (event.target as Element).closest('button')) return
      from = at(event)
      if (!byFinger(event)) under.setPointerCapture(event.pointerId)
    }
    const draw = (event: PointerEvent) => {
      if (from && !byFinger(event)) setDrawing(areaBetween(page, from, at(event)))
    }
    const end = (event: PointerEvent) => {
      if (from) mark.current?.(areaBetween(page, from, byFinger(event) ? from : at(event)))
      stop()
    }
    const stop = () => {
      from = null
      setDrawing(null)
    }
    const heard = { pointerdown: begin, pointermove: draw, pointerup: end, pointercancel: stop }
    for (const [name, hear] of Object.entries(heard)) under.addEventListener(name, hear as EventListener)
    under.classList.add('cursor-crosshair')
    return () => {
      for (const [name, hear] of Object.entries(heard)) under.removeEventListener(name, hear as EventListener)
      under.classList.remove('cursor-crosshair')
    }
  }, [makes, page])
  const own = making && making.place.kind !== 'passage' && making.place.page === page ? making.place : null
  const shown = drawing ?? own
  return (
    <div ref={box} className="pointer-events-none absolute inset-0 *:pointer-events-auto">
      {placed.map(({ remark, n, place }) =>
        place.kind === 'passage' || place.page !== page ? null : (
          <button
            key={remark.code}
            type="button"
            data-remark={remark.code}
            aria-label={`Remark ${n}`}
            onClick={() => onActive(remark.code)}
            className={`absolute ${boxLook(place, remark.code === active)}`}
            style={styleOf(place)}
          >
            <Disc n={n} on={remark.code === active} place={place} />
          </button>
        ),
      )}
      {shown && (
        <Made
          key="made"
          place={shown}
          what={what}
          still={drawing !== null}
          pageBox={() => box.current?.getBoundingClientRect() ?? null}
          onPlace={onMove}
        />
      )}
      {onMark && !own && (
        <button
          type="button"
          className="sr-only focus-visible:not-sr-only focus-visible:absolute focus-visible:top-2 focus-visible:left-2 focus-visible:rounded-field focus-visible:bg-seat focus-visible:px-3 focus-visible:py-1.5 focus-visible:text-on-seat"
          onClick={() => onMark({ kind: 'area', page, x: 0.3, y: 0.4, width: 0.4, height: 0.1 })}
        >
          Remark on {what}
        </button>
      )}
    </div>
  )
}

const styleOf = (place: Area | Spot) => ({
  left: `${100 * place.x}%`,
  top: `${100 * place.y}%`,
  ...(place.kind === 'area' && { width: `${100 * place.width}%`, height: `${100 * place.height}%` }),
})

const boxLook = (place: Area | Spot, on: boolean) =>
  place.kind === 'area'
    ? `rounded-[3px] border-2 ${on ? 'border-ember bg-ember/15' : 'border-sun bg-sun/15'}`
    : 'size-6 -translate-x-1/2 -translate-y-1/2 after:absolute after:-inset-2'

/** The number of a remark: on its spot, or beside the upper left corner of its area, so that it covers nothing there. */
function Disc({ n, on, place }: { n: number | null; on: boolean; place: Area | Spot }) {
  const beside = place.kind === 'spot' || place.x < 0.05 ? '' : '-translate-x-full'
  return (
    <span
      className={`figures drawn absolute top-0 left-0 flex h-6 min-w-6 items-center ${beside} justify-center rounded-pip px-1 text-sm font-bold ${on ? 'bg-ember text-on-ember' : 'bg-seat text-on-seat'}`}
    >
      {n ?? '+'}
    </span>
  )
}

/** The place that is being written about: moved by dragging and arrow keys, sized by its corner and with Shift. */
function Made({
  place,
  what,
  still,
  pageBox,
  onPlace,
}: {
  place: Area | Spot
  what: string
  /** While it is being drawn it is not moved. */
  still: boolean
  pageBox: () => DOMRect | null
  onPlace: ((place: RemarkPlace) => void) | undefined
}) {
  const grip = useRef<{ x: number; y: number; place: Area | Spot; sizes: boolean } | null>(null)
  const onKeyDown = (event: KeyboardEvent) => {
    const by = {
      ArrowLeft: { x: -NUDGE, y: 0 },
      ArrowRight: { x: NUDGE, y: 0 },
      ArrowUp: { x: 0, y: -NUDGE },
      ArrowDown: { x: 0, y: NUDGE },
    }[event.key]
    if (!by || !onPlace) return
    event.preventDefault()
    event.stopPropagation()
    onPlace(event.shiftKey ? sizePlace(place, by) : movePlace(place, by))
  }
  const take = (sizes: boolean) => (event: Pressing<HTMLElement>) => {
    if (!onPlace || still) return
    event.stopPropagation()
    event.currentTarget.setPointerCapture(event.pointerId)
    grip.current = { x: event.clientX, y: event.clientY, place, sizes }
  }
  const drag = (event: Pressing<HTMLElement>) => {
    const around = pageBox()
    if (!grip.current || !around) return
    event.stopPropagation()
    const by = {
      x: (event.clientX - grip.current.x) / around.width,
      y: (event.clientY - grip.current.y) / around.height,
    }
    onPlace?.(grip.current.sizes ? sizePlace(grip.current.place, by) : movePlace(grip.current.place, by))
  }
  const letGo = (event: Pressing<HTMLElement>) => {
    event.stopPropagation()
    grip.current = null
  }
  const holds = { onPointerMove: drag, onPointerUp: letGo, onPointerCancel: letGo }
  return (
    <button
      type="button"
      aria-label={`The place on ${what}: arrow keys move it, with Shift they size it`}
      onKeyDown={onKeyDown}
      onPointerDown={take(false)}
      {...holds}
      className={`absolute cursor-move touch-none ${boxLook(place, true)} ${still ? 'pointer-events-none' : ''}`}
      style={styleOf(place)}
    >
      <Disc n={null} on place={place} />
      {!still && (
        <span
          aria-hidden="true"
          onPointerDown={take(true)}
          {...holds}
          className="drawn absolute -right-2 -bottom-2 size-4 cursor-nwse-resize touch-none rounded-pip border-2 border-surface bg-ember pointer-coarse:-right-4 pointer-coarse:-bottom-4 pointer-coarse:size-8"
        />
      )}
    </button>
  )
}
