import { useCallback, useMemo, useState } from 'react'
import { toast } from 'sonner'
import type { Concern } from '../../../contract/problems.ts'
import { seatByHand } from '../../../contract/seatings.ts'
import type { RunView } from '../../../contract/seats.ts'
import { inverseOf, type SeatingChange } from '../../../core/seating.ts'
import { call, type Fault, faultOf } from '../../data/call.ts'
import { createHistory } from '../../data/history.ts'
import { useUndoKeys } from '../useUndoKeys.ts'
import { type Pick, standing } from './picks.ts'

/** A change that is asked about before it is made. */
export interface Asked {
  changes: SeatingChange[]
  concerns: readonly Concern[]
}

/**
 * Seating by hand: who is picked, seating them, asking where something speaks against it, and undo and redo.
 * @param show puts changes on the page at once, before the server has told of them
 */
export function useSeating(
  view: RunView,
  show: (changes: readonly SeatingChange[]) => void,
  refetch: () => void,
) {
  const [chosen, setPicks] = useState<readonly Pick[]>([])
  const [asked, setAsked] = useState<Asked | null>(null)
  const [busy, setBusy] = useState(false)
  const [history] = useState(createHistory)
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

  /** Sends changes, and shows them at once; why not, where that did not work. */
  const make = async (changes: readonly SeatingChange[], confirmed: boolean): Promise<Fault | null> => {
    setBusy(true)
    try {
      await call(seatByHand, { sheet }, { changes: [...changes], confirmed })
      show(changes)
      return null
    } catch (error) {
      return faultOf(error)
    } finally {
      setBusy(false)
    }
  }
  const refuse = (fault: Fault, but = '') => {
    toast.error(`${but}${fault.message}`, { duration: 8_000 })
    refetch()
  }
  const send = async (changes: SeatingChange[], confirmed: boolean): Promise<void> => {
    if (changes.length === 0) return
    const fault = await make(changes, confirmed)
    if (fault?.code === 'seating-needs-care')
      return setAsked({ changes, concerns: fault.problem.concerns ?? [] })
    if (fault) return refuse(fault)
    setAsked(null)
    setPicks([])
    const step = history.add(
      () => make(inverseOf(changes), true),
      () => make(changes, true),
    )
    const said = words(changes)
    toast(said, { duration: 8_000, action: { label: 'Undo', onClick: () => void undo(step, said) } })
  }
  /** Undoes a step, the last one where none is named; a step that cannot be undone stays, with why. */
  const undo = async (step?: number, said?: string) => {
    const outcome = await history.undo(step)
    if (outcome === 'done') {
      setPicks([])
      toast(said ? `Undone: ${said}` : 'Undone.')
    } else if (outcome !== 'nothing') refuse(outcome, 'Not undone. ')
  }
  const redo = async () => {
    const outcome = await history.redo()
    if (outcome === 'done') toast('Done again.')
    else if (outcome !== 'nothing') refuse(outcome, 'Not done again. ')
  }
  useUndoKeys(
    () => void undo(),
    () => void redo(),
  )

  return {
    picks,
    setPicks,
    clear: useCallback(() => setPicks([]), []),
    busy,
    asked,
    dismiss: () => setAsked(null),
    confirm: () => (asked ? send(asked.changes, true) : Promise.resolve()),
    /** Seats people in a group, or takes them out with null. Who sits there already stays. */
    seat: (people: readonly Pick[], to: string | null) =>
      send(
        people.filter(({ from }) => from !== to).map(({ person, from }) => ({ person, from, to })),
        false,
      ),
    /** Lets two who sit in different groups change seats. */
    swap: ([a, b]: readonly [Pick, Pick]) =>
      send(
        [
          { person: a.person, from: a.from, to: b.from },
          { person: b.person, from: b.from, to: a.from },
        ],
        false,
      ),
  }
}

export type Seating = ReturnType<typeof useSeating>
