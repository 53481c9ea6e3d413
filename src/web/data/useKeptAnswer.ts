import { useSyncExternalStore } from 'react'
import useSWR, { type SWRConfiguration } from 'swr'
import type { Access, Params, Route } from '../../contract/route.ts'
import { keyOf } from './answers.ts'
import { REHEARSED } from './base.ts'
import { call, type Fault, faultOf } from './call.ts'
import { createKeptAnswers } from './keptAnswers.ts'

const kept = createKeptAnswers(() =>
  typeof sessionStorage === 'undefined' || REHEARSED ? null : sessionStorage,
)
/** Keys whose newest answer is one that was kept, because the server could not be reached. */
const outOfReach = new Set<string>()
const readers = new Set<() => void>()

function note(key: string, lost: boolean): void {
  if (outOfReach.has(key) === lost) return
  if (lost) outOfReach.add(key)
  else outOfReach.delete(key)
  for (const reader of readers) reader()
}

/** Says who reads here: answers that were kept for somebody else are forgotten. */
export function answersOf(person: string): void {
  kept.readBy(person)
}

/** Forgets the answers that are kept in this tab. */
export function forgetAnswers(): void {
  kept.forget()
}

/** Asks for an answer and keeps it; the one that was kept where the server cannot be reached. */
export async function keptCall<Path extends string, Who extends Access, Answer>(
  route: Route<Path, Who, null, Answer>,
  params: Params<Path>,
): Promise<Answer> {
  const key = keyOf(route, params)
  try {
    const fresh = await call(route, params)
    kept.keep(key, fresh)
    note(key, false)
    return fresh
  } catch (error) {
    const fault = faultOf(error)
    const before = fault.code === 'no-connection' ? kept.of(key) : null
    if (before === null) throw fault
    note(key, true)
    return before as Answer
  }
}

/**
 * Reads a route as `useAnswer` does, and keeps its answer in the tab: where the server cannot be reached, also after a
 * reload, the one that was kept is given, and `lost` says so.
 */
export function useKeptAnswer<Path extends string, Who extends Access, Answer>(
  route: Route<Path, Who, null, Answer>,
  params: Params<Path>,
  options?: SWRConfiguration<Answer, Fault>,
) {
  const key = keyOf(route, params)
  const answer = useSWR<Answer, Fault>(key, () => keptCall(route, params), options)
  const lost = useSyncExternalStore(
    (reader) => {
      readers.add(reader)
      return () => readers.delete(reader)
    },
    () => outOfReach.has(key),
  )
  return { ...answer, lost }
}
