import { boolean, object, string } from 'yup'
import type { LineFault } from '../core/formats/rosterCsv.ts'
import { LIMITS } from '../core/limits.ts'
import type { FieldChange, Role, RosterPerson } from '../core/roster.ts'
import { plainRoute, route } from './route.ts'

export interface RosterView {
  people: (RosterPerson & { code: string })[]
}

/** What bringing in a file would do; nothing is written yet. */
export interface RosterPreview {
  fresh: { line: number; name: string; email: string; section: string | null; role: Role }[]
  changed: { line: number; name: string; email: string; changes: FieldChange[]; keepsSeats: string[] }[]
  unchanged: number
  missing: RosterPerson[]
  faults: LineFault[]
}

const csv = string()
  .required('There is nothing in it. The first line must name the columns: name, email, section.')
  .max(LIMITS.rosterText, 'This is longer than a roster can be.')

export const previewBody = object({ csv })
export const importBody = object({ csv, skipFaults: boolean().required() })

export const roster = plainRoute<RosterView>()('GET', '/api/courses/:course/roster', 'staff')
/** Says what a file would change. Writes nothing. */
export const previewRoster = route<RosterPreview>()(
  'POST',
  '/api/courses/:course/roster/preview',
  'instructor',
  previewBody,
)
/** Brings a file in, in one transaction. With faults in it, only when they are to be skipped. */
export const importRoster = route<{ added: number; changed: number; skipped: number }>()(
  'POST',
  '/api/courses/:course/roster/import',
  'instructor',
  importBody,
)
