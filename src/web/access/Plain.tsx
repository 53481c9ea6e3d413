import type { ReactNode } from 'react'
import { Mark } from '../kit/Mark.tsx'

/** A page for those who are not signed in: the mark, and one narrow sheet. */
export function Plain({ children }: { children: ReactNode }) {
  return (
    <main id="page" className="mx-auto flex min-h-dvh max-w-md flex-col gap-5 px-4 py-10 sm:pt-20">
      <div className="flex items-center gap-2 font-display text-2xl font-bold">
        <Mark />
        Haplon
      </div>
      {children}
    </main>
  )
}
