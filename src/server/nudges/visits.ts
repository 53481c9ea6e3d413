import type { Instant } from '../../core/instant.ts'
import type { Db } from '../db/open.ts'
import type { NudgeStore } from './store.ts'

export type Visits = ReturnType<typeof createVisits>

/**
 * Notes who opens which sheet. Hundreds open one in the same minute, so that visits are gathered and written together;
 * a crash loses those of the last seconds.
 */
export function createVisits(db: Db, nudges: NudgeStore) {
  const gathered = new Map<string, { sheetId: number; enrolmentId: number; at: Instant }>()
  const writeAll = db.transaction(() => {
    for (const { sheetId, enrolmentId, at } of gathered.values()) nudges.visit(sheetId, enrolmentId, at)
  }).immediate
  return {
    /** Notes that a student opened a sheet. */
    note(sheetId: number, enrolmentId: number, at: Instant): void {
      gathered.set(`${sheetId} ${enrolmentId}`, { sheetId, enrolmentId, at })
    },
    /** Writes what was gathered. */
    flush(): void {
      if (gathered.size === 0) return
      writeAll()
      gathered.clear()
    },
  }
}
