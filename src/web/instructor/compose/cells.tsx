import { localTimeOf } from '../../../core/zone.ts'
import { BOX } from '../../kit/Field.tsx'
import type { Field } from './useField.ts'

/** The look of a small field among many. */
export const SMALL = `${BOX} figures min-h-8 px-2 py-0.5 text-sm`

/** An instant as a date-and-time field shows it. */
export function sayLocal(instant: string | null, zone: string): string {
  return instant === null ? '' : localTimeOf(instant, zone)
}

/** A number of one's own, or in faint figures the one that is followed. */
export function FigureCell({
  kept,
  label,
  cell,
  followed,
  readOnly,
}: {
  kept: Field
  label: string
  /** Its place in the table: `row:column`. */
  cell?: string
  /** What holds while the field is empty. */
  followed: string
  readOnly: boolean
}) {
  const own = kept.value !== ''
  return (
    <input
      data-cell={cell}
      data-typed={kept.typed || undefined}
      aria-label={label}
      aria-invalid={kept.fault || kept.theirs !== null ? true : undefined}
      readOnly={readOnly}
      value={kept.value}
      onChange={(event) => kept.change(event.target.value)}
      onBlur={kept.flush}
      placeholder={followed}
      title={
        own
          ? `An exception; empty it to follow the common ${followed} again`
          : `Follows the common ${followed}`
      }
      className={`figures min-h-8 w-full rounded-field border px-1 text-center aria-invalid:border-ember ${
        own ? 'border-open bg-seat-soft font-bold' : 'border-line-strong bg-surface'
      }`}
    />
  )
}

/** What is wrong with fields, or what somebody else put there meanwhile, below their row. */
export function CellFaults({ fields }: { fields: readonly { path: string; kept: Field }[] }) {
  const faults = fields.filter(({ kept }) => kept.fault || kept.theirs !== null || kept.state === 'retrying')
  if (faults.length === 0) return null
  return (
    <div className="flex flex-col gap-1 px-12 pb-1.5">
      {faults.map(({ path, kept }) => (
        <FieldNotes key={path} field={kept} path={path} />
      ))}
    </div>
  )
}

/** What is wrong with a field, that it is not kept yet, or what somebody else put there meanwhile. */
export function FieldNotes<Value>({
  field: { theirs, fault, state, insist, drop },
  path,
  said = String,
}: {
  field: Pick<Field<Value>, 'theirs' | 'fault' | 'state' | 'insist' | 'drop'>
  path?: string
  /** A value of it in words. */
  said?: (value: Value) => string
}) {
  if (theirs !== null) {
    return (
      <span role="alert" className="flex flex-wrap items-center gap-2 text-sm text-ember">
        Somebody changed it meanwhile to “{said(theirs) || 'nothing'}”.
        <button type="button" className="font-semibold underline" onClick={insist}>
          Keep mine
        </button>
        <button type="button" className="font-semibold underline" onClick={drop}>
          Take theirs
        </button>
      </span>
    )
  }
  if (fault)
    return (
      <span role="alert" className="text-sm text-ember">
        {(path && fault.field(path)) ?? fault.message}
      </span>
    )
  if (state === 'retrying')
    return (
      <span className="text-sm text-ember">Not saved yet, trying again. It stays here as you typed it.</span>
    )
  return null
}
