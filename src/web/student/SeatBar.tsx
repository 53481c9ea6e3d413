import { ChevronDown } from 'lucide-react'
import { useId, useState } from 'react'
import type { StudentGroup } from '../../contract/seats.ts'
import type { HouseRules } from '../../core/rules.ts'
import type { SheetState } from '../../core/window.ts'

/** Stays in reach at the foot of the sheet: where the student sits, or that a group is still needed. */
export function SeatBar({
  own,
  state,
  rules,
  onGiveUp,
}: {
  own: readonly StudentGroup[]
  state: SheetState
  rules: HouseRules
  onGiveUp: (group: StudentGroup) => void
}) {
  const [shown, setShown] = useState(false)
  const list = useId()
  if (own.length === 0) {
    if (state !== 'open') return null
    return (
      <aside aria-label="Your seat" className="border-t border-ember bg-ember-soft">
        <p className="mx-auto flex min-h-14 max-w-2xl items-center px-4 font-semibold text-ember">
          You have no group yet. Take a seat above.
        </p>
      </aside>
    )
  }
  // Several would cover half a phone: they are folded up until they are wanted.
  const several = own.length > 1
  const mayLeave = rules.changing === 'by-asking' || (rules.changing === 'until-close' && state === 'open')
  return (
    <aside aria-label="Your seat" className="bg-seat text-on-seat sm:rounded-t-card">
      {several && (
        <button
          type="button"
          aria-expanded={shown}
          aria-controls={list}
          onClick={() => setShown(!shown)}
          className="mx-auto flex min-h-14 w-full max-w-2xl items-center justify-between gap-3 px-4 text-left focus-visible:outline-on-seat"
        >
          <span className="min-w-0">
            <span className="block text-sm">You have {own.length} seats</span>
            <strong className="block truncate font-display leading-tight">
              {own.map(({ title }) => title).join(', ')}
            </strong>
          </span>
          <ChevronDown size={20} aria-hidden="true" className={`shrink-0 ${shown ? '' : 'rotate-180'}`} />
        </button>
      )}
      <ul
        id={list}
        hidden={several && !shown}
        className="mx-auto max-h-[50vh] max-w-2xl overflow-auto px-4 py-1.5"
      >
        {own.map((group) => (
          <li key={group.code} className="flex items-center justify-between gap-3 py-1.5">
            <p className="min-w-0">
              {!several && <span className="block text-sm">You sit at</span>}
              <strong className="block truncate font-display text-lg leading-tight">{group.title}</strong>
            </p>
            {mayLeave && (
              <button
                type="button"
                onClick={() => onGiveUp(group)}
                aria-label={`${rules.changing === 'by-asking' ? 'Ask to leave' : 'Give up'} ${group.title}`}
                className="min-h-11 shrink-0 rounded-field border border-on-seat px-4 font-semibold hover:bg-on-seat hover:text-seat focus-visible:outline-on-seat"
              >
                {rules.changing === 'by-asking' ? 'Ask to leave' : 'Give up'}
              </button>
            )}
          </li>
        ))}
      </ul>
    </aside>
  )
}
