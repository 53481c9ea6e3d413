import { type ComponentProps, type ReactNode, useId } from 'react'
import type { Doubt } from './sentence.ts'

/** How the sentence looks. */
export const LINE = 'font-display text-[1.75rem] leading-snug max-sm:text-xl'
/** How what is chosen or typed in it looks. */
export const PART =
  'max-w-full rounded-t-field border-0 border-b-2 border-dashed border-open bg-transparent px-1 font-display font-bold text-seat hover:bg-seat-soft focus:bg-seat-soft'

/** One line of the sentence. */
export function Line({ children }: { children: ReactNode }) {
  return <p className={LINE}>{children}</p>
}

/** A part of the sentence that is one of several. */
export function Part({
  label,
  onValue,
  ...props
}: Omit<ComponentProps<'select'>, 'onChange'> & { label: string; onValue: (value: string) => void }) {
  return (
    <select
      {...props}
      aria-label={label}
      onChange={({ target }) => onValue(target.value)}
      className={`${PART} cursor-pointer text-ellipsis [field-sizing:content]`}
    />
  )
}

/** What is wrong, beside its place. */
export function Doubts({ of }: { of: readonly Doubt[] }) {
  const id = useId()
  return of.map(({ words }, i) => (
    <p key={words} id={`${id}-${i}`} role="alert" className="-mt-2 text-ember">
      {words}
    </p>
  ))
}
