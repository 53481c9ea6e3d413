import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { ChevronDown, GripVertical, Trash2 } from 'lucide-react'
import { memo } from 'react'
import type { TopicView } from '../../../contract/topicViews.ts'
import { takesPeople } from '../../../core/groupState.ts'
import { LIMITS } from '../../../core/limits.ts'
import { saySlot } from '../../../core/zone.ts'
import { IconButton } from '../../kit/IconButton.tsx'
import { sayLimit, typedLimit, typedNumber } from '../record/limits.ts'
import { CellFaults, FigureCell } from './cells.tsx'
import type { RowContext } from './rowContext.ts'
import { TopicDetails } from './TopicDetails.tsx'
import { same, topicField } from './topicField.ts'
import { type Field, useField } from './useField.ts'

export const COLUMNS =
  'grid grid-cols-[1.75rem_minmax(0,1fr)_4rem_4rem_8.5rem_1.75rem_1.75rem] items-center gap-x-2 px-3 max-sm:grid-cols-[1.75rem_3.5rem_3.5rem_minmax(0,1fr)_1.75rem_1.75rem] max-sm:gap-y-1'

const PLAIN =
  'w-full rounded-field border border-transparent bg-transparent px-2 hover:border-line-strong focus:border-open focus:bg-canvas aria-invalid:border-ember'

/** One topic of the table; each field keeps itself. */
export const TopicRow = memo(function TopicRow({
  topic,
  row,
  open,
  context,
}: {
  topic: TopicView
  row: number
  open: boolean
  context: RowContext
}) {
  const { mayEdit, zone } = context
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: topic.code,
    disabled: !mayEdit,
  })
  const title = useField(topicField(topic, context, 'title', same))
  const brief = useField(topicField(topic, context, 'brief', same))
  const place = useField(topicField(topic, context, 'place', same))
  const seats = useField(topicField(topic, context, 'seats', typedLimit))
  const floor = useField(topicField(topic, context, 'floor', typedNumber))
  const taken = topic.groups.reduce((sum, group) => sum + group.taken, 0)
  const exceptions = topic.groups.filter(isException).length
  const clash = topic.groups.some(({ code }) => context.clashes.has(code))
  const field = (column: string, kept: Field, label: string) => ({
    'data-cell': `${row}:${column}`,
    'data-typed': kept.typed || undefined,
    'aria-label': `${label} of ${topic.title}`,
    'aria-invalid': kept.fault || kept.theirs !== null ? (true as const) : undefined,
    readOnly: !mayEdit,
    value: kept.value,
    onChange: (event: { target: { value: string } }) => kept.change(event.target.value),
    onBlur: kept.flush,
  })
  const notes = [
    topic.startsAt && saySlot(topic.startsAt, topic.endsAt, zone),
    exceptions > 0 && (exceptions === 1 ? '1 section differs' : `${exceptions} sections differ`),
  ].filter(Boolean)
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Translate.toString(transform), transition }}
      className={`border-b border-line bg-surface ${isDragging ? 'relative z-10 shadow-lg' : 'contain-layout [contain-intrinsic-size:auto_3.2rem] [content-visibility:auto]'}`}
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
        <div className="min-w-0 max-sm:col-span-5">
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
          {(notes.length > 0 || clash) && (
            <p className="figures px-2 text-sm text-faint">
              {notes.join(' · ')}
              {clash && <span className="text-sun-ink"> · its place is taken at that time</span>}
            </p>
          )}
        </div>
        <span className="sm:hidden" />
        <FigureCell
          kept={seats}
          cell={`${row}:seats`}
          label={`Seats of ${topic.title}`}
          followed={sayLimit(context.seats)}
          readOnly={!mayEdit}
        />
        <FigureCell
          kept={floor}
          cell={`${row}:floor`}
          label={`Floor of ${topic.title}`}
          followed={String(context.floor)}
          readOnly={!mayEdit}
        />
        <input {...field('place', place, 'Place')} className={PLAIN} placeholder={mayEdit ? 'Place' : ''} />
        <IconButton
          icon={ChevronDown}
          name={`More of ${topic.title}: date, link, sections`}
          title="Date, link, sections"
          aria-expanded={open}
          onClick={() => context.toggle(topic.code)}
          className={`-ml-0.5 ${open ? 'rotate-180' : ''}`}
        />
        {mayEdit ? (
          <IconButton
            icon={Trash2}
            danger
            name={`Remove ${topic.title}${taken > 0 ? `, where ${taken} sit` : ''}`}
            onClick={() => context.remove(topic)}
            className="-ml-0.5"
          />
        ) : (
          <span />
        )}
      </div>
      <CellFaults
        fields={[
          { path: 'title', kept: title },
          { path: 'brief', kept: brief },
          { path: 'seats', kept: seats },
          { path: 'floor', kept: floor },
          { path: 'place', kept: place },
        ]}
      />
      {open && <TopicDetails topic={topic} context={context} />}
    </li>
  )
})

/** True when a group differs from its topic in anything. */
function isException(group: TopicView['groups'][number]): boolean {
  const { own, held } = group
  return !takesPeople(group) || held.length > 0 || Object.values(own).some((value) => value !== null)
}
