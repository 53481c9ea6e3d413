import type { Instant } from '../../core/instant.ts'
import { type SheetWindow, sheetState } from '../../core/window.ts'
import type { Sheet } from './store.ts'

/** The instants that a sheet's state follows from, in the core's words. */
export function windowOf(sheet: Sheet): SheetWindow {
  return {
    publishedAt: sheet.published_at,
    opensAt: sheet.opens_at,
    closesAt: sheet.closes_at,
    archivedAt: sheet.archived_at,
  }
}

/** Whether students may know of the sheet: it is out, not deleted, and open or visible before it opens. */
export function visibleToStudents(sheet: Sheet, now: Instant): boolean {
  if (sheet.deleted_at !== null || sheet.published_at === null) return false
  return sheetState(windowOf(sheet), now) !== 'scheduled' || sheet.visible_before === 1
}
