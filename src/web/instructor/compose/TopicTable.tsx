import {
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
import { type KeyboardEvent, useRef, useState } from 'react'
import { toast } from 'sonner'
import {
  addTopic,
  type ComposeView,
  changeTopic,
  orderTopics,
  removeTopic,
  restoreTopic,
  type TopicView,
} from '../../../contract/sheets.ts'
import { LIMITS } from '../../../core/limits.ts'
import { call, type Fault } from '../../data/call.ts'
import { Button, Key } from '../../kit/Button.tsx'
import { useKey } from '../keys.ts'
import { type TopicPatch, TopicRow } from './TopicRow.tsx'
import { declined, type Edit } from './useEdits.ts'

export const COLUMNS =
  'grid grid-cols-[1.75rem_minmax(0,1fr)_4.5rem_4.5rem_9rem_2.25rem] items-center gap-x-2 px-3'

/** The topics of a sheet as a table that is edited in place. */
export function TopicTable({
  view,
  edit,
}: {
  view: ComposeView
  edit: (work: Edit) => Promise<Fault | null>
}) {
  const table = useRef<HTMLDivElement>(null)
  const [order, setOrder] = useState<string[] | null>(null)
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
    setOrder(next)
    const fault = await edit(() => call(orderTopics, { sheet }, { topics: next }))
    setOrder(null)
    if (fault) toast.error(fault.message)
  }
  const dropped = ({ active, over }: DragEndEvent) => {
    const from = codes.indexOf(String(active.id))
    const to = over ? codes.indexOf(String(over.id)) : -1
    if (from >= 0 && to >= 0 && from !== to) void arrange(arrayMove(codes, from, to))
  }
  const change = (topic: string, patch: TopicPatch) =>
    edit((confirmed) => call(changeTopic, { sheet, topic }, { ...patch, confirmed }))
  const remove = async ({ code, title }: TopicView) => {
    const fault = await edit((confirmed) => call(removeTopic, { sheet, topic: code }, { confirmed }))
    if (fault) {
      if (!declined(fault)) toast.error(fault.message)
      return
    }
    const putBack = () => edit(() => call(restoreTopic, { sheet, topic: code }))
    toast(`${title} was removed.`, {
      duration: 10_000,
      action: { label: 'Undo', onClick: () => void putBack() },
    })
  }

  /** Goes to a cell of another row in the same column; past the last row to the line for a new topic. */
  const goTo = (row: number, column: string): boolean => {
    const cell = row >= topics.length ? '[data-cell="new"]' : `[data-cell="${row}:${column}"]`
    const field = table.current?.querySelector<HTMLElement>(cell)
    field?.focus()
    return field !== null && field !== undefined
  }
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    const field = event.target as HTMLInputElement | HTMLTextAreaElement
    const [row = '', column = ''] = (field.dataset.cell ?? '').split(':')
    if (column === '') return
    const index = Number(row)
    const step = { ArrowUp: -1, ArrowDown: 1, Enter: 1 }[event.key]
    if (step === undefined || event.nativeEvent.isComposing) return
    if (event.altKey && event.key !== 'Enter') {
      const to = index + step
      event.preventDefault()
      if (to < 0 || to >= codes.length) return
      void arrange(arrayMove(codes, index, to)).then(() => goTo(to, column))
      requestAnimationFrame(() => goTo(to, column))
      return
    }
    const severalLines = field.value.includes('\n')
    if (event.shiftKey || (severalLines && event.key !== 'Enter')) return
    if (goTo(index + (event.key === 'Enter' && event.ctrlKey ? -1 : step), column)) event.preventDefault()
  }

  const groups = view.topics.length * Math.max(1, view.sections.length)
  return (
    <section aria-label="Topics" className="min-w-0 border-r border-line bg-surface max-lg:border-r-0">
      <div className="flex flex-wrap items-center justify-between gap-3 px-4 py-3">
        <h2 className="text-lg">
          {view.topics.length === 1 ? '1 topic' : `${view.topics.length} topics`}{' '}
          <span className="figures ml-1 font-sans text-[0.9375rem] font-normal text-soft">
            {view.sections.length > 0 && `× ${view.sections.length} sections `}= {groups}{' '}
            {groups === 1 ? 'group' : 'groups'}
          </span>
        </h2>
        {view.mayEdit && (
          <Button size="small" onClick={() => goTo(topics.length, 'title')}>
            Add a topic <Key>T</Key>
          </Button>
        )}
      </div>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: arrow keys move between the fields inside */}
      <div ref={table} onKeyDown={onKeyDown}>
        <div
          aria-hidden="true"
          className={`${COLUMNS} border-b border-line pb-1.5 text-sm font-semibold text-soft`}
        >
          <span />
          <span>Topic and brief</span>
          <span className="text-center">Seats</span>
          <span className="text-center">Floor</span>
          <span className="pl-2">Where</span>
          <span />
        </div>
        <DndContext
          sensors={sensors}
          collisionDetection={closestCenter}
          modifiers={[restrictToVerticalAxis, restrictToParentElement]}
          onDragEnd={dropped}
        >
          <SortableContext items={codes} strategy={verticalListSortingStrategy}>
            <ul>
              {topics.map((topic, row) => (
                <TopicRow
                  key={topic.code}
                  topic={topic}
                  row={row}
                  common={{ seats: view.seats, floor: view.floor }}
                  mayEdit={view.mayEdit}
                  onChange={(patch) => change(topic.code, patch)}
                  onRemove={() => void remove(topic)}
                />
              ))}
            </ul>
          </SortableContext>
        </DndContext>
        {view.mayEdit && <NewTopic sheet={sheet} edit={edit} first={topics.length === 0} />}
        {!view.mayEdit && topics.length === 0 && <p className="p-8 text-center text-soft">No topics yet.</p>}
      </div>
    </section>
  )
}

/** The line below the last topic: type a title, press Enter, and go on with the next. */
function NewTopic({
  sheet,
  edit,
  first,
}: {
  sheet: string
  edit: (work: Edit) => Promise<Fault | null>
  first: boolean
}) {
  const [title, setTitle] = useState('')
  const [fault, setFault] = useState<Fault | null>(null)
  const field = useRef<HTMLInputElement>(null)
  useKey('t', () => field.current?.focus())
  const add = async () => {
    const typed = title.trim()
    if (typed === '') return
    setTitle('')
    const refused = await edit(() =>
      call(addTopic, { sheet }, { title: typed, brief: '', place: '', seats: null, floor: null }),
    )
    setFault(refused)
    if (refused) setTitle(typed)
    field.current?.scrollIntoView({ block: 'nearest' })
  }
  return (
    <div className={`${COLUMNS} py-2`}>
      <span />
      <div className="col-span-5">
        <input
          ref={field}
          data-cell="new"
          aria-label="Title of a new topic"
          aria-invalid={fault ? true : undefined}
          placeholder={
            first
              ? 'Type the first topic’s title and press Enter'
              : 'Type the next topic’s title and press Enter'
          }
          maxLength={LIMITS.title}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Enter' || event.nativeEvent.isComposing) return
            event.preventDefault()
            void add()
          }}
          onBlur={() => void add()}
          className="min-h-9 w-full rounded-field border tear bg-transparent px-2 font-semibold placeholder:font-normal"
        />
        {fault && (
          <p role="alert" className="text-sm text-ember">
            {fault.field('title') ?? fault.message}
          </p>
        )}
      </div>
    </div>
  )
}
