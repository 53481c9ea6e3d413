import type { ComposeView } from '../../contract/sheets.ts'
import type { Instant } from '../../core/instant.ts'
import type { Course } from '../courses/store.ts'
import type { Enrolment, Person } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
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

/** Makes the way in which what is composed is edited: one change of the sheet, answered with it as it then stands. */
export function createEditing(unit: UnitOfWork, stores: Stores): RunEdit {
  return ({ sheet, course, person, enrolment, now }, change, putAway) => {
    unit.onSheet(sheet, now, (current) => change({ sheet: current, course, person, now, stores }), putAway)
    return composeView(stores.sheets.byId(sheet.id) ?? sheet, course, enrolment, now, stores)
  }
}
