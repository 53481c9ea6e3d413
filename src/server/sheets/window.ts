import type { SheetWindow } from '../../core/window.ts'
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
