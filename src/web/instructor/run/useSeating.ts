import { useCallback, useMemo, useState } from 'react'
import { seatByHand } from '../../../contract/seatings.ts'
import type { RunView } from '../../../contract/seats.ts'
import { counted } from '../../../core/counted.ts'
import { inverseOf, type SeatingChange } from '../../../core/seating.ts'
import { call } from '../../data/call.ts'
import { useAct } from '../../kit/Acting.tsx'
import { keepFocus } from '../../kit/focus.ts'
import { DROP, TRAY } from './drops.ts'
import { type Pick, standing } from './picks.ts'

/**
 * Seating by hand: who is picked, and seating them; where something speaks against it, it is asked first.
 * @param show puts changes on the page at once, before the server has told of them
 */
export function useSeating(
  view: RunView,
  show: (changes: readonly SeatingChange[]) => void,
  refetch: () => void,
  /** Whether those who are seated are told by mail. */
  tells: boolean,
) {
  const [chosen, setPicks] = useState<readonly Pick[]>([])
  const act = useAct()
  const picks = useMemo(() => standing(chosen, view), [chosen, view])
  const { code: sheet } = view

  const titleOf = (group: string | null) => {
    const found = view.groups.find(({ code }) => code === group)
    const topic = view.topics.find(({ code }) => code === found?.topic)?.title
    const section = view.sections.find(({ code }) => code === found?.section)?.name
    return [topic, section].filter(Boolean).join(', ')
  }
  const words = (changes: readonly SeatingChange[]): string => {
    const [first] = changes
    const name = [...view.people, ...view.away].find(({ code }) => code === first?.person)?.name
    const who = changes.length === 1 ? (name ?? 'One') : String(changes.length)
    const places = new Set(changes.map(({ to }) => to))
    if (places.size > 1) return `${changes.length} seats changed.`
    return first?.to == null ? `${who} taken out.` : `${who} seated at ${titleOf(first.to)}.`
  }
  const send = async (changes: SeatingChange[]): Promise<void> => {
    if (changes.length === 0) return
    const as = `seated-${crypto.randomUUID()}`
    const told = tells && view.publishedAt !== null && changes.some(({ to }) => to !== null)
    /** Sends changes; gives them, so that the page shows what holds then. */
    const make = async (made: readonly SeatingChange[], confirmed: boolean, mail: object) => {
      await call(seatByHand, { sheet }, { changes: [...made], confirmed, ...mail })
      return made
    }
    const people = new Set(changes.map(({ person }) => person)).size
    const done = await act.do({
      work: (confirmed) => make(changes, confirmed, told ? { tell: { as } } : {}),
      // Whoever undoes wants what was there, whatever speaks against it.
      undo: () => make(inverseOf(changes), true, told ? { recall: as } : {}),
      put: (made) => {
        show(made)
        setPicks([])
      },
      ask: {
        title: `Seat ${counted(people, 'person', 'people')} all the same?`,
        yes: `Seat ${counted(people, 'person', 'people')}`,
      },
      said: told ? `${words(changes)} They are told by mail in a minute.` : words(changes),
      refetch,
    })
    // Whoever was seated may have had the focus: then the next of the tray has it.
    if (!done.fault) keepFocus(`[${DROP}="${TRAY}"] [tabindex="0"]`)
  }

  return {
    picks,
    setPicks,
    clear: useCallback(() => setPicks([]), []),
    busy: act.busy,
    /** Seats people in a group, or takes them out with null. Who sits there already stays. */
    seat: (people: readonly Pick[], to: string | null) =>
      send(people.filter(({ from }) => from !== to).map(({ person, from }) => ({ person, from, to }))),
    /** Lets two who sit in different groups change seats. */
    swap: ([a, b]: readonly [Pick, Pick]) =>
      send([
        { person: a.person, from: a.from, to: b.from },
        { person: b.person, from: b.from, to: a.from },
      ]),
  }
}

export type Seating = ReturnType<typeof useSeating>
