import type { ComposeView } from '../../../contract/sheets.ts'
import type { Done } from '../../data/acts.ts'
import type { Fault } from '../../data/call.ts'
import type { DraftState } from '../../data/draft.ts'
import { useDraft } from '../../data/useDraft.ts'
import { typedFault } from '../../kit/TimeField.tsx'

/** Milliseconds after the last key before a field is kept. */
const PAUSE = 500

/** What a field keeps: its name among what is written, what the server has of it, and how it is sent and read. */
export interface FieldOf<Value> {
  /** Names it among everything that is written in this tab. */
  key: string
  value: Value
  /** Sends it; `was` is what the writer saw. */
  keep: (value: Value, was: Value) => Promise<Done<ComposeView>>
  /** The field in a view of the sheet. */
  read: (view: ComposeView) => Value
  /** Asks for the sheet anew, after somebody else changed it. */
  refetch: () => void
}

/** A field that keeps itself. */
export interface Field<Value = string> {
  value: Value
  state: DraftState
  fault: Fault | null
  /** What somebody else put there meanwhile; null when nobody did. */
  theirs: Value | null
  /** True while something typed is not kept yet. */
  typed: boolean
  change: (value: Value) => void
  flush: () => void
  /** Takes what the server has. */
  drop: () => void
  /** Keeps what was typed over what somebody else put there. */
  insist: () => void
}

/**
 * A field of Compose on the one draft engine: it keeps itself after a pause or when it is left, holds what was typed
 * until the server has it, asks where somebody else changed the same, and can be undone.
 */
export function useField<Value>(
  { key, value, keep, read, refetch }: FieldOf<Value>,
  pause = PAUSE,
  ready?: (value: Value) => boolean,
): Field<Value> {
  const draft = useDraft<Value>(
    key,
    {
      pause,
      ...(ready && { ready }),
      meanwhile: ['changed-meanwhile'],
      fetch: refetch,
      send: async (written, seen) => {
        const was = JSON.parse(String(seen)) as Value
        const done = await keep(written, was)
        if (done.fault) {
          if (!done.declined) throw done.fault
          // The writer said no to what it would do: the field is what it was.
          return known(was)
        }
        return known(read(done.answer))
      },
    },
    known(value),
  )
  return {
    value: draft.value,
    state: draft.state,
    fault: draft.state === 'refused' ? draft.fault : null,
    theirs: draft.theirs,
    typed: draft.state !== 'kept',
    change: draft.write,
    flush: () => void draft.flush(),
    drop: () => (draft.state === 'beside' ? draft.decide('theirs') : draft.drop()),
    insist: () => draft.decide('mine'),
  }
}

/** A choice: kept at once. */
export function useChoice<Value>(of: FieldOf<Value>): Field<Value> {
  return useField(of, 0)
}

/** A day and a time, or nothing: what is on the way to one is never sent. */
export function useTimeField(of: FieldOf<string>): Field {
  return useField(of, PAUSE, (typed) => typedFault(typed) === null)
}

/** What the server has: its own value names its state. */
function known<Value>(value: Value) {
  return { value, version: JSON.stringify(value), at: 0 }
}
