import type { Known } from './draft.ts'

/** Where what is written survives a reload; a page's session storage. */
export type DraftStorage = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'>

/** What was written and is not kept yet, over what the server then had. */
export interface Left {
  value: unknown
  base: Known<unknown>
}

const PREFIX = 'haplon.draft.'

/** What is written and not kept yet, held in the tab for each person, so that a reload loses none of it. */
export function createLeftDrafts(storage: () => DraftStorage | null, owner: () => string) {
  const place = (key: string) => `${PREFIX}${owner()}.${key}`
  return {
    keep(key: string, left: Left): void {
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
    of(key: string): Left | null {
      try {
        return JSON.parse(storage()?.getItem(place(key)) ?? 'null')
      } catch {
        return null
      }
    },
    /** Forgets everything, whoever wrote it. */
    forget(): void {
      const kept = storage()
      if (!kept) return
      const keys = Array.from({ length: kept.length }, (_, i) => kept.key(i) ?? '')
      for (const key of keys) if (key.startsWith(PREFIX)) kept.removeItem(key)
    },
  }
}
