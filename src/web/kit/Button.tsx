import type { ButtonHTMLAttributes, ReactNode } from 'react'
import { Link } from 'react-router'

const LOOKS = {
  main: 'bg-seat text-on-seat border-seat hover:brightness-110',
  plain: 'bg-surface text-ink border-line-strong hover:border-open',
  ember: 'bg-ember text-on-ember border-ember hover:brightness-105',
  quiet: 'bg-transparent text-seat border-transparent hover:bg-seat-soft',
}
const SIZES = {
  small: 'min-h-8 px-2.5 text-sm gap-1.5',
  medium: 'min-h-9 px-3.5 gap-2',
  /** For students' phones: a finger's width. */
  touch: 'min-h-11 px-4 gap-2',
}

interface Looks {
  look?: keyof typeof LOOKS
  size?: keyof typeof SIZES
}

const classes = ({ look = 'plain', size = 'medium' }: Looks, more = '') =>
  `inline-flex items-center justify-center rounded-field border font-semibold whitespace-nowrap select-none
   disabled:opacity-55 disabled:hover:brightness-100 ${LOOKS[look]} ${SIZES[size]} ${more}`

/** A button that says what happens. While its work is under way it is `busy`: shown, and not pressed twice. */
export function Button({
  look,
  size,
  busy = false,
  className,
  ...props
}: ButtonHTMLAttributes<HTMLButtonElement> & Looks & { busy?: boolean }) {
  return (
    <button
      type="button"
      {...props}
      aria-busy={busy || undefined}
      disabled={props.disabled || busy}
      className={classes({ ...(look && { look }), ...(size && { size }) }, className)}
    />
  )
}

/** A link that looks like a button, for going somewhere. */
export function ButtonLink({
  to,
  look,
  size,
  label,
  children,
}: Looks & {
  to: string
  /** Its whole name, where what stands on it says only part. */
  label?: string
  children: ReactNode
}) {
  return (
    <Link to={to} aria-label={label} className={classes({ ...(look && { look }), ...(size && { size }) })}>
      {children}
    </Link>
  )
}

/** The key that does the same, shown beside a label. */
export function Key({ children }: { children: ReactNode }) {
  return (
    <kbd className="whitespace-nowrap rounded border border-line-strong bg-canvas px-1.5 font-sans text-xs font-semibold text-soft">
      {children}
    </kbd>
  )
}
