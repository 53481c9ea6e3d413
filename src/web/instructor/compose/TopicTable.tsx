import {
  type Announcements,
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { restrictToParentElement, restrictToVerticalAxis } from '@dnd-kit/modifiers'
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable'
import { type ClipboardEvent, useCallback, useMemo, useRef, useState } from 'react'
import type { Restored } from '../../../contract/restored.ts'
import type { ComposeView } from '../../../contract/sheets.ts'
import { orderTopics, removeTopic, restoreTopic, type TopicChanges } from '../../../contract/topics.ts'
import type { TopicView } from '../../../contract/topicViews.ts'
import { placeClashes } from '../../../core/clashes.ts'
import { takesPeople } from '../../../core/groupState.ts'
import { call } from '../../data/call.ts'
import { Button, Key } from '../../kit/Button.tsx'
import { toast } from '../../kit/toast.ts'
import { sentLimit, typedLimit, typedNumber } from '../record/limits.ts'
import { restoredWords } from '../restored.ts'
import { sayLocal } from './cells.tsx'
import { ManyTopics } from './ManyTopics.tsx'
import { NewTopic } from './NewTopic.tsx'
import type { RowContext } from './rowContext.ts'
import { COLUMNS, TopicRow } from './TopicRow.tsx'
import type { Composing } from './useComposing.ts'
import { useTableKeys } from './useTableKeys.ts'

/** The topics of a sheet as a table that is edited in place. */
export function TopicTable({ view, composing }: { view: ComposeView; composing: Composing }) {
  const table = useRef<HTMLDivElement>(null)
  const [order, setOrder] = useState<string[] | null>(null)
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set())
  /** Text that waits in the panel for many topics; null while the panel is shut. */
  const [many, setMany] = useState<string | null>(null)
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const topics = order
    ? order.flatMap((code) => view.topics.find((topic) => topic.code === code) ?? [])
    : view.topics
  const codes = topics.map(({ code }) => code)
  const sheet = view.code

  const arrange = async (next: string[]) => {
    const before = codes
    setOrder(next)
    await composing.do({
      work: () => call(orderTopics, { sheet }, { topics: next }),
      undo: () => call(orderTopics, { sheet }, { topics: before }),
    })
    setOrder(null)
  }
  const dropped = ({ active, over }: DragEndEvent) => {
    const from = codes.indexOf(String(active.id))
    const to = over ? codes.indexOf(String(over.id)) : -1
    if (from >= 0 && to >= 0 && from !== to) void arrange(arrayMove(codes, from, to))
  }
  const titleOf = (code: string | number) => view.topics.find((topic) => topic.code === code)?.title ?? ''
  const placeOf = (code: string | number) => codes.indexOf(String(code)) + 1
  /** What a screen reader says of a drag. */
  const announced: Announcements = {
    onDragStart: ({ active }) =>
      `${titleOf(active.id)} is picked up, topic ${placeOf(active.id)} of ${codes.length}.`,
    onDragOver: ({ active, over }) =>
      over ? `${titleOf(active.id)} is at place ${placeOf(over.id)} of ${codes.length}.` : undefined,
    onDragEnd: ({ active, over }) =>
      over
        ? `${titleOf(active.id)} was put at place ${placeOf(over.id)}.`
        : `${titleOf(active.id)} is where it was.`,
    onDragCancel: ({ active }) => `${titleOf(active.id)} is where it was.`,
  }
  const context = useRowContext(view, composing, setOpened)
  const { onKeyDown, goTo } = useTableKeys(table, {
    rows: topics.length,
    move: (from, to) => void arrange(arrayMove(codes, from, to)),
    undo: composing.undo,
    redo: composing.redo,
  })

  /** Several rows pasted from a spreadsheet: one column into a cell fills down, everything else is looked at first. */
  const onPaste = (event: ClipboardEvent<HTMLDivElement>) => {
    const text = event.clipboardData.getData('text/plain').replace(/\r?\n$/, '')
    const [row = '', column = ''] = ((event.target as HTMLElement).dataset.cell ?? '').split(':')
    const lines = text.split(/\r?\n/)
    if (!view.mayEdit || row === '' || (lines.length < 2 && !text.includes('\t')) || column === 'brief')
      return
    event.preventDefault()
    if (row === 'new' || text.includes('\t')) {
      setMany(text)
      return
    }
    const fields = PATCHES[column]
    if (!fields) return
    lines.slice(0, topics.length - Number(row)).forEach((line, i) => {
      const topic = topics[Number(row) + i]
      if (topic) void context.fill(topic, fields(line.trim()))
    })
  }

  const groups = view.topics.reduce((sum, topic) => sum + topic.groups.filter(takesPeople).length, 0)
  return (
    <section aria-label="Topics" className="min-w-0 border-r border-line bg-surface max-lg:border-r-0">
      <div className="flex flex-wrap items-center justify-between gap-3 px-4 py-3">
        <h2 className="text-lg">
          {view.topics.length === 1 ? '1 topic' : `${view.topics.length} topics`}{' '}
          <span className="figures ml-1 font-sans text-[0.9375rem] font-normal text-soft">
            {view.sections.length > 0 &&
              view.topics.some((topic) => topic.groups.some(({ section }) => section !== null)) &&
              `× ${view.sections.length} sections `}
            = {groups} {groups === 1 ? 'group' : 'groups'}
          </span>
        </h2>
        {view.mayEdit && (
          <span className="flex gap-2">
            <Button
              size="small"
              aria-expanded={many !== null}
              onClick={() => setMany(many === null ? '' : null)}
            >
              Many topics at once
            </Button>
            <Button size="small" onClick={() => goTo(topics.length, 'title')}>
              Add a topic <Key>T</Key>
            </Button>
          </span>
        )}
      </div>
      {many !== null && (
        <ManyTopics
          key={many}
          view={view}
          composing={composing}
          pasted={many}
          onClose={() => setMany(null)}
        />
      )}
      {/* biome-ignore lint/a11y/noStaticElementInteractions: arrow keys move between the fields inside */}
      <div ref={table} onKeyDown={onKeyDown} onPaste={onPaste}>
        <div
          aria-hidden="true"
          className={`${COLUMNS} border-b border-line pb-1.5 text-sm font-semibold text-soft max-sm:hidden`}
        >
          <span />
          <span>Topic and brief</span>
          <span className="text-center">Seats</span>
          <span className="text-center">Floor</span>
          <span className="pl-2">Where</span>
        </div>
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          modifiers={[restrictToVerticalAxis, restrictToParentElement]}
          accessibility={{ announcements: announced }}
          onDragEnd={dropped}
        >
          <SortableContext items={codes} strategy={verticalListSortingStrategy}>
            <ul>
              {topics.map((topic, row) => (
                <TopicRow
                  key={topic.code}
                  topic={topic}
                  row={row}
                  open={opened.has(topic.code)}
                  context={context}
                />
              ))}
            </ul>
          </SortableContext>
        </DndContext>
        {view.mayEdit && <NewTopic sheet={sheet} composing={composing} first={topics.length === 0} />}
        {!view.mayEdit && topics.length === 0 && <p className="p-8 text-center text-soft">No topics yet.</p>}
      </div>
    </section>
  )
}

