import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { toast } from 'sonner'
import type { Concern } from '../../../contract/problems.ts'
import { seatByHand } from '../../../contract/seatings.ts'
import type { RunView } from '../../../contract/seats.ts'
import { inverseOf, type SeatingChange } from '../../../core/seating.ts'
import { call, faultOf } from '../../data/call.ts'
import { typing } from '../keys.ts'
import { type Pick, standing } from './picks.ts'

/** A change that is asked about before it is made. */
export interface Asked {
  changes: SeatingChange[]
  concerns: readonly Concern[]
}

type Way = 'new' | 'undo' | 'redo'

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
  const done = useRef<SeatingChange[][]>([])
  const undone = useRef<SeatingChange[][]>([])
  const picks = useMemo(() => standing(chosen, view), [chosen, view])
  const { code: sheet } = view

  const titleOf = (group: string | null) => {
    const found = view.groups.find(({ code }) => code === group)
    const topic = view.topics.find(({ code }) => code === found?.topic)?.title
    const section = view.sections.find(({ code }) => code === found?.section)?.name
    return [topic, section].filter(Boolean).join(', ')
  }
  const words = (changes: readonly SeatingChange[], way: Way): string => {
    if (way === 'undo') return 'Taken back.'
    const [first] = changes
    const name = [...view.people, ...view.away].find(({ code }) => code === first?.person)?.name
    const who = changes.length === 1 ? (name ?? 'One') : String(changes.length)
    const places = new Set(changes.map(({ to }) => to))
    if (places.size > 1) return `${changes.length} seats changed.`
    return first?.to == null ? `${who} taken out.` : `${who} seated at ${titleOf(first.to)}.`
  }

  const send = async (changes: SeatingChange[], confirmed: boolean, way: Way): Promise<void> => {
    if (changes.length === 0) return
    setBusy(true)
    try {
      await call(seatByHand, { sheet }, { changes, confirmed })
      show(changes)
      setAsked(null)
      setPicks([])
      if (way === 'undo') undone.current.push(inverseOf(changes))
      else done.current.push(changes)
      if (way === 'new') undone.current = []
      toast(words(changes, way), {
        duration: 8_000,
        ...(way !== 'undo' && { action: { label: 'Undo', onClick: () => void undo() } }),
      })
    } catch (error) {
      const fault = faultOf(error)
      if (fault.code === 'seating-needs-care') setAsked({ changes, concerns: fault.problem.concerns ?? [] })
      else {
        toast.error(fault.message, { duration: 8_000 })
        refetch()
      }
    } finally {
      setBusy(false)
    }
  }
  const undo = async () => {
    const last = done.current.pop()
    if (last) await send(inverseOf(last), true, 'undo')
  }
  const redo = async () => {
    const last = undone.current.pop()
    if (last) await send(last, true, 'redo')
  }
  const newest = useRef({ undo, redo })
  useEffect(() => {
    newest.current = { undo, redo }
  })
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'z' || !(event.ctrlKey || event.metaKey) || typing(event)) return
      event.preventDefault()
      void (event.shiftKey ? newest.current.redo() : newest.current.undo())
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])

  return {
    picks,
    setPicks,
    clear: useCallback(() => setPicks([]), []),
    busy,
    asked,
    dismiss: () => setAsked(null),
    confirm: () => (asked ? send(asked.changes, true, 'new') : Promise.resolve()),
    /** Seats people in a group, or takes them out with null. Who sits there already stays. */
    seat: (people: readonly Pick[], to: string | null) =>
      send(
        people.filter(({ from }) => from !== to).map(({ person, from }) => ({ person, from, to })),
        false,
        'new',
      ),
    /** Lets two who sit in different groups change seats. */
    swap: ([a, b]: readonly [Pick, Pick]) =>
      send(
        [
          { person: a.person, from: a.from, to: b.from },
          { person: b.person, from: b.from, to: a.from },
        ],
        false,
        'new',
      ),
  }
}

export type Seating = ReturnType<typeof useSeating>
