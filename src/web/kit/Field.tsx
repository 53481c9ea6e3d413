import { type ComponentProps, type ReactNode, useId } from 'react'

export const BOX =
  'w-full rounded-field border border-line-strong bg-surface px-3 py-1.5 text-ink hover:border-open aria-invalid:border-ember'

interface Labelled {
  label: string
  /** A line that helps to fill it in. */
  hint?: ReactNode
  /** What is wrong with what stands in it, and what to do. */
  fault?: ReactNode
}

/** A label, whatever is filled in, and below it what is wrong or what helps. */
export function FieldFrame({
  label,
  hint,
  fault,
  children,
}: Labelled & {
  children: (ids: { id: string; 'aria-describedby'?: string; 'aria-invalid'?: true }) => ReactNode
}) {
  const id = useId()
  const note = fault ?? hint
  return (
    <div className="flex flex-col gap-1">
      <label htmlFor={id} className="text-sm font-semibold text-soft">
        {label}
      </label>
      {children({
        id,
        ...(note && { 'aria-describedby': `${id}-note` }),
        ...(fault && { 'aria-invalid': true as const }),
      })}
      {note && (
        <div
          id={`${id}-note`}
          className={`text-sm ${fault ? 'text-ember' : 'text-faint'}`}
          role={fault ? 'alert' : undefined}
        >
          {note}
        </div>
      )}
    </div>
  )
}

/** One line of text with its label. */
export function Field({ label, hint, fault, className = '', ...props }: Labelled & ComponentProps<'input'>) {
  return (
    <FieldFrame label={label} hint={hint} fault={fault}>
      {(ids) => <input {...props} {...ids} className={`${BOX} min-h-9 ${className}`} />}
    </FieldFrame>
  )
}

/** Several lines of text with their label. */
export function Area({
  label,
  hint,
  fault,
  className = '',
  ...props
}: Labelled & ComponentProps<'textarea'>) {
  return (
    <FieldFrame label={label} hint={hint} fault={fault}>
      {(ids) => <textarea {...props} {...ids} className={`${BOX} ${className}`} />}
    </FieldFrame>
  )
}
