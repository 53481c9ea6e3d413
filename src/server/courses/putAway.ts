import { note } from '../sheets/edit.ts'
import type { CourseChange } from './sections.ts'

/**
 * Puts a course away with all its sheets, or takes it out again with those that went away with it: a sheet that was
 * archived by itself stays so. The caller holds the transaction.
 */
export function putAway(change: CourseChange, archived: boolean): void {
  const { course, now, stores } = change
  if ((course.archived_at !== null) === archived) return
  for (const sheet of stores.sheets.ofCourse(course.id)) {
    if (archived ? sheet.archived_at !== null : sheet.archived_at !== course.archived_at) continue
    stores.sheets.archive(sheet.id, archived ? now : null)
    note({ sheet, ...change }, archived ? 'sheet-archived' : 'sheet-unarchived', {})
  }
  stores.courses.archive(course.id, archived ? now : null)
}

/** Deletes a course for everybody, or brings it back. Whatever waits to be sent or done on its sheets is not. */
export function setDeleted(change: CourseChange, deleted: boolean): void {
  const { course, now, stores } = change
  for (const sheet of stores.sheets.ofCourse(course.id)) {
    if (deleted ? sheet.archived_at !== null : sheet.archived_at !== course.deleted_at) continue
    stores.sheets.archive(sheet.id, deleted ? now : null)
    note({ sheet, ...change }, deleted ? 'sheet-archived' : 'sheet-unarchived', {})
  }
  stores.courses.setDeleted(course.id, deleted ? now : null)
}
