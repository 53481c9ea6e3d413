import type { LucideIcon } from 'lucide-react'
import type { ButtonHTMLAttributes } from 'react'

/** A button that is a sign alone: its name says what it does and to what. */
export function IconButton({
  icon: Icon,
  name,
  danger = false,
  className = '',
  ...props
}: Omit<ButtonHTMLAttributes<HTMLButtonElement>, 'children'> & {
  icon: LucideIcon
  name: string
  /** Whether it takes something away. */
  danger?: boolean
}) {
  return (
    <button
      type="button"
      title={name}
      {...props}
      aria-label={name}
      className={`grid size-8 shrink-0 place-items-center rounded-field text-faint pointer-coarse:size-11 ${
        danger ? 'hover:bg-ember-soft hover:text-ember' : 'hover:bg-seat-soft hover:text-seat'
      } ${className}`}
    >
      <Icon size={16} aria-hidden="true" />
    </button>
  )
}
