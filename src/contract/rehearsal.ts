import { plainRoute } from './route.ts'
import type { StudentSheet } from './seats.ts'

/** What a rehearsal starts from: the sheet as a student would get it, and what the page needs to play on by itself. */
export interface Rehearsal {
  view: StudentSheet
  /** As whom: a name, or the invented student of a section. */
  as: string
  /** Whether the invented or real student is one of the roster. */
  real: boolean
  /** Names in each group, for what the house rules would show once a seat is taken. */
  names: Record<string, string[]>
}

/**
 * The sheet as a student would see it, before and after publishing; drafts are shown as if they were open.
 * `?person=` a student of the roster, or `?section=` for an invented student of that section. Changes nothing.
 */
export const rehearsal = plainRoute<Rehearsal>()('GET', '/api/sheets/:sheet/rehearsal', 'staff')
