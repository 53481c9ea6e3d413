import type { ComponentProps } from 'react'

/** One of several, in the device's own way of choosing. Options are its children. */
export function Choice({
  onValue,
  className = '',
  ...props
}: Omit<ComponentProps<'select'>, 'onChange'> & { onValue: (value: string) => void }) {
  return (
    <select
      {...props}
      onChange={({ target }) => onValue(target.value)}
      className={`min-h-9 min-w-0 rounded-field border border-line-strong bg-surface px-2 text-ink hover:border-open disabled:opacity-100 aria-invalid:border-ember pointer-coarse:min-h-11 ${className}`}
    />
  )
}
