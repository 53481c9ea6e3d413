import { useCallback, useEffect, useRef, useSyncExternalStore } from 'react'
import { REHEARSED } from './base.ts'
import type { Draft, DraftRules, DraftState, Known } from './draft.ts'
import { createDrafts } from './drafts.ts'
import { beWhose, whose } from './whose.ts'

/** Everything that is written in this tab. */
export const drafts = createDrafts(
  // What is typed in a rehearsal is kept no longer than its pages.
  () => (typeof sessionStorage === 'undefined' || REHEARSED ? null : sessionStorage),
  whose,
)

/**
 * Says whose pages this tab shows; true where they were somebody else's before. What those left is not taken up, and
 * what they wrote and was not sent yet goes out in nobody's name: it stays in the tab under theirs.
 */
export function pagesOf(person: string): boolean {
  const another = beWhose(person)
  if (another) drafts.letGo()
  return another
}

if (typeof window !== 'undefined') {
  window.addEventListener('pagehide', () => drafts.flushAll())
  window.addEventListener('online', () => drafts.flushAll())
  document.addEventListener('visibilitychange', () => document.hidden && drafts.flushAll())
}

/** A draft with what can be done to it. */
export interface Writing<Value> extends Draft<Value> {
  write: (value: Value) => void
  /** Sends at once; true when everything is kept. */
  flush: () => Promise<boolean>
  decide: (whose: 'mine' | 'theirs') => void
  drop: () => void
}

/**
 * Something that is written and keeps itself, as `createDrafts` says.
 * @param key names what is written, in this tab
 * @param known what the server has
 */
export function useDraft<Value>(key: string, rules: DraftRules<Value>, known: Known<Value>): Writing<Value> {
  const first = drafts.open(key, rules, known)
  const newest = useRef({ rules, known })
  newest.current = { rules, known }
  const draft = useSyncExternalStore(
    useCallback(
      (reader: () => void) => {
        drafts.open(key, newest.current.rules, newest.current.known)
        return drafts.read(key, reader)
      },
      [key],
    ),
    () => drafts.shown<Value>(key) ?? first,
  )
  const mark = `${known.version} ${JSON.stringify(known.value)}`
  // biome-ignore lint/correctness/useExhaustiveDependencies: heard once for each thing that is said
  useEffect(() => drafts.heard(key, newest.current.known), [key, mark])
  return {
    ...draft,
    write: useCallback((value: Value) => drafts.write(key, value), [key]),
    flush: useCallback(() => drafts.flush(key), [key]),
    decide: useCallback((whose: 'mine' | 'theirs') => drafts.decide(key, whose), [key]),
    drop: useCallback(() => drafts.drop(key), [key]),
  }
}

/**
 * Something half written that only this tab keeps until it is sent as a whole: a post, a letter, a form. It survives
 * closing its field, leaving the page and a reload.
 */
export function useUnsent<Value>(key: string, empty: Value): Writing<Value> {
  return useDraft(key, LOCAL as unknown as DraftRules<Value>, { value: empty, version: null, at: 0 })
}

/** How everything stands that is written under a prefix of keys. */
export function useWorst(prefix: string): DraftState {
  return useSyncExternalStore(drafts.watch, () => drafts.worst(prefix))
}

const LOCAL: DraftRules<never> = { pause: 0 }
