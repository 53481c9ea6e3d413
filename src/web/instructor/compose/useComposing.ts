import { useMemo } from 'react'
import type { Restored } from '../../../contract/restored.ts'
import { type ComposeView, changeSheet, type SheetChanges } from '../../../contract/sheets.ts'
import { changeGroup, changeTopic, type GroupChanges, type TopicChanges } from '../../../contract/topics.ts'
import type { Deed, Done } from '../../data/acts.ts'
import { call } from '../../data/call.ts'
import { useActs } from '../../kit/Acting.tsx'
import { restoredWords } from '../restored.ts'

/** Something that is done to a sheet and answered with it. */
export type SheetDeed = Omit<Deed<ComposeView>, 'put' | 'line'>

/** What Compose changes of a sheet: each change with what it was, so that it undoes itself and nothing else. */
export interface Composing {
  do: (deed: SheetDeed) => Promise<Done<ComposeView>>
  /** Changes of the sheet itself. */
  sheet: (changes: SheetChanges, was: SheetChanges) => Promise<Done<ComposeView>>
  topic: (topic: string, changes: TopicChanges, was: TopicChanges) => Promise<Done<ComposeView>>
  group: (group: string, changes: GroupChanges, was: GroupChanges) => Promise<Done<ComposeView>>
  undo: () => void
  redo: () => void
  refetch: () => void
}

/**
 * Sends what is changed one after the other, in the order in which it was done, and puts the sheet in place that each
 * answers with.
 */
export function useComposing(
  sheet: string,
  put: (view: ComposeView) => void,
  refetch: () => void,
): Composing {
  const acts = useActs()
  return useMemo(() => {
    const act = (deed: SheetDeed) => acts.do<ComposeView>({ ...deed, put, line: 'compose' })
    /** A change of fields: undone by what was there, as long as nobody else changed it since. */
    const change = <Fields extends object>(
      send: (body: Fields & { was: Fields; confirmed: boolean }) => Promise<ComposeView>,
      changes: Fields,
      was: Fields,
    ) =>
      act({
        work: (confirmed) => send({ ...changes, was, confirmed }),
        undo: (confirmed) => send({ ...was, was: changes, confirmed }),
        beside: true,
      })
    return {
      do: act,
      sheet: (changes, was) => change((body) => call(changeSheet, { sheet }, body), changes, was),
      topic: (topic, changes, was) =>
        change((body) => call(changeTopic, { sheet, topic }, body), changes, was),
      group: (group, changes, was) =>
        change((body) => call(changeGroup, { sheet, group }, body), changes, was),
      undo: () => void acts.undo(),
      redo: () => void acts.redo(),
      refetch,
    }
  }, [acts, sheet, put, refetch])
}

/** Closes a group, or offers it again; an undo brings back those who sat there, as far as they can return. */
export function closeOrOpen(
  { code: sheet, composing }: { code: string; composing: Composing },
  group: string,
  what: string,
  offered: boolean,
): Promise<Done<ComposeView>> {
  let restored: Restored | undefined
  return composing.do({
    work: (confirmed) =>
      call(changeGroup, { sheet, group }, { offered, was: { offered: !offered }, confirmed }),
    undo: async (confirmed) => {
      const body = { offered: !offered, was: { offered }, bringBack: !offered, confirmed }
      const view = await call(changeGroup, { sheet, group }, body)
      restored = view.restored
      return view
    },
    ask: { title: `Close ${what}?`, yes: 'Close group' },
    said: offered ? `${what} is offered.` : `${what} is not offered any more.`,
    saidUndone: () => (restored ? restoredWords(what, restored) : ''),
    beside: true,
  })
}
