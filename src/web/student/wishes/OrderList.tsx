import {
  type Announcements,
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { restrictToParentElement, restrictToVerticalAxis } from '@dnd-kit/modifiers'
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { EllipsisVertical, GripVertical } from 'lucide-react'
import { DropdownMenu } from 'radix-ui'
import type { KeyboardEvent } from 'react'
import type { WishTopic } from '../../../contract/wishes.ts'
import { inRow, joined, parted, placed, type Ranks, rankIn } from './order.ts'
import { topicWords } from './words.ts'

const ITEM =
  'flex min-h-11 items-center rounded-field px-3 outline-none select-none data-[highlighted]:bg-seat-soft data-[disabled]:text-faint'

/** Ranked topics, the most wanted first: dragged by the grip, moved by keys, or by what each one’s menu offers. */
export function OrderList({
  ranks,
  topics,
  zone,
  fixed,
  onRanks,
  onOut,
}: {
  ranks: Ranks
  topics: ReadonlyMap<string, WishTopic>
  zone: string
  /** Whether nothing can be changed. */
  fixed: boolean
  onRanks: (ranks: string[][], said: string) => void
  onOut: (topic: string) => void
}) {
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 4 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 120, tolerance: 8 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const row = inRow(ranks)
  const titleOf = (code: string | number) => topics.get(String(code))?.title ?? 'A topic'
  const placeOf = (code: string | number) => row.indexOf(String(code))
  const said = (next: Ranks, topic: string) =>
    `${titleOf(topic)} is number ${rankIn(next, topic)} in your order.`
  const move = (topic: string, place: number) => {
    const next = placed(ranks, topic, place)
    onRanks(next, said(next, topic))
  }
  const dropped = ({ active, over }: DragEndEvent) => {
    const from = placeOf(active.id)
    const to = over ? placeOf(over.id) : -1
    if (from >= 0 && to >= 0 && from !== to) move(String(active.id), to)
  }
  const announced: Announcements = {
    onDragStart: ({ active }) =>
      `${titleOf(active.id)} is picked up, ${placeOf(active.id) + 1} of ${row.length}.`,
    onDragOver: ({ active, over }) =>
      over ? `${titleOf(active.id)} is at place ${placeOf(over.id) + 1} of ${row.length}.` : undefined,
    onDragEnd: ({ active, over }) =>
      over
        ? `${titleOf(active.id)} was put at place ${placeOf(over.id) + 1}.`
        : `${titleOf(active.id)} is where it was.`,
    onDragCancel: ({ active }) => `${titleOf(active.id)} is where it was.`,
  }
  const item = (code: string) => (
    <OrderItem
      key={code}
      code={code}
      rank={rankIn(ranks, code)}
      topic={topics.get(code)}
      zone={zone}
      fixed={fixed}
      equal={(ranks[rankIn(ranks, code) - 1]?.length ?? 0) > 1}
      first={placeOf(code) === 0}
      last={placeOf(code) === row.length - 1}
      onMove={(by) => move(code, by === 'first' ? 0 : placeOf(code) + by)}
      onJoin={() => {
        const next = joined(ranks, code)
        onRanks(next, `${titleOf(code)} is as good as the one above.`)
      }}
      onPart={() => {
        const next = parted(ranks, code)
        onRanks(next, said(next, code))
      }}
      onOut={() => onOut(code)}
    />
  )
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      modifiers={[restrictToVerticalAxis, restrictToParentElement]}
      accessibility={{
        announcements: announced,
        screenReaderInstructions: {
          draggable:
            'Press space to pick it up, arrow keys to move it, space again to put it down, escape to leave it.',
        },
      }}
      onDragEnd={dropped}
    >
      <SortableContext items={row} strategy={verticalListSortingStrategy}>
        <ol className="flex flex-col gap-2">
          {ranks.map((own) =>
            own.length === 1 ? (
              own.map(item)
            ) : (
              <li
                key={own.join(' ')}
                className="relative rounded-card border border-dashed border-open px-1.5 pt-3 pb-1.5"
              >
                <span className="absolute -top-2.5 right-3 bg-canvas px-1.5 text-xs font-semibold text-soft">
                  {own.length === 2 ? 'either is fine' : 'any of these is fine'}
                </span>
                <ul className="flex flex-col gap-2">{own.map(item)}</ul>
              </li>
            ),
          )}
        </ol>
      </SortableContext>
    </DndContext>
  )
}

