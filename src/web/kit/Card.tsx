import type { ReactNode } from 'react'

/** One card of a column: its title, what stands at the end of that line, and what is in it. */
export function Card({
  title,
  tone = '',
  aside,
  children,
}: {
  title: string
  tone?: string
  aside?: ReactNode
  children: ReactNode
}) {
  return (
    <section
      aria-label={title}
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
