import { useMemo, useRef } from 'react'
import type { StudentGroup, StudentSheet } from '../../contract/seats.ts'
import { type ClaimAsk, type ClaimFacts, type ClaimRefusal, decideClaim } from '../../core/claim.ts'
import { seatsLeft } from '../../core/limit.ts'
import type { SheetState } from '../../core/window.ts'

/**
 * What a claim would run against, as far as the page knows: the same facts that the server holds, so that the page
 * offers what would be granted. The server decides all the same.
 */
export function factsFor(
  view: StudentSheet,
  state: SheetState,
  to: StudentGroup | undefined,
): ClaimFacts<string> {
  const held = view.seats.flatMap(({ group, bound }) => {
    const known = view.groups.find(({ code }) => code === group)
    return known ? [{ group, startsAt: known.startsAt, endsAt: known.endsAt, bound }] : []
  })
  // The page lists only groups that are offered to the student, whatever their section.
  const target = to && {
    section: null,
    offered: true,
    seats: to.seats,
    taken: to.taken,
    held: to.held,
    line: to.waiting - (to.yourPlace === null ? 0 : 1),
    startsAt: to.startsAt,
    endsAt: to.endsAt,
  }
  return {
    state,
    rules: view.rules,
    role: 'student',
    active: true,
    section: null,
    held,
    waiting: view.groups.filter(({ yourPlace }) => yourPlace !== null).map(({ code }) => code),
    target: target ?? null,
  }
}

/** What the one button of a group does, and why it is missing where there is none. */
export type Offer =
  | { kind: 'take' }
  /** Moving; with several seats the student says which one is left. */
  | { kind: 'move'; from: string[] }
  | { kind: 'ask'; from: string[] }
  | { kind: 'wait' }
  /** Waiting already; the place counts from 1. */
  | { kind: 'in-line'; place: number }
  | { kind: 'none'; because: ClaimRefusal | null }

/** What a student can do about a group. */
export function offerOf(view: StudentSheet, state: SheetState, group: StudentGroup): Offer {
  const facts = factsFor(view, state, group)
  const verdict = (ask: ClaimAsk<string>) => decideClaim(ask, facts)
  if (view.seats.some((seat) => seat.group === group.code)) return { kind: 'none', because: null }
  if (group.yourPlace !== null) return { kind: 'in-line', place: group.yourPlace }
  if (verdict({ kind: 'wait', to: group.code }).granted) return { kind: 'wait' }
  const taking = verdict({ kind: 'take', to: group.code })
  if (taking.granted) return { kind: 'take' }
  if (taking.reason !== 'seat-limit-reached' && taking.reason !== 'time-clash') {
    return { kind: 'none', because: taking.reason }
  }
  const moves = view.seats.map((seat) => ({
    from: seat.group,
    verdict: verdict({ kind: 'move', from: seat.group, to: group.code }),
  }))
  const granted = moves.filter((move) => move.verdict.granted).map(({ from }) => from)
  if (granted.length > 0) return { kind: 'move', from: granted }
  const refusal =
    moves
      .map((move) => (move.verdict.granted ? null : move.verdict.reason))
      .find((reason) => reason !== null) ?? taking.reason
  const room = seatsLeft(group.seats, group.taken, group.held) > 0
  if (refusal === 'change-only-by-asking' && room && view.request?.state !== 'open') {
    return { kind: 'ask', from: view.seats.map((seat) => seat.group) }
  }
  return { kind: 'none', because: refusal }
}

/** The offers of all groups of a sheet by code; one that says the same as before is the same object. */
export function useOffers(view: StudentSheet, state: SheetState): ReadonlyMap<string, Offer> {
  const before = useRef<ReadonlyMap<string, Offer>>(new Map())
  const offers = useMemo(() => {
    const now = new Map(
      view.groups.map((group) => {
        const offer = offerOf(view, state, group)
        const known = before.current.get(group.code)
        return [group.code, known && JSON.stringify(known) === JSON.stringify(offer) ? known : offer] as const
      }),
    )
    before.current = now
    return now
  }, [view, state])
  return offers
}
