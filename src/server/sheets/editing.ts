import type { ComposeView } from '../../contract/sheets.ts'
import type { Instant } from '../../core/instant.ts'
import type { Course } from '../courses/store.ts'
import type { Db } from '../db/open.ts'
import { ProblemError } from '../http/problem.ts'
import type { Hub } from '../live/hub.ts'
import type { Enrolment, Person } from '../roster/store.ts'
import { type SeatedFromLine, serveLines } from '../seats/lines.ts'
import type { Stores } from '../stores.ts'
import type { Edit } from './edit.ts'
import type { Sheet } from './store.ts'
import { composeView } from './views.ts'

/** What a route knows when it edits a sheet. */
export interface Editing {
  sheet: Sheet
  course: Course
  person: Person
  enrolment: Enrolment
  now: Instant
}

export type RunEdit = (context: Editing, change: (edit: Edit) => void, putAway?: 'allowed') => ComposeView

/** Makes the way in which edits run: in one transaction, told to the open pages, answered with the sheet as it stands. */
export function createEditing(
  db: Db,
  stores: Stores,
  hub: Hub,
  seatedFromLine: (seated: readonly SeatedFromLine[]) => void,
): RunEdit {
  return ({ sheet, course, person, enrolment, now }, change, putAway) => {
    const fresh = () => stores.sheets.byId(sheet.id) ?? sheet
    const seated = db
      .transaction(() => {
        const current = fresh()
        if (current.archived_at !== null && putAway !== 'allowed') {
          throw new ProblemError('sheet-archived', 'The sheet is archived. Restore it before you change it.')
        }
        change({ sheet: current, course, person, now, stores })
        // An edit may have made room for those who wait.
        return serveLines(sheet.id, now, stores)
      })
      .immediate()
    seatedFromLine(seated)
    hub.touched(sheet.id)
    return composeView(fresh(), course, enrolment, now, stores)
  }
}
