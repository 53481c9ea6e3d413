import { useDraggable } from '@dnd-kit/core'
import type { KeyboardEvent, MouseEvent } from 'react'
import { Pip, type PipKind } from '../../kit/Pip.tsx'
import { isPicked, type Pick, samePick, toggled, withRange } from './picks.ts'
import type { Seating } from './useSeating.ts'

/** Where picking with Shift starts. One for all lists of the page. */
let anchor: Pick | null = null

/**
 * Somebody who can be picked and dragged. In a list of them: click or space picks, Shift picks a range, arrows go from
 * one to the next.
 */
export function PersonChip({
  pick,
  name,
  after,
  pip,
  pointed = false,
  list,
  seating,
  wide = false,
}: {
  pick: Pick
  name: string
  /** Said after the name, e.g. the section. */
  after?: string | undefined
  pip: PipKind
  pointed?: boolean
  /** Everybody of the list that it is in, in order. */
  list: readonly Pick[]
  seating: Seating
  wide?: boolean
}) {
  const { picks, setPicks } = seating
  const picked = isPicked(picks, pick)
  const { setNodeRef, listeners, isDragging } = useDraggable({
    id: `${pick.person} ${pick.from ?? ''}`,
    data: pick,
  })
  const choose = (range: boolean) => {
    setPicks(range && anchor ? withRange(picks, list, anchor, pick) : toggled(picks, pick))
    anchor = pick
  }
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    const at = list.findIndex((one) => samePick(one, pick))
    const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key]
    if (event.key === ' ' || event.key === 'Enter') {
      event.preventDefault()
      choose(event.shiftKey)
    } else if (step !== undefined) {
      event.preventDefault()
      const next = list[at + step]
      const options = event.currentTarget
        .closest('[role="listbox"]')
        ?.querySelectorAll<HTMLElement>('[role="option"]')
      if (!next || !options) return
      options[at + step]?.focus()
      if (event.shiftKey) setPicks(withRange(picks, list, pick, next))
    } else if (event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey)) {
      event.preventDefault()
      setPicks([...list])
    }
  }
  return (
    <div
      ref={setNodeRef}
      {...listeners}
      role="option"
      aria-selected={picked}
      tabIndex={0}
      onKeyDown={onKeyDown}
      onClick={(event: MouseEvent) => choose(event.shiftKey)}
      className={`flex cursor-grab touch-manipulation items-center gap-2 rounded-field border px-2.5 py-px select-none pointer-coarse:min-h-11 ${
        picked
          ? 'border-seat bg-seat-soft outline-2 -outline-offset-1 outline-seat'
          : pointed
            ? 'border-seat bg-surface outline-2 outline-seat'
            : 'border-line-strong bg-surface hover:border-open'
      } ${isDragging ? 'opacity-50' : ''} ${wide ? 'w-full' : ''}`}
    >
      <Pip kind={pip} size="tiny" />
      <span className="min-w-0 truncate">{name}</span>
      {after && <span className="text-soft">{after}</span>}
    </div>
  )
}
