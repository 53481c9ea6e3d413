import type { Fault } from './call.ts'
import type { Draft, DraftState, Known } from './draft.ts'

/** What is known of one thing that is written: a value that every step makes anew, so that each can be looked at alone. */
export interface Slot<Value> {
  /** The newest that the server is known to have; a change is sent over its version. */
  readonly server: Known<Value>
  /** What the writer began from: an earlier one than the server's while somebody else's stands beside it. */
  readonly base: Known<Value>
  /** What was written and is not kept yet; null where everything is. */
  readonly written: { readonly value: Value } | null
  /** What is on its way. */
  readonly sent: { readonly value: Value } | null
  /** What was sent over this version without an answer: the server may have one of them. */
  readonly unheard: readonly Value[]
  /** Whether the server was heard of since: it had none of them then, and may have one later. */
  readonly looked: boolean
  /** What was heard while something was on its way. */
  readonly later: Known<Value> | null
  /** What keeps it from being sent. */
  readonly held: 'no' | 'again' | 'refused' | 'asking' | 'beside'
  readonly fault: Fault | null
}

/** Lost sends that are remembered at most. */
const MOST_UNHEARD = 30

export type Merge<Value> = (base: Value, mine: Value, theirs: Value) => Value | null

/** A slot with nothing written. */
export function slotOf<Value>(server: Known<Value>): Slot<Value> {
  return {
    server,
    base: server,
    written: null,
    sent: null,
    unheard: [],
    looked: false,
    later: null,
    held: 'no',
    fault: null,
  }
}

/** Nothing is written any more: what the server has is what is shown. */
const settled = <Value>(slot: Slot<Value>, server = slot.server): Slot<Value> => ({
  ...slotOf(server),
  sent: slot.sent,
  unheard: slot.unheard,
  looked: slot.looked,
  later: slot.later,
})

/** Something was written. What the server surely has already need not be sent. */
export function wrote<Value>(slot: Slot<Value>, value: Value): Slot<Value> {
  if (!slot.sent && slot.unheard.length === 0 && same(value, slot.server.value)) return settled(slot)
  return { ...slot, written: { value }, held: slot.held === 'beside' ? 'beside' : 'no', fault: null }
}

/** What is written goes on its way. */
export function sending<Value>(slot: Slot<Value>): Slot<Value> {
  return { ...slot, sent: slot.written, held: 'no', fault: null }
}

/** The server has what was sent: nothing that was lost before can arrive any more, as the version moved on. */
export function answered<Value>(slot: Slot<Value>, known: Known<Value>, merge?: Merge<Value>): Slot<Value> {
  const { sent, written, later } = slot
  const all = written === null || same(written.value, sent?.value)
  const next: Slot<Value> = { ...slotOf(known), written: all ? null : written }
  return later && later.at > known.at ? heard(next, later, merge) : next
}

/** Nothing was heard of what was sent. `maybe`: the server may have it all the same. */
export function lost<Value>(
  slot: Slot<Value>,
  fault: Fault,
  maybe: boolean,
  merge?: Merge<Value>,
): Slot<Value> {
  const { sent, unheard } = slot
  const added = maybe && sent ? [...unheard, sent.value].slice(-MOST_UNHEARD) : unheard
  return caughtUp({ ...slot, sent: null, unheard: added, looked: false, held: 'again', fault }, merge)
}

/** The server said no. */
export function refused<Value>(slot: Slot<Value>, fault: Fault, merge?: Merge<Value>): Slot<Value> {
  return caughtUp({ ...slot, sent: null, held: slot.written ? 'refused' : 'no', fault }, merge)
}

/** The server said that somebody else changed it: what they made of it is asked for. */
export function overtaken<Value>(slot: Slot<Value>, merge?: Merge<Value>): Slot<Value> {
  return caughtUp({ ...slot, sent: null, held: 'asking', fault: null }, merge)
}

/** What was heard while something was on its way is heard now. */
function caughtUp<Value>(slot: Slot<Value>, merge?: Merge<Value>): Slot<Value> {
  return slot.later ? heard({ ...slot, later: null }, slot.later, merge) : slot
}

/**
 * What the server has by now. What was said before is no news; what was sent without an answer is the writer's own;
 * what somebody else made of it is laid over, or stands beside what was written until that is decided.
 */
export function heard<Value>(slot: Slot<Value>, theirs: Known<Value>, merge?: Merge<Value>): Slot<Value> {
  const { server, base, written, sent, unheard, later } = slot
  if (theirs.at < server.at) return slot
  // The same version is the same thing, even where the server put it down a little otherwise.
  if (theirs.version === server.version && (theirs.version !== null || same(theirs.value, server.value))) {
    return { ...slot, server: { ...server, at: theirs.at }, looked: !sent }
  }
  if (sent) return later && later.at > theirs.at ? slot : { ...slot, later: theirs }
  const fresh = { ...slotOf(theirs), written }
  if (!written || same(theirs.value, written.value)) return slotOf(theirs)
  if (unheard.some((one) => same(one, theirs.value)) || same(theirs.value, base.value)) return fresh
  const merged = merge?.(base.value, written.value, theirs.value) ?? null
  if (merged === null) return { ...fresh, base, held: 'beside' }
  return same(merged, theirs.value) ? slotOf(theirs) : { ...fresh, written: { value: merged } }
}

/** Where somebody else changed it meanwhile: one's own goes over it, or theirs holds. */
export function decided<Value>(slot: Slot<Value>, whose: 'mine' | 'theirs'): Slot<Value> {
  if (whose === 'theirs') return settled(slot)
  return { ...slot, base: slot.server, held: 'no', fault: null }
}

/** What was written is not wanted any more. What is on its way, or was lost, may arrive all the same. */
export const dropped = <Value>(slot: Slot<Value>): Slot<Value> => settled(slot)

/** Whether it is not known what the server has: something was sent without an answer, and nothing is written to follow it. */
export function isOpen({ written, sent, unheard, looked }: Slot<unknown>): boolean {
  return written === null && sent === null && unheard.length > 0 && !looked
}

/** What a page shows of it. */
export function shownOf<Value>(slot: Slot<Value>, whole: (value: Value) => boolean): Draft<Value> {
  const { written, server, held, fault } = slot
  return {
    value: written ? written.value : server.value,
    state: stateOf(slot, whole),
    fault,
    theirs: held === 'beside' ? server.value : null,
  }
}

function stateOf<Value>(slot: Slot<Value>, whole: (value: Value) => boolean): DraftState {
  const { written, sent, held } = slot
  if (held === 'beside') return 'beside'
  if (written && !whole(written.value)) return 'unfinished'
  if (sent) return 'saving'
  if (!written) return isOpen(slot) ? 'retrying' : 'kept'
  if (held === 'refused') return 'refused'
  return held === 'again' ? 'retrying' : 'waiting'
}

/** Whether two plain values are the same. */
function same(a: unknown, b: unknown): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b)
}
