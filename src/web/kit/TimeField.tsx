import { CalendarDays } from 'lucide-react'
import { Popover } from 'radix-ui'
import { type ReactNode, useRef, useState, useSyncExternalStore } from 'react'
import { readTyped, sayTyped } from '../../core/typedTime.ts'
import { BOX, FieldFrame } from './Field.tsx'
import { part } from './part.tsx'

// The calendar comes when it is first opened.
const Month = part(async () => (await import('./Month.tsx')).Month, <p className="p-6 text-soft">Opening…</p>)

const COARSE = '(pointer: coarse)'

/** Whether the finger is the pointer: then the device's own field for a time is the better one. */
function useCoarse(): boolean {
  return useSyncExternalStore(
    (changed) => {
      const query = matchMedia(COARSE)
      query.addEventListener('change', changed)
      return () => query.removeEventListener('change', changed)
    },
    () => matchMedia(COARSE).matches,
  )
}

/** Today as the device has it: a day without a year is meant close to it. */
const today = () => new Date().toLocaleDateString('sv')

/** What is wrong with what stands in a field for a time; null for nothing. */
export function typedFault(text: string, time = true): string | null {
  const reading = readTyped(text, today(), time)
  return reading.kind === 'unfinished' ? reading.why : null
}

/** What is sent of it: a wall-clock time, null for none; what is neither is sent as typed, and refused. */
export function sentTime(text: string, time = true): string | null {
  const reading = readTyped(text, today(), time)
  return reading.kind === 'empty' ? null : reading.kind === 'whole' ? reading.local : text
}

interface TimeInputProps {
  /** What stands in it: a wall-clock time or day, nothing, or something on the way to one. */
  value: string
  /** Told at each change: a wall-clock time as soon as it is whole, and until then what was typed. */
  onValue: (value: string) => void
  onLeave?: (() => void) | undefined
  /** Whether a time belongs to the day. */
  time?: boolean
  readOnly?: boolean
  /** The time that a day gets that is picked from the calendar, `HH:mm`. */
  usual?: string
  className?: string
  id?: string
  'aria-label'?: string
  'aria-describedby'?: string
  'aria-invalid'?: true | undefined
}

/**
 * A day and a time, typed as people write them or picked from a calendar, and shown in the one format of Haplon
 * whatever the browser's language. On touch it is the device's own field.
 */
export function TimeInput({
  value,
  onValue,
  onLeave,
  time = true,
  readOnly = false,
  usual = '12:00',
  className = '',
  ...named
}: TimeInputProps) {
  const coarse = useCoarse()
  const field = useRef<HTMLInputElement>(null)
  const [typed, setTyped] = useState<string | null>(null)
  const [open, setOpen] = useState(false)
  if (coarse) {
    return (
      <input
        {...named}
        type={time ? 'datetime-local' : 'date'}
        readOnly={readOnly}
        value={readTyped(value, today(), time).kind === 'whole' ? value : ''}
        // A field with one part cleared is not an empty one.
        onChange={({ target }) => onValue(target.validity.badInput ? '…' : target.value)}
        onBlur={onLeave}
        className={`${BOX} figures min-h-9 ${className}`}
      />
    )
  }
  const change = (text: string) => {
    setTyped(text)
    const reading = readTyped(text, today(), time)
    onValue(reading.kind === 'whole' ? reading.local : reading.kind === 'empty' ? '' : text)
  }
  const pick = (day: string) => {
    onValue(time ? `${day}T${/T(\d\d:\d\d)$/.exec(value)?.[1] ?? usual}` : day)
    setTyped(null)
    setOpen(false)
    field.current?.focus()
  }
  return (
    <span className="flex min-w-0 items-center gap-1">
      <input
        {...named}
        ref={field}
        type="text"
        autoComplete="off"
        placeholder={readOnly ? '' : time ? 'Day and time' : 'Day'}
        readOnly={readOnly}
        value={typed ?? sayTyped(value)}
        onChange={({ target }) => change(target.value)}
        onBlur={() => {
          setTyped(null)
          onLeave?.()
        }}
        onKeyDown={({ key }) => key === 'Enter' && onLeave?.()}
        className={`${BOX} figures min-h-9 ${className}`}
      />
      {!readOnly && (
        <Popover.Root open={open} onOpenChange={setOpen}>
          <Popover.Trigger
            aria-label={`Pick from a calendar${named['aria-label'] ? `: ${named['aria-label']}` : ''}`}
            className="grid size-8 shrink-0 place-items-center rounded-field text-soft hover:bg-seat-soft hover:text-seat"
          >
            <CalendarDays size={18} aria-hidden="true" />
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="end"
              collisionPadding={8}
              aria-label="Calendar"
              className="z-[60] rounded-card border border-line-strong bg-surface p-3 shadow-xl"
            >
              <Month day={/^\d{4}-\d{2}-\d{2}/.exec(value)?.[0] ?? null} onDay={pick} />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      )}
    </span>
  )
}

/** A day and a time with its label. */
export function TimeField({
  label,
  hint,
  fault,
  ...input
}: {
  label: string
  hint?: ReactNode
  /** What the server found wrong; what is not whole says so by itself. */
  fault?: ReactNode
} & Omit<TimeInputProps, 'id' | 'aria-label' | 'aria-describedby' | 'aria-invalid'>) {
  const [left, setLeft] = useState(false)
  const unfinished = left ? typedFault(input.value, input.time) : null
  return (
    <FieldFrame label={label} hint={hint} fault={fault ?? unfinished ?? undefined}>
      {(ids) => (
        <TimeInput
          {...input}
          {...ids}
          onValue={(value) => {
            setLeft(false)
            input.onValue(value)
          }}
          onLeave={() => {
            setLeft(true)
            input.onLeave?.()
          }}
        />
      )}
    </FieldFrame>
  )
}
