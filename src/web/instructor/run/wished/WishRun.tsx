import type { ReactNode } from 'react'
import type { RunView } from '../../../../contract/seats.ts'
import { type RunWishes, useRunWishes } from './useRunWishes.ts'

/** Gets what Run shows of wishes, where topics are ranked; hands on null where they are not. */
export function WishRun({
  view,
  children,
}: {
  view: RunView
  children: (wishes: RunWishes | null, trouble: string | null) => ReactNode
}) {
  return view.rules.road === 'wished' ? <Wished view={view}>{children}</Wished> : children(null, null)
}

function Wished({
  view,
  children,
}: {
  view: RunView
  children: (wishes: RunWishes | null, trouble: string | null) => ReactNode
}) {
  const { data, trouble } = useRunWishes(view)
  return children(data, trouble)
}
