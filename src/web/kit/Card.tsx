import type { ReactNode } from 'react'

/** One card of a column: its title, what stands at the end of that line, and what is in it. */
export function Card({
  title,
  label = title,
  tone = '',
  aside,
  children,
}: {
  title: string
  /** Its name among others, where its title alone would be another’s too. */
  label?: string
  tone?: string
  aside?: ReactNode
  children: ReactNode
}) {
  return (
    <section
      aria-label={label}
      className={`rounded-card border px-3.5 py-3 ${tone || 'border-line bg-surface'}`}
    >
      <div className="mb-2 flex items-baseline justify-between gap-2">
        <h2 className="text-[1.0625rem]">{title}</h2>
        {aside}
      </div>
      {children}
    </section>
  )
}
