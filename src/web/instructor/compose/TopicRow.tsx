import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { GripVertical, Trash2 } from 'lucide-react'
import type { TopicView } from '../../../contract/sheets.ts'
import { LIMITS } from '../../../core/limits.ts'
import type { Fault } from '../../data/call.ts'
import { COLUMNS } from './TopicTable.tsx'
import { useKept } from './useKept.ts'

/** What of a topic is to change. */
export type TopicPatch = Partial<Pick<TopicView, 'title' | 'brief' | 'place' | 'seats' | 'floor'>>

const PLAIN =
  'w-full rounded-field border border-transparent bg-transparent px-2 hover:border-line-strong focus:border-open focus:bg-canvas aria-invalid:border-ember'

/** One topic of the table; each field keeps itself. */
export function TopicRow({
  topic,
  row,
  common,
  mayEdit,
  onChange,
  onRemove,
}: {
  topic: TopicView
  row: number
  common: { seats: number; floor: number }
  mayEdit: boolean
  onChange: (patch: TopicPatch) => Promise<Fault | null>
  onRemove: () => void
}) {
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: topic.code,
    disabled: !mayEdit,
  })
  const title = useKept(topic.title, (typed) => onChange({ title: typed }))
  const brief = useKept(topic.brief, (typed) => onChange({ brief: typed }))
  const place = useKept(topic.place, (typed) => onChange({ place: typed }))
  const seats = useKept(topic.seats === null ? '' : String(topic.seats), (typed) =>
    onChange({ seats: numberOf(typed) }),
  )
  const floor = useKept(topic.floor === null ? '' : String(topic.floor), (typed) =>
    onChange({ floor: numberOf(typed) }),
  )
  const taken = topic.groups.reduce((sum, group) => sum + group.taken, 0)
  const faults = [
    title.fault && (title.fault.field('title') ?? title.fault.message),
    brief.fault && (brief.fault.field('brief') ?? brief.fault.message),
    seats.fault && (seats.fault.field('seats') ?? seats.fault.message),
    floor.fault && (floor.fault.field('floor') ?? floor.fault.message),
    place.fault && (place.fault.field('place') ?? place.fault.message),
  ].filter(Boolean)
  const field = (column: string, kept: ReturnType<typeof useKept>, label: string) => ({
    'data-cell': `${row}:${column}`,
    'aria-label': `${label} of ${topic.title}`,
    'aria-invalid': kept.fault ? (true as const) : undefined,
    readOnly: !mayEdit,
    value: kept.text,
    onChange: (event: { target: { value: string } }) => kept.change(event.target.value),
    onBlur: kept.flush,
  })
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`border-b border-line bg-surface ${isDragging ? 'relative z-10 shadow-lg' : ''}`}
    >
      <div className={`${COLUMNS} py-0.5`}>
        {mayEdit ? (
          <button
            type="button"
            {...attributes}
            {...listeners}
            aria-label={`Move ${topic.title}`}
            title="Drag, or Alt with an arrow key"
            className="grid h-8 cursor-grab touch-none place-items-center rounded-field text-faint hover:text-ink"
          >
            <GripVertical size={16} aria-hidden="true" />
          </button>
        ) : (
          <span />
        )}
        <div className="min-w-0">
          <input
            {...field('title', title, 'Title')}
            maxLength={LIMITS.title}
            className={`${PLAIN} h-6 font-semibold`}
          />
          <textarea
            {...field('brief', brief, 'Brief')}
            rows={1}
            placeholder={mayEdit ? 'What the group would do' : ''}
            className={`${PLAIN} block max-h-32 resize-none text-sm leading-snug text-soft [field-sizing:content]`}
          />
        </div>
        <Figure kept={seats} field={field('seats', seats, 'Seats')} common={common.seats} />
        <Figure kept={floor} field={field('floor', floor, 'Floor')} common={common.floor} />
        <input {...field('place', place, 'Place')} className={PLAIN} placeholder={mayEdit ? 'Place' : ''} />
        {mayEdit ? (
          <button
            type="button"
            aria-label={`Remove ${topic.title}${taken > 0 ? `, where ${taken} sit` : ''}`}
            onClick={onRemove}
            className="grid size-8 place-items-center rounded-field text-faint hover:bg-ember-soft hover:text-ember"
          >
            <Trash2 size={16} aria-hidden="true" />
          </button>
        ) : (
          <span />
        )}
      </div>
      {faults.length > 0 && (
        <p role="alert" className="px-12 pb-1.5 text-sm text-ember">
          {faults.join(' ')}
        </p>
      )}
    </li>
  )
}

/** A number of the topic's own, or the common one in faint figures while there is none. */
function Figure({
  kept,
  field,
  common,
}: {
  kept: ReturnType<typeof useKept>
  field: Record<string, unknown>
  common: number
}) {
  const own = kept.text !== ''
  return (
    <input
      {...field}
      inputMode="numeric"
      placeholder={String(common)}
      title={own ? `An exception; empty it to follow the common ${common}` : `Follows the common ${common}`}
      className={`figures min-h-8 w-full rounded-field border text-center aria-invalid:border-ember ${
        own ? 'border-open bg-seat-soft font-bold' : 'border-line-strong bg-surface'
      }`}
    />
  )
}

/** What was typed as a number; empty follows the common one. Text that is no number is sent as it is, and refused. */
function numberOf(typed: string): number | null {
  const text = typed.trim()
  return text === '' ? null : Number(text)
}
