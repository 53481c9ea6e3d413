import {
  DndContext,
  type DragStartEvent,
  MouseSensor,
  TouchSensor,
  useDraggable,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import {
  type MouseEvent as ReactMouse,
  type ReactNode,
  type TouchEvent as ReactTouch,
  useEffect,
  useRef,
  useState,
} from 'react'
import { Pip } from '../../kit/Pip.tsx'
import { dragOver, PICK, placeAt } from './drops.ts'
import { isPicked, type Pick, pickOf } from './picks.ts'

/** Pixels from the edge of what scrolls at which it does, and by how much at a time. */
const EDGE = 36
const STEP = 9

/** Whether something that is pressed is somebody who can be dragged. */
const grips = (event: Event) => (event.target as Element | null)?.closest?.(`[${PICK}]`) != null

class PersonMouse extends MouseSensor {
  static override activators = [
    {
      eventName: 'onMouseDown' as const,
      handler: ({ nativeEvent }: ReactMouse) => nativeEvent.button === 0 && grips(nativeEvent),
    },
  ]
}

class PersonTouch extends TouchSensor {
  static override activators = [
    {
      eventName: 'onTouchStart' as const,
      handler: ({ nativeEvent }: ReactTouch) => nativeEvent.touches.length === 1 && grips(nativeEvent),
    },
  ]
}

/**
 * Lets people be dragged from wherever they stand on the page to a group or the tray. The page is one thing that is
 * dragged from: whom, and where to, is read under the pointer, so that a drag draws only the places it passes over.
 */
export function Dragging({
  picks,
  nameOf,
  placeName,
  onDrop,
  className,
  children,
}: {
  picks: readonly Pick[]
  nameOf: (person: string) => string
  /** A group or the tray, in words. */
  placeName: (place: string) => string
  onDrop: (people: readonly Pick[], place: string) => void
  className: string
  children: ReactNode
}) {
  const [dragged, setDragged] = useState<readonly Pick[]>([])
  const [said, setSaid] = useState('')
  const at = useRef<Point | null>(null)
  const card = useRef<HTMLSpanElement>(null)
  const sensors = useSensors(
    useSensor(PersonMouse, { activationConstraint: { distance: 6 } }),
    useSensor(PersonTouch, { activationConstraint: { delay: 220, tolerance: 8 } }),
  )
  const who = dragged.length === 1 ? nameOf(dragged[0]?.person ?? '') : `${dragged.length} people`
  const start = ({ activatorEvent }: DragStartEvent) => {
    const grip = (activatorEvent.target as Element).closest(`[${PICK}]`)
    const pick = pickOf(grip?.getAttribute(PICK) ?? '')
    if (!pick) return
    const people = isPicked(picks, pick) ? picks : [pick]
    at.current = pointOf(activatorEvent)
    setDragged(people)
    setSaid(`Dragging ${people.length === 1 ? nameOf(pick.person) : `${people.length} people`}.`)
  }
  const end = (dropped: boolean) => {
    const place = at.current && dropped ? placeAt(at.current).place : null
    at.current = null
    dragOver(null)
    setDragged([])
    if (dragged.length === 0) return
    setSaid(place ? `${who} dropped at ${placeName(place)}.` : `${who} dropped nowhere; nothing is changed.`)
    if (place) onDrop(dragged, place)
  }
  const over = useRef<string | null>(null)
  useFollowing(at, dragged.length > 0, (point) => {
    if (card.current) card.current.style.transform = `translate(${point.x + 12}px, ${point.y + 10}px)`
    const { place } = placeAt(point)
    dragOver(place)
    if (place !== over.current && place !== null) setSaid(`Over ${placeName(place)}.`)
    over.current = place
  })
  return (
    <DndContext
      sensors={sensors}
      autoScroll={false}
      accessibility={{ announcements: SILENT, screenReaderInstructions: { draggable: '' } }}
      onDragStart={start}
      onDragCancel={() => end(false)}
      onDragEnd={() => end(true)}
    >
      <Ground className={className}>{children}</Ground>
      {dragged.length > 0 && (
        <span
          ref={card}
          className="pointer-events-none fixed top-0 left-0 z-50 inline-flex w-max items-center gap-2 rounded-field border border-seat bg-seat-soft px-2.5 py-px font-semibold shadow-lg"
        >
          <Pip kind="needs" size="tiny" />
          {who}
        </span>
      )}
      <span role="status" className="sr-only">
        {said}
      </span>
    </DndContext>
  )
}

/** The page says by itself, with names, what a drag does. */
const SILENT = {
  onDragStart: () => undefined,
  onDragOver: () => undefined,
  onDragEnd: () => undefined,
  onDragCancel: () => undefined,
}

function Ground({ className, children }: { className: string; children: ReactNode }) {
  const { setNodeRef, listeners } = useDraggable({ id: 'people' })
  return (
    <div ref={setNodeRef} {...listeners} className={className}>
      {children}
    </div>
  )
}

interface Point {
  x: number
  y: number
}

function pointOf(event: Event): Point | null {
  if (event instanceof MouseEvent) return { x: event.clientX, y: event.clientY }
  const touch = 'touches' in event ? (event as TouchEvent).touches[0] : undefined
  return touch ? { x: touch.clientX, y: touch.clientY } : null
}

/** Follows the pointer while people are dragged, and scrolls what lies under it where it is held near an edge. */
function useFollowing(at: { current: Point | null }, dragging: boolean, moved: (point: Point) => void): void {
  const newest = useRef(moved)
  useEffect(() => {
    newest.current = moved
  })
  useEffect(() => {
    if (!dragging) return
    if (at.current) newest.current(at.current)
    const onMove = (event: Event) => {
      const point = pointOf(event)
      if (!point || !at.current) return
      at.current = point
      newest.current(point)
    }
    let frame = 0
    const scroll = () => {
      frame = requestAnimationFrame(scroll)
      if (!at.current) return
      const { x, y } = at.current
      const { scrolls } = placeAt(at.current)
      if (!scrolls) return scrollBy(0, near(y, 0, innerHeight))
      const { top, bottom, left, right } = scrolls.getBoundingClientRect()
      scrolls.scrollBy(near(x, left, right), near(y, top, bottom))
    }
    frame = requestAnimationFrame(scroll)
    addEventListener('mousemove', onMove, { passive: true })
    addEventListener('touchmove', onMove, { passive: true })
    return () => {
      cancelAnimationFrame(frame)
      removeEventListener('mousemove', onMove)
      removeEventListener('touchmove', onMove)
    }
  }, [at, dragging])
}

/** How far to scroll at a point between two edges. */
const near = (at: number, from: number, to: number) => (at - from < EDGE ? -STEP : to - at < EDGE ? STEP : 0)
