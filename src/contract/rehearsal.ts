import { object, string } from 'yup'
import { localTime } from './fields.ts'
import { plainRoute, route, whileArchived } from './route.ts'

/** A rehearsal: all that a student meets, played through on a copy of everything, of which nothing is kept. */
export interface Rehearsal {
  code: string
  /** As whom: a name of the roster, or an invented student of a section. */
  as: string
  /** The moment at which it began, on the clocks of the copy. */
  at: string
  /** Whether talk, work and marks that the caller may not read are made up in it: for tutors. */
  madeUp: boolean
}

export const rehearsalBody = object({
  /** A student of the sheet by the code of their enrolment; null for somebody invented. */
  person: string().nullable().defined('Say as whom it is played.'),
  /** The section of somebody invented, by its code; null for the first, or for none where there are none. */
  section: string().nullable().defined('Say in which section somebody invented is.'),
  /** The hour at which it is played, as a wall-clock time of the course; null for now, or the opening of what is not open yet. */
  at: localTime.defined('Say at which hour it is played.'),
})

/**
 * Begins a rehearsal and ends the one that the caller had before. Its pages are below `/rehearsal/<code>/`, for the
 * caller alone, as long as they are looked at.
 */
export const beginRehearsal = whileArchived(
  route<Rehearsal>()('POST', '/api/sheets/:sheet/rehearsal', 'staff', rehearsalBody),
)
/** Ends the rehearsal that the caller has. */
export const endRehearsal = plainRoute<null>()('DELETE', '/api/rehearsal', 'signed-in')
