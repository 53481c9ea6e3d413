import { forgetKept, type TabStorage } from './tabKept.ts'

const PREFIX = 'haplon.answer.'
/** Whose they are; no route has such a path. */
const OWNER = `${PREFIX}of`

/**
 * The newest answers of pages that go on without a connection, held in the tab so that a reload without one shows them.
 * They go with the sign-out, as drafts do, and are shown only where the server cannot be reached.
 */
export function createKeptAnswers(storage: () => TabStorage | null) {
  const forget = () => forgetKept(storage(), PREFIX)
  return {
    /** Says who reads here: what was kept for somebody else is forgotten. */
    readBy(person: string): void {
      const kept = storage()
      if (!kept || kept.getItem(OWNER) === person) return
      if (kept.getItem(OWNER) !== null) forget()
      try {
        kept.setItem(OWNER, person)
      } catch {
        forget()
      }
    },
    keep(key: string, answer: unknown): void {
      try {
        storage()?.setItem(PREFIX + key, JSON.stringify(answer))
      } catch {
        // A full storage keeps nothing over a reload.
      }
    },
    /** What was kept under a key; null where that is nothing, or not readable. */
    of(key: string): unknown {
      try {
        return JSON.parse(storage()?.getItem(PREFIX + key) ?? 'null')
      } catch {
        return null
      }
    },
    /** Forgets everything, whosever it is. */
    forget,
  }
}
