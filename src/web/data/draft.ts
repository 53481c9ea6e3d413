import type { Fault } from './call.ts'

/** What the server has of something that is written. */
export interface Known<Value> {
  value: Value
  /** Names this state of it, so that a change over another one is refused; null where there is nothing yet. */
  version: string | number | null
  /** When the server said so, in its own milliseconds: what was said before is no news. */
  at: number
}

/** How something that is written is kept. */
export interface DraftRules<Value> {
  /** Milliseconds after the last change at which it is sent. */
  pause: number
  /**
   * Sends what was written over a version; gives what the server then has. Left out, it is kept in this tab alone.
   * @throws Fault when the server says no, or cannot be reached
   */
  send?: (value: Value, version: Known<Value>['version']) => Promise<Known<Value>>
  /** Whether what was written is whole; what is not is kept here and not sent. Left out, everything is. */
  ready?: (value: Value) => boolean
  /** Asks for what the server has, after it said that somebody else changed it. */
  fetch?: () => void
  /** Codes of faults that mean that somebody else changed it meanwhile. */
  meanwhile?: readonly string[]
  /**
   * Lays what was written over what somebody else made of the same beginning; null where it cannot be laid over.
   * Left out, nothing can.
   */
  merge?: (base: Value, mine: Value, theirs: Value) => Value | null
}

/** How a draft stands. */
export type DraftState =
  /** Everything is kept. */
  | 'kept'
  /** Written, but not whole: not sent before it is. */
  | 'unfinished'
  /** Written, and sent in a moment. */
  | 'waiting'
  /** On its way. */
  | 'saving'
  /** Not kept yet, because nothing was heard; tried again by itself. */
  | 'retrying'
  /** Not kept, because the server said no; the fault says why. */
  | 'refused'
  /** Not kept, because somebody else changed it meanwhile; theirs is beside it. */
  | 'beside'

/** A draft as a page shows it. */
export interface Draft<Value> {
  value: Value
  state: DraftState
  fault: Fault | null
  /** What somebody else made of it meanwhile, where it could not be laid over. */
  theirs: Value | null
}

/** States by how much they need somebody. */
const BY_NEED: readonly DraftState[] = ['refused', 'beside', 'unfinished', 'retrying', 'saving', 'waiting']

/** The state that needs somebody most. */
export function neediest(states: ReadonlySet<DraftState>): DraftState {
  return BY_NEED.find((state) => states.has(state)) ?? 'kept'
}

/** The state of a draft in words, in one place for every page. */
export function draftWords({ state, fault }: Pick<Draft<unknown>, 'state' | 'fault'>): string {
  switch (state) {
    case 'kept':
      return 'Saved'
    case 'unfinished':
      return 'Not saved: it is not whole yet.'
    case 'waiting':
    case 'saving':
      return 'Saving…'
    case 'retrying':
      return fault?.problem.status === 401
        ? 'Not saved yet: you were signed out. It is kept here until you sign in again.'
        : 'Not saved yet, trying again.'
    case 'refused':
      return `Not saved: ${fault?.message ?? 'the server refused it.'}`
    case 'beside':
      return 'Not saved: somebody else changed it meanwhile.'
  }
}