/** What a column's text changes in a topic. */
const PATCHES: Record<string, (text: string) => TopicChanges> = {
  title: (title) => ({ title }),
  seats: (text) => ({ seats: typedLimit(text) }),
  floor: (text) => ({ floor: typedNumber(text) }),
  place: (place) => ({ place }),
}

function useRowContext(
  view: ComposeView,
  composing: Composing,
  setOpened: (change: (opened: ReadonlySet<string>) => ReadonlySet<string>) => void,
): RowContext {
  const { code: sheet, seats, floor, mayEdit, sections, course, topics } = view
  const sectionKey = JSON.stringify(sections)
  const clashKey = useMemo(() => clashesIn(topics).sort().join(' '), [topics])
  const fill = useCallback(
    async (topic: TopicView, patch: TopicChanges) => {
      const before = Object.fromEntries(
        Object.keys(patch).map((key) => [key, sentBack(topic, key, course.zone)]),
      )
      const done = await composing.topic(topic.code, patch, before)
      if (done.fault && !done.declined) toast.error(`${topic.title}: ${done.fault.message}`)
    },
    [composing, course.zone],
  )
  const remove = useCallback(
    async ({ code, title }: TopicView) => {
      let restored: Restored = { seated: 0, out: [] }
      await composing.do({
        work: (confirmed) => call(removeTopic, { sheet, topic: code }, { confirmed }),
        undo: async () => {
          const view = await call(restoreTopic, { sheet, topic: code })
          restored = view.restored
          return view
        },
        ask: { title: `Remove ${title}?`, yes: 'Remove topic' },
        said: `${title} was removed.`,
        saidUndone: () => restoredWords(title, restored),
      })
    },
    [sheet, composing],
  )
  const toggle = useCallback(
    (code: string) =>
      setOpened((opened) =>
        opened.has(code) ? new Set([...opened].filter((one) => one !== code)) : new Set([...opened, code]),
      ),
    [setOpened],
  )
  return useMemo(
    () => ({
      code: sheet,
      zone: course.zone,
      seats,
      floor,
      mayEdit,
      sections: JSON.parse(sectionKey) as ComposeView['sections'],
      clashes: new Set(clashKey === '' ? [] : clashKey.split(' ')),
      composing,
      fill,
      remove: (topic) => void remove(topic),
      toggle,
    }),
    [sheet, course.zone, seats, floor, mayEdit, sectionKey, clashKey, composing, fill, remove, toggle],
  )
}

/** What a field of a topic was, as it is sent to bring it back. */
function sentBack(topic: TopicView, key: string, zone: string): unknown {
  switch (key) {
    case 'seats':
      return sentLimit(topic.seats)
    case 'startsAt':
    case 'endsAt':
      return sayLocal(topic[key], zone) || null
    default:
      return topic[key as 'title' | 'brief' | 'place' | 'link' | 'floor']
  }
}

/** Codes of groups whose place somebody else has at the same time. */
function clashesIn(topics: readonly TopicView[]): string[] {
  const placed = topics.flatMap((topic) =>
    topic.groups.filter(takesPeople).map(({ code, own }) => ({
      key: code,
      place: own.place ?? topic.place,
      startsAt: own.startsAt ?? topic.startsAt,
      endsAt: own.startsAt === null ? topic.endsAt : own.endsAt,
    })),
  )
  return [...new Set(placeClashes(placed).flat())]
}