function OrderItem({
  code,
  rank,
  topic,
  zone,
  fixed,
  equal,
  first,
  last,
  onMove,
  onJoin,
  onPart,
  onOut,
}: {
  code: string
  rank: number
  topic: WishTopic | undefined
  zone: string
  fixed: boolean
  /** Whether others are wanted as much. */
  equal: boolean
  first: boolean
  last: boolean
  onMove: (by: -1 | 1 | 'first') => void
  onJoin: () => void
  onPart: () => void
  onOut: () => void
}) {
  const sortable = useSortable({ id: code, disabled: fixed })
  const title = topic?.title ?? 'A topic'
  const { transform, transition, isDragging } = sortable
  /** While it is not picked up, arrow keys with Alt move it at once. */
  const keys = (event: KeyboardEvent) => {
    const by = { ArrowUp: -1, ArrowDown: 1 }[event.key] as -1 | 1 | undefined
    if (!event.altKey || by === undefined || (by < 0 ? first : last)) return
    event.preventDefault()
    onMove(by)
  }
  return (
    <li
      ref={sortable.setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`flex min-h-14 items-center gap-2.5 rounded-card border border-line-strong bg-surface py-1.5 pr-1 pl-2 ${isDragging ? 'relative z-10 shadow-lg' : ''}`}
      aria-label={`${rank}: ${title}`}
    >
      <span
        aria-hidden="true"
        className={`figures grid size-9 shrink-0 place-items-center rounded-field font-semibold text-on-seat ${TILES[Math.min(rank, TILES.length) - 1]}`}
      >
        {rank}
      </span>
      <span className="min-w-0 flex-1">
        <span className="block font-semibold leading-tight wrap-anywhere">{title}</span>
        {topic && <span className="figures block text-sm text-faint">{topicWords(topic, zone)}</span>}
      </span>
      {!fixed && (
        <>
          <DropdownMenu.Root>
            <DropdownMenu.Trigger asChild>
              <button
                type="button"
                aria-label={`Change where ${title} stands`}
                title={`Change where ${title} stands`}
                className="grid size-11 shrink-0 place-items-center rounded-field text-faint hover:bg-seat-soft hover:text-seat"
              >
                <EllipsisVertical size={18} aria-hidden="true" />
              </button>
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content
                align="end"
                sideOffset={4}
                className="z-50 min-w-56 rounded-card border border-line bg-surface p-1.5 shadow-lg"
              >
                <DropdownMenu.Item className={ITEM} disabled={first} onSelect={() => onMove('first')}>
                  Want it most
                </DropdownMenu.Item>
                <DropdownMenu.Item className={ITEM} disabled={first} onSelect={() => onMove(-1)}>
                  Move up
                </DropdownMenu.Item>
                <DropdownMenu.Item className={ITEM} disabled={last} onSelect={() => onMove(1)}>
                  Move down
                </DropdownMenu.Item>
                <DropdownMenu.Item className={ITEM} disabled={rank === 1} onSelect={onJoin}>
                  As good as the one above
                </DropdownMenu.Item>
                {equal && (
                  <DropdownMenu.Item className={ITEM} onSelect={onPart}>
                    Give it a number of its own
                  </DropdownMenu.Item>
                )}
                <DropdownMenu.Separator className="my-1 border-t tear" />
                <DropdownMenu.Item className={ITEM} onSelect={onOut}>
                  Take it out of the order
                </DropdownMenu.Item>
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
          <button
            type="button"
            {...sortable.attributes}
            {...sortable.listeners}
            ref={sortable.setActivatorNodeRef}
            onKeyDown={(event) => {
              keys(event)
              if (!event.defaultPrevented) sortable.listeners?.onKeyDown?.(event)
            }}
            aria-label={`Move ${title}`}
            title="Drag it, or press Alt with the arrow keys"
            className="grid size-11 shrink-0 cursor-grab touch-none place-items-center rounded-field text-open hover:bg-seat-soft"
          >
            <GripVertical size={20} aria-hidden="true" />
          </button>
        </>
      )}
    </li>
  )
}

/** The further down, the paler. */
const TILES = ['bg-seat', 'bg-seat/90', 'bg-seat/80', 'bg-seat/75']
