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
  const mayLeave = rules.changing === 'by-asking' || (rules.changing === 'until-close' && state === 'open')
  return (
    <aside aria-label="Your seat" className="bg-seat text-on-seat sm:rounded-t-card">
      <ul className="mx-auto flex max-w-2xl flex-col gap-2 px-4 py-3">
        {own.map((group, i) => (
          <li key={group.code} className="flex items-center justify-between gap-3">
            <p className="min-w-0">
              {i === 0 && <span className="block text-sm">You sit at</span>}
              <strong className="block truncate font-display text-lg leading-tight">{group.title}</strong>
            </p>
            {mayLeave && (
              <button
                type="button"
                onClick={() => onGiveUp(group)}
                aria-label={own.length > 1 ? `Give up ${group.title}` : undefined}
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
