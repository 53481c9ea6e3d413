import { useEffect, useRef, useState } from 'react'
import type { StudentGroup, StudentSheet } from '../../contract/seats.ts'
import type { ClaimAsk } from '../../core/claim.ts'
import type { SheetState } from '../../core/window.ts'
import type { Fault } from '../data/call.ts'
import { keepFocus } from '../kit/focus.ts'
import { toast } from '../kit/toast.ts'
import { offerOf } from './choices.ts'
import type { SheetSource } from './source.ts'
import { stubId } from './TopicStub.tsx'

/** What stands before a decision that needs one more word. */
export type Pending =
  | { kind: 'give-up'; group: StudentGroup }
  | { kind: 'which'; to: StudentGroup; from: string[] }
  | { kind: 'ask'; to: StudentGroup | null; from: string[] }

/** A race that was lost: for which group, and what the server said. */
export interface Lost {
  group: string
  words: string
}

/** Refusals that mean that somebody else was quicker. */
const RACE_LOST: readonly Fault['code'][] = ['group-full', 'line-goes-first']

/** What a student does about seats: pressing, being asked once more, winning, losing, taking it back. */
export function useClaiming(source: SheetSource, state: SheetState) {
  const { view } = source
  const [pending, setPending] = useState<Pending | null>(null)
  const [lost, setLost] = useState<Lost | null>(null)
  /** Said by a screen reader, where no message says it. */
  const [said, setSaid] = useState('')
  useSeatedFromLine(view)
  const titleOf = (code: string) => view.groups.find((group) => group.code === code)?.title ?? ''

  const claim = async (ask: ClaimAsk<string>, undo?: ClaimAsk<string>) => {
    setPending(null)
    setLost(null)
    const fault = await source.send(ask)
    // The button that was pressed may be gone: then the group has the focus, and the page stays where it is.
    keepFocus(`#${CSS.escape(stubId('to' in ask ? ask.to : ask.from))}`)
    if (fault) {
      if ('to' in ask && RACE_LOST.includes(fault.code)) {
        setSaid(fault.message)
        setLost({ group: ask.to, words: fault.message })
      } else toast.error(fault.message, { duration: 8_000 })
      return
    }
    const words = sayDone(ask, titleOf)
    const mayUndo = undo && (view.rules.changing === 'until-close' || ask.kind === 'wait')
    toast.success(words, {
      duration: 7_000,
      ...(mayUndo && { action: { label: 'Undo', onClick: () => void claim(undo) } }),
    })
  }
  const move = (from: string, to: string) =>
    void claim({ kind: 'move', from, to }, { kind: 'move', from: to, to: from })
  const press = (group: StudentGroup) => {
    const offer = offerOf(view, state, group)
    if (offer.kind === 'take')
      void claim({ kind: 'take', to: group.code }, { kind: 'give-up', from: group.code })
    if (offer.kind === 'wait')
      void claim({ kind: 'wait', to: group.code }, { kind: 'leave-line', from: group.code })
    if (offer.kind === 'in-line') void claim({ kind: 'leave-line', from: group.code })
    if (offer.kind === 'ask') setPending({ kind: 'ask', to: group, from: offer.from })
    if (offer.kind === 'move' && offer.from.length > 1)
      setPending({ kind: 'which', to: group, from: offer.from })
    if (offer.kind === 'move' && offer.from.length === 1) move(offer.from[0] ?? '', group.code)
  }
  const leave = (group: StudentGroup) =>
    setPending(
      view.rules.changing === 'by-asking'
        ? { kind: 'ask', to: null, from: [group.code] }
        : { kind: 'give-up', group },
    )

  // What an earlier load of the page asked and never heard of is asked again, once.
  const resume = useRef(source.kept)
  useEffect(() => {
    const ask = resume.current
    resume.current = null
    if (ask) void claim(ask)
  })

  return { pending, setPending, lost, setLost, said, setSaid, titleOf, claim, move, press, leave }
}

/** Tells the student when a line gave a seat while the page was open. */
function useSeatedFromLine(view: StudentSheet): void {
  const before = useRef(view)
  useEffect(() => {
    const waited = new Set(
      before.current.groups.filter(({ yourPlace }) => yourPlace !== null).map(({ code }) => code),
    )
    const won = view.groups.find(
      ({ code }) => waited.has(code) && view.seats.some(({ group }) => group === code),
    )
    before.current = view
    if (!won) return
    const words = `A seat came free and it was your turn: you sit at ${won.title}.`
    toast.success(words, { duration: 12_000 })
  }, [view])
}

function sayDone(ask: ClaimAsk<string>, titleOf: (code: string) => string): string {
  switch (ask.kind) {
    case 'take':
      return `You sit at ${titleOf(ask.to)}.`
    case 'move':
      return `You moved from ${titleOf(ask.from)} to ${titleOf(ask.to)}.`
    case 'give-up':
      return `You gave up your seat at ${titleOf(ask.from)}.`
    case 'wait':
      return `You wait in line for ${titleOf(ask.to)}. When a seat comes free and it is your turn, you sit there by itself.`
    case 'leave-line':
      return `You no longer wait for ${titleOf(ask.from)}.`
  }
}
