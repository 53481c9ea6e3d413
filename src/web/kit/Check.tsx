import type { ReactNode } from 'react'

/** Something that is so or not, with its words. Without words it needs a name. */
export function Check({
  checked,
  onValue,
  disabled = false,
  name,
  end = false,
  className = '',
  children,
}: {
  checked: boolean
  onValue: (checked: boolean) => void
  disabled?: boolean
  /** What it is called where no words stand beside it. */
  name?: string
  /** Whether the words stand before it, at the other end of the line. */
  end?: boolean
  className?: string
  children?: ReactNode
}) {
  const box = (
    <input
      type="checkbox"
      aria-label={name}
      checked={checked}
      disabled={disabled}
      onChange={({ target }) => onValue(target.checked)}
      className="size-4 shrink-0 accent-seat pointer-coarse:size-5"
    />
  )
  if (children === undefined) return box
  return (
    // biome-ignore lint/a11y/noLabelWithoutControl: the box stands in it
    <label
      className={`flex min-h-8 items-center gap-2 pointer-coarse:min-h-11 ${end ? 'justify-between' : ''} ${className}`}
    >
      {end && children}
      {box}
      {!end && children}
    </label>
  )
}
