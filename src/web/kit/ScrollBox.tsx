import type { ReactNode, Ref } from 'react'

/** A part of the page that scrolls by itself, reached and scrolled by keys too. */
export function ScrollBox({
  label,
  className,
  box,
  children,
}: {
  label: string
  className: string
  box?: Ref<HTMLElement>
  children: ReactNode
}) {
  return (
    <section
      ref={box}
      aria-label={label}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by keys
      tabIndex={0}
      className={`relative overflow-auto focus-visible:outline-offset-[-2px] ${className}`}
    >
      {children}
    </section>
  )
}
