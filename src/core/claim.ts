import { type Misfit, misfitsOf } from './fits.ts'
import type { Changing, FullGroups, Offers, Road } from './rules.ts'
import type { Slot } from './times.ts'
import type { SheetState } from './window.ts'

/** Why a claim is refused. One code per reason; the words for each are in `contract/problems.ts`. */
export type ClaimRefusal =
  | 'sheet-not-published'
  | 'window-not-open-yet'
  | 'window-closed'
  | 'sheet-archived'
  | 'groups-are-made'
  | 'seats-by-wishes'
  | 'not-a-student'
  | 'enrolment-not-active'
  | 'group-not-found'
  | 'other-section'
  | 'already-seated-here'
  | 'seat-limit-reached'
  | 'change-only-by-asking'
  | 'change-not-allowed'
  | 'work-handed-in'
  | 'time-clash'
  | 'group-not-offered'
  | 'seat-not-held'
  | 'group-full'
  | 'line-goes-first'
  | 'no-waiting-line'
  | 'seat-is-free'
  | 'already-in-line'
  | 'not-in-line'

/** What a student asks for. Groups are named by any key; the core only compares keys. */
export type ClaimAsk<Key> =
  | { kind: 'take'; to: Key }
  | { kind: 'move'; from: Key; to: Key }
  | { kind: 'give-up'; from: Key }
  | { kind: 'wait'; to: Key }
  | { kind: 'leave-line'; from: Key }

/** What must be known to decide a claim, as it stands when the claim's turn comes. */
export interface ClaimFacts<Key> {
  state: SheetState
  /** The house rules that a claim can run against. */
  rules: { road?: Road; seatsEach: number; changing: Changing; offers: Offers; fullGroups: FullGroups }
  role: 'student' | 'tutor' | 'instructor'
  active: boolean
  /** The student's section, or null without one. */
  section: Key | null
  /** Groups of this sheet in which the student sits, with their dates. */
  held: readonly (Slot & {
    group: Key /** Whether its work is handed in, so that nobody leaves. */
    bound?: boolean
  })[]
  /** Groups in whose lines the student waits. */
  waiting: readonly Key[]
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
  /** People who wait in line for it, this student left out. */
  line: number
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
  if (facts.rules.road === 'made' && shut !== 'sheet-not-published' && shut !== 'sheet-archived')
    return refused('groups-are-made')
  if (facts.rules.road === 'wished' && !shut) return refused('seats-by-wishes')
  if (shut) return refused(shut)
  if (facts.role !== 'student') return refused('not-a-student')
  if (!facts.active) return refused('enrolment-not-active')
  switch (ask.kind) {
    case 'leave-line':
      return facts.waiting.includes(ask.from) ? GRANTED : refused('not-in-line')
    case 'give-up':
      return decideLeaving(ask.from, facts)
    case 'take':
      return decideTarget(ask.to, null, facts) ?? decideSeat(facts)
    case 'move': {
      const leaving = decideLeaving(ask.from, facts)
      return leaving.granted ? (decideTarget(ask.to, ask.from, facts) ?? decideSeat(facts)) : leaving
    }
    case 'wait':
      return decideWaiting(ask.to, facts)
  }
}

/** May the student leave this seat? */
function decideLeaving<Key>(from: Key, { held, rules }: ClaimFacts<Key>): ClaimVerdict {
  const seat = held.find(({ group }) => group === from)
  if (!seat) return refused('seat-not-held')
  if (rules.changing === 'by-asking') return refused('change-only-by-asking')
  if (rules.changing === 'never') return refused('change-not-allowed')
  if (seat.bound) return refused('work-handed-in')
  return GRANTED
}

/** What, besides room, speaks against a seat in the target; null when nothing does. `from` is the seat left for it. */
function decideTarget<Key>(to: Key, from: Key | null, facts: ClaimFacts<Key>): ClaimVerdict | null {
  const { target, held, rules } = facts
  if (target === null) return refused('group-not-found')
  if (held.some(({ group }) => group === to)) return refused('already-seated-here')
  const misfits = misfitsIn(target, from, facts)
  if (misfits.includes('not-offered')) return refused('group-not-offered')
  if (misfits.includes('other-section')) return refused('other-section')
  if (from === null && held.length >= rules.seatsEach) return refused('seat-limit-reached')
  return misfits.includes('time-clash') ? refused('time-clash') : null
}

/** Is there a seat that nobody waits for? */
function decideSeat<Key>(facts: ClaimFacts<Key>): ClaimVerdict {
  const { target } = facts
  if (target === null || isFull(target, facts)) return refused('group-full')
  return target.line > 0 ? refused('line-goes-first') : GRANTED
}

function isFull<Key>(target: Slot & ClaimTarget<Key>, facts: ClaimFacts<Key>): boolean {
  return misfitsIn(target, null, facts).includes('full')
}

function misfitsIn<Key>(
  target: Slot & ClaimTarget<Key>,
  from: Key | null,
  { held, section, rules }: ClaimFacts<Key>,
): Misfit[] {
  const kept = held.filter(({ group }) => group !== from)
  return misfitsOf({ ...target, kept: target.held }, section, rules.offers, kept)
}

/**
 * May the student wait for a seat here? Somebody who already holds as many seats as the rules let them waits for a
 * move, which is clear only where there is one seat to leave, and allowed only where seats may change.
 */
function decideWaiting<Key>(to: Key, facts: ClaimFacts<Key>): ClaimVerdict {
  const { rules, held, waiting, target } = facts
  if (rules.fullGroups !== 'line') return refused('no-waiting-line')
  const [only] = held
  const moving = held.length >= rules.seatsEach && only !== undefined
  if (moving && held.length > 1) return refused('seat-limit-reached')
  if (moving) {
    const leaving = decideLeaving(only.group, facts)
    if (!leaving.granted) return leaving
  }
  const against = decideTarget(to, moving ? only.group : null, facts)
  if (against) return against
  if (waiting.includes(to)) return refused('already-in-line')
  const free = target !== null && !isFull(target, facts) && target.line === 0
  return free ? refused('seat-is-free') : GRANTED
}
