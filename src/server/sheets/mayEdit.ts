import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from './store.ts'

/** Whether a reader's page offers changes: to instructors, as long as the sheet is not archived. */
export const mayEdit = ({ role }: Enrolment, { archived_at }: Sheet): boolean =>
  role === 'instructor' && archived_at === null
