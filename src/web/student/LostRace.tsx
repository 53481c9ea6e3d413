import { useEffect, useRef } from 'react'
import type { StudentGroup, StudentSheet } from '../../contract/seats.ts'
import { seatsLeft } from '../../core/limit.ts'
import { nearestFree } from '../../core/nearest.ts'
import type { SheetState } from '../../core/window.ts'
import { Button } from '../kit/Button.tsx'
import { offerOf } from './choices.ts'
import type { Lost } from './useClaiming.ts'

/** Groups offered in place of the one that was lost. */
const MOST_OFFERED = 3

/** Stands where a race was lost: what happened, and what is still free nearest to the choice. */
export function LostRace({
  lost,
  view,
  state,
  busy,
  onPress,
  onClose,
}: {
  lost: Lost
  view: StudentSheet
  state: SheetState
  busy: boolean
  onPress: (group: StudentGroup) => void
  onClose: () => void
}) {
  const ref = useRef<HTMLElement>(null)
  // The button that was pressed may be gone; whoever uses the keyboard goes on from here.
  useEffect(() => ref.current?.focus(), [])
  const wanted = view.groups.find(({ code }) => code === lost.group)
  if (!wanted) return null
  const offered = nearestFree(wanted, view.groups, MOST_OFFERED, (group) =>
    ['take', 'move'].includes(offerOf(view, state, group).kind),
  )
  const seated = view.seats.length > 0
  return (
    <section
      ref={ref}
      tabIndex={-1}
      aria-label={`${wanted.title}: somebody was quicker`}
      className={`flex w-full flex-col gap-2 rounded-field p-3 outline-none ${seated ? 'bg-seat-soft' : 'bg-ember-soft'}`}
    >
      <p className={seated ? 'text-ink' : 'text-ember'}>{lost.words}</p>
      {offered.length > 0 && (
        <>
          <p className="text-sm text-soft">Nearest to your choice:</p>
          <ul className="flex flex-col gap-2">
            {offered.map((group) => {
              const left = seatsLeft(group.seats, group.taken, group.held)
              return (
                <li key={group.code} className="flex items-center justify-between gap-3">
                  <span className="min-w-0 text-ink">
                    <strong>{group.title}</strong>
                    {group.section && ` · ${group.section}`}
                    <span className="figures text-soft">
                      ,{' '}
                      {Number.isFinite(left)
                        ? left === 1
                          ? '1 seat left'
                          : `${left} seats left`
                        : 'no limit'}
                    </span>
                  </span>
                  <Button
                    size="touch"
                    look={seated ? 'plain' : 'main'}
                    disabled={busy}
                    onClick={() => onPress(group)}
                  >
                    {seated ? 'Move here' : 'Take a seat'}
                    <span className="sr-only"> at {group.title}</span>
                  </Button>
                </li>
              )
            })}
          </ul>
        </>
      )}
      <Button size="touch" look="quiet" className="self-start" onClick={onClose}>
        Close this note
      </Button>
    </section>
  )
}
