import { seatsLeft } from './limit.ts'
import type { Changing, Offers } from './rules.ts'
import { overlaps, type Slot } from './times.ts'
import type { SheetState } from './window.ts'

/** Why a claim is refused. One code per reason; the words for each are in `contract/problems.ts`. */
export type ClaimRefusal =
  | 'sheet-not-published'
  | 'window-not-open-yet'
  | 'window-closed'
  | 'sheet-archived'
  | 'not-a-student'
  | 'enrolment-not-active'
  | 'group-not-found'
  | 'other-section'
  | 'already-seated-here'
  | 'seat-limit-reached'
  | 'change-only-by-asking'
  | 'change-not-allowed'
  | 'time-clash'
  | 'group-not-offered'
  | 'seat-not-held'
  | 'group-full'

/** What a student asks for. Groups are named by any key; the core only compares keys. */
export type ClaimAsk<Key> =
  | { kind: 'take'; to: Key }
  | { kind: 'move'; from: Key; to: Key }
  | { kind: 'give-up'; from: Key }

/** What must be known to decide a claim, as it stands when the claim's turn comes. */
export interface ClaimFacts<Key> {
  state: SheetState
  /** The house rules that a claim can run against. */
  rules: { seatsEach: number; changing: Changing; offers: Offers }
  role: 'student' | 'tutor' | 'instructor'
  active: boolean
  /** The student's section, or null without one. */
  section: Key | null
  /** Groups of this sheet in which the student sits, with their dates. */
  held: readonly (Slot & { group: Key })[]
  /** The group asked for, or null when the sheet has no such group. Not looked at when giving up. */
  target: (Slot & ClaimTarget<Key>) | null
}

/** The group in which a seat is wanted. */
export interface ClaimTarget<Key> {
  section: Key | null
  offered: boolean
  /** The limit; NO_LIMIT for none. */
  seats: number
  taken: number
  /** Seats kept free for others than this student. */
  held: number
}

/** The answer to a claim: granted, with the change to write, or refused, with the reason. */
export type ClaimVerdict = { granted: true } | { granted: false; reason: ClaimRefusal }

const GRANTED: ClaimVerdict = { granted: true }
const refused = (reason: ClaimRefusal): ClaimVerdict => ({ granted: false, reason })

const CLOSED_BY_STATE: Partial<Record<SheetState, ClaimRefusal>> = {
  draft: 'sheet-not-published',
  scheduled: 'window-not-open-yet',
  closed: 'window-closed',
  archived: 'sheet-archived',
}

/**
 * May this student take, move to or give up this seat?
 * Asked once per claim, inside the transaction that writes the answer. Changes nothing and knows no clock:
 * the sheet's state comes in with the facts. A refused move leaves the old seat as it was.
 */
export function decideClaim<Key>(ask: ClaimAsk<Key>, facts: ClaimFacts<Key>): ClaimVerdict {
  const shut = CLOSED_BY_STATE[facts.state]
  if (shut) return refused(shut)
  if (facts.role !== 'student') return refused('not-a-student')
  if (!facts.active) return refused('enrolment-not-active')
  if (ask.kind !== 'take') {
    if (!facts.held.some(({ group }) => group === ask.from)) return refused('seat-not-held')
    if (facts.rules.changing === 'by-asking') return refused('change-only-by-asking')
    if (facts.rules.changing === 'never') return refused('change-not-allowed')
  }
  if (ask.kind === 'give-up') return GRANTED
  return decideTarget(ask, facts)
}

function decideTarget<Key>(
  ask: Exclude<ClaimAsk<Key>, { kind: 'give-up' }>,
  { target, held, section, rules }: ClaimFacts<Key>,
): ClaimVerdict {
  if (target === null) return refused('group-not-found')
  if (held.some(({ group }) => group === ask.to)) return refused('already-seated-here')
  if (!target.offered) return refused('group-not-offered')
  const elsewhere = target.section !== null && target.section !== section
  if (elsewhere && rules.offers === 'section') return refused('other-section')
  if (ask.kind === 'take' && held.length >= rules.seatsEach) return refused('seat-limit-reached')
  const kept = ask.kind === 'move' ? held.filter(({ group }) => group !== ask.from) : held
  if (kept.some((slot) => overlaps(slot, target))) return refused('time-clash')
  if (seatsLeft(target.seats, target.taken, target.held) === 0) return refused('group-full')
  return GRANTED
}
