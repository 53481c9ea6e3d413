import type { StudentGroup } from '../../contract/seats.ts'
import type { SheetState } from '../../core/window.ts'

/** Stays in reach at the foot of the sheet: where the student sits, or that a group is still needed. */
export function SeatBar({
  own,
  state,
  onGiveUp,
}: {
  own: StudentGroup | null
  state: SheetState
  onGiveUp: () => void
}) {
  if (!own) {
    if (state !== 'open') return null
    return (
      <aside aria-label="Your seat" className="sticky bottom-0 z-10 border-t border-ember bg-ember-soft">
        <p className="mx-auto flex min-h-14 max-w-2xl items-center px-4 font-semibold text-ember">
          You have no group yet. Take a seat above.
        </p>
      </aside>
    )
  }
  return (
    <aside aria-label="Your seat" className="sticky bottom-0 z-10 bg-seat text-on-seat sm:rounded-t-card">
      <div className="mx-auto flex max-w-2xl items-center justify-between gap-3 px-4 py-3">
        <p className="min-w-0">
          <span className="block text-sm">You sit at</span>
          <strong className="block truncate font-display text-lg leading-tight">{own.title}</strong>
        </p>
        {state === 'open' && (
          <button
            type="button"
            onClick={onGiveUp}
            className="min-h-11 shrink-0 rounded-field border border-on-seat px-4 font-semibold hover:bg-on-seat hover:text-seat focus-visible:outline-on-seat"
          >
            Give up
          </button>
        )}
      </div>
    </aside>
  )
}
