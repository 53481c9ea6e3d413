import { useMemo, useState } from 'react'
import { LIVE_EVENTS, type SeatsEvent } from '../../../contract/live.ts'
import { type RunView, run } from '../../../contract/seats.ts'
import type { SeatingChange } from '../../../core/seating.ts'
import { useAnswer } from '../../data/answers.ts'
import { serverNow } from '../../data/clock.ts'
import { useLive } from '../../data/live.ts'

interface Heard {
  changes: SeatsEvent['changes']
  position: number
}

/**
 * A sheet as its staff watch it: the view last fetched, and over it the changes that the stream told since.
 * Changes that the fetched view already holds may be applied again without harm.
 */
export function useRunSheet(code: string) {
  const { data, error, mutate } = useAnswer(run, { sheet: code }, { revalidateOnFocus: false })
  const [heard, setHeard] = useState<readonly Heard[]>([])
  const live = useLive(code, data?.rev ?? null, {
    [LIVE_EVENTS.seats]: ({ changes }: SeatsEvent, position) =>
      setHeard((before) => [
        ...before.filter((one) => one.position > (data?.rev ?? 0)),
        { changes, position },
      ]),
    [LIVE_EVENTS.refresh]: () => void mutate(),
  })
  const view = useMemo(() => data && withHeard(data, heard), [data, heard])
  /** Shows changes of seats that were just made, until the stream or a fetch tells of them. */
  const show = (changes: readonly SeatingChange[]) => {
    const at = serverNow()
    void mutate(
      (before) =>
        before &&
        withChanges(
          before,
          changes.map((change) => ({ ...change, at })),
        ),
      {
        revalidate: true,
      },
    )
  }
  return { view, error, live, show, refetch: () => void mutate() }
}

/** The view with the changes told since, in their order. */
export function withHeard(view: RunView, heard: readonly Heard[]): RunView {
  const newer = heard.filter(({ position }) => position > view.rev).flatMap(({ changes }) => changes)
  return newer.length === 0 ? view : withChanges(view, newer)
}

/** The view with changes of seats, in their order. */
export function withChanges(view: RunView, changes: SeatsEvent['changes']): RunView {
  const key = (person: string, group: string) => `${person} ${group}`
  const seats = new Map(view.seats.map((seat) => [key(seat.person, seat.group), seat]))
  for (const { person, from, to, at } of changes) {
    if (from !== null) seats.delete(key(person, from))
    if (to !== null) seats.set(key(person, to), { person, group: to, at })
  }
  return { ...view, seats: [...seats.values()] }
}
