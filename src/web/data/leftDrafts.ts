import type { Known } from './draft.ts'
import { forgetKept, type TabStorage } from './tabKept.ts'

/** What was written and is not kept yet, over what the server then had. */
export interface Left<Value> {
  value: Value
  base: Known<Value>
  /** What was sent over it without an answer, and may have arrived. */
  unheard?: readonly Value[]
}

const PREFIX = 'haplon.draft.'

/** What is written and not kept yet, held in the tab for each person, so that a reload loses none of it. */
export function createLeftDrafts(storage: () => TabStorage | null, owner: () => string) {
  const place = (key: string) => `${PREFIX}${owner()}.${key}`
  return {
    keep(key: string, left: Left<unknown>): void {
      try {
        storage()?.setItem(place(key), JSON.stringify(left))
      } catch {
        // A full storage keeps nothing over a reload; the page still holds it.
      }
    },
    drop(key: string): void {
      try {
        storage()?.removeItem(place(key))
      } catch {
        // What cannot be reached holds nothing either.
      }
    },
    /** What an earlier page of this tab wrote and could not keep; null where that is nothing, or not readable. */
    of(key: string): Left<unknown> | null {
      try {
        return JSON.parse(storage()?.getItem(place(key)) ?? 'null')
      } catch {
        return null
      }
    },
    /** Forgets everything, whoever wrote it. */
    forget(): void {
      forgetKept(storage(), PREFIX)
    },
  }
}
