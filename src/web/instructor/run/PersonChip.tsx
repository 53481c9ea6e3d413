import { memo } from 'react'
import { Pip, type PipKind } from '../../kit/Pip.tsx'
import { PICK } from './drops.ts'
import { type Pick, pickKey } from './picks.ts'

/**
 * Somebody who can be picked and dragged, in a list of them (`PickList`), which hears the keys and clicks. Drawn anew
 * only when something of it changed.
 */
export const PersonChip = memo(function PersonChip({
  person,
  from,
  name,
  after,
  pip,
  picked,
  reached,
  pointed = false,
  wide = false,
}: Pick & {
  name: string
  /** Said after the name, e.g. the section. */
  after?: string | undefined
  pip: PipKind
  picked: boolean
  /** Whether Tab comes to this one of its list. */
  reached: boolean
  pointed?: boolean
  wide?: boolean
}) {
  return (
    <div
      {...{ [PICK]: pickKey({ person, from }) }}
      role="option"
      aria-selected={picked}
      tabIndex={reached ? 0 : -1}
      className={`flex cursor-grab touch-manipulation items-center gap-2 rounded-field border px-2.5 py-px select-none pointer-coarse:min-h-11 ${
        picked
          ? 'border-seat bg-seat-soft outline-2 -outline-offset-1 outline-seat'
          : pointed
            ? 'border-seat bg-surface outline-2 outline-seat'
            : 'border-line-strong bg-surface hover:border-open'
      } ${wide ? 'w-full' : ''}`}
    >
      <Pip kind={pip} size="tiny" />
      <span className="min-w-0 truncate">{name}</span>
      {after && <span className="text-soft">{after}</span>}
    </div>
  )
})
