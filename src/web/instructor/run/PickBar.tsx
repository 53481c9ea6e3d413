import { useEffect } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { Button, ButtonLink, Key } from '../../kit/Button.tsx'
import { typing, useKey } from '../../kit/keys.ts'
import type { Seating } from './useSeating.ts'

/** What can be done with the people who are picked. */
export function PickBar({ view, seating, onSeat }: { view: RunView; seating: Seating; onSeat: () => void }) {
  const { picks, clear, busy } = seating
  const [first, second] = picks
  const seated = picks.filter(({ from }) => from !== null)
  const pair = picks.length === 2 && first && second && first.from !== second.from && seated.length > 0
  const swap = () => pair && void seating.swap([first, second])
  useKey('p', onSeat)
  useKey('x', swap)
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || event.defaultPrevented || typing(event)) return
      event.preventDefault()
      clear()
    }
    window.addEventListener('keydown', onKey, true)
    return () => window.removeEventListener('keydown', onKey, true)
  }, [clear])
  const names = new Map([...view.people, ...view.away].map(({ code, name }) => [code, name]))
  const said = picks.slice(0, 3).map(({ person }) => names.get(person))
  return (
    <section
      aria-label="Picked"
      className="flex flex-wrap items-center gap-2 border-t border-line bg-seat-soft px-5 py-1.5"
    >
      <p aria-live="polite" className="mr-auto min-w-0 truncate">
        <strong className="figures font-semibold">{picks.length} picked</strong>
        <span className="text-soft">
          : {said.join(', ')}
          {picks.length > 3 && ` and ${picks.length - 3} more`}
        </span>
      </p>
      <Button size="small" look="main" busy={busy} onClick={onSeat}>
        Seat them… <Key>P</Key>
      </Button>
      {pair && (
        <Button size="small" busy={busy} onClick={swap}>
          Swap the two <Key>X</Key>
        </Button>
      )}
      {first && picks.length === 1 && (
        <ButtonLink
          size="small"
          to={`/courses/${view.course.code}/people/${first.person}`}
          label={`Their page: ${names.get(first.person)}`}
        >
          Their page
        </ButtonLink>
      )}
      {seated.length > 0 && (
        <Button size="small" busy={busy} onClick={() => void seating.seat(seated, null)}>
          Take out of their group
        </Button>
      )}
      <Button size="small" look="quiet" onClick={clear}>
        Pick nobody <Key>Esc</Key>
      </Button>
    </section>
  )
}
