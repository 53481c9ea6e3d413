import { array, boolean, mixed, object, string, number as yupNumber } from 'yup'
import { isEmail, normalEmail } from '../core/email.ts'
import type { RosterColumn } from '../core/formats/rosterColumns.ts'
import type { Commas } from '../core/formats/rosterLines.ts'
import type { LineFault } from '../core/formats/table.ts'
import { LIMITS } from '../core/limits.ts'
import type { EnrolmentStatus, FieldChange, Role, RosterPerson } from '../core/roster.ts'
import { cleanText } from '../core/text.ts'
import { codes } from './fields.ts'
import { LARGE, plainRoute, route } from './route.ts'

export interface RosterView {
  /** In the order of the class list, with what a file said of them besides, by the names of its columns. */
  people: (RosterPerson & { code: string; attributes: Record<string, string> })[]
  /** The last change, which can be undone; null when there is none. */
  undo: {
    /** Names it, so that its undo undoes it and no later one. */
    step: string
    at: string
    what: string
    /** Who made it; null where that is not known any more. */
    by: string | null
  } | null
}

/** Where each column of a roster stands, counted from 0. */
export type RosterColumns = { [K in RosterColumn]?: number | undefined }

/** What bringing in a file would do; nothing is written yet. */
export interface RosterPreview {
  fresh: {
    line: number
    name: string
    /** What they are sorted by. */
    family: string
    called: string
    number: string
    email: string
    section: string | null
    role: Role
  }[]
  changed: { line: number; name: string; email: string; changes: FieldChange[]; keepsSeats: string[] }[]
  unchanged: number
  /** Active students whom the file does not list, with the seats they hold. */
  missing: (RosterPerson & { seats: string[] })[]
  faults: LineFault[]
  /** Further columns of the file, which can be kept as attributes. */
  spare: string[]
  /** Sections that lines name and the course does not have. */
  sections: string[]
  /** How many people’s attributes change, with the columns that are to be kept. */
  attributes: number
  /** What each column is called: by its heading, or by what stands in its first line where there are none. */
  header: string[]
  /** Which column is which, counted from 0. */
  columns: RosterColumns
  /** Whether a line of headings was read; else columns were told by what is in them, and the first line is a person. */
  headed: boolean
  /** What of the file was passed over, in sentences. */
  notes: string[]
  /** How names with a comma are read; null where no name has one. */
  commas: Commas | null
}

/** What happens to people whom a file does not list any more. */
export type Unlisted = 'leave' | 'pause' | 'left'

const csv = string()
  .required('There is nothing in it. The first line must name the columns: name, email, section.')
  .max(LIMITS.rosterText, 'This is longer than a roster can be.')
const column = yupNumber().integer().min(-1).max(200)
/** Columns pointed out by hand, counted from 0, −1 for one that is not there; those left out are told by their headings. */
const columns = object({
  name: column,
  given: column,
  surname: column,
  called: column,
  number: column,
  email: column,
  section: column,
  role: column,
})
  .default(undefined)
  .optional()

/** Names of further columns that are kept as attributes: staff see them, students never. */
const keep = array(string().trim().required().max(LIMITS.attribute))
  .max(LIMITS.attributes, `${LIMITS.attributes} further columns can be kept.`)
  .default([])

/** Whether the first line has the headings, or a person; left out, it is looked for. */
const headings = mixed<'first' | 'none'>().oneOf(
  ['first', 'none'],
  'Headings are in the first line, or there are none.',
)

/** How names with a comma are read; left out, most of them say. */
const commas = mixed<Commas>().oneOf(
  ['surname-first', 'as-is'],
  'A name with a comma has the surname first, or is as it stands.',
)
/** The section of everybody, by its name, where the file does not say. */
const forAll = string().max(LIMITS.sectionName)

const how = { csv, columns, headings, keep, commas, section: forAll }
export const previewBody = object(how)
export const importBody = object({
  ...how,
  skipFaults: boolean().required(),
  unlisted: mixed<Unlisted>().oneOf(['leave', 'pause', 'left']).default('leave'),
  /** Whether people who are paused or have left give up their seats. */
  freeSeats: boolean().default(false),
})

const cleaned = (value: unknown) => (typeof value === 'string' ? cleanText(value) : value)
const name = string()
  .transform(cleaned)
  .max(LIMITS.personName, `A name holds ${LIMITS.personName} characters at most.`)
const number = string()
  .transform(cleaned)
  .max(LIMITS.studentNumber, `A student number holds ${LIMITS.studentNumber} characters at most.`)
/** What of a name and a number can be said besides; an empty value takes it away. */
const besides = { given: name, family: name, called: name, number }
const email = string()
  .transform((value: unknown) => (typeof value === 'string' ? normalEmail(value) : value))
  .test(
    'email',
    'That is not an email address: one @ and a domain are needed.',
    (value) => value === undefined || isEmail(value),
  )
const role = mixed<Role>().oneOf(
  ['student', 'tutor', 'instructor'],
  'A role is student, tutor or instructor.',
)
const status = mixed<EnrolmentStatus>().oneOf(
  ['active', 'paused', 'left'],
  'A status is active, paused or left.',
)
/** A section by its code, or null for none. */
const section = string().nullable()
/** What is said of somebody besides, by hand; an empty value takes it away. Those left out stay as they are. */
const attributes = array(
  object({
    name: string()
      .trim()
      .required('An attribute needs a name.')
      .max(LIMITS.attribute, `A name holds ${LIMITS.attribute} characters at most.`),
    value: string()
      .trim()
      .defined('An attribute needs a value.')
      .max(LIMITS.attribute, `A value holds ${LIMITS.attribute} characters at most.`),
  }),
).max(LIMITS.attributes, `${LIMITS.attributes} attributes can be kept.`)

export const newPersonBody = object({
  name: name.required('The name is missing.'),
  email: email.required('The email address is missing.'),
  section: section.defined(),
  role: role.required(),
  attributes,
  ...besides,
})
export const personChanges = object({
  name: name.min(1, 'The name is missing.'),
  email,
  section,
  role,
  status,
  attributes,
  freeSeats: boolean(),
  ...besides,
})
export const severalChanges = object({
  people: codes(LIMITS.rosterLines).required().min(1, 'Nobody is picked.'),
  section,
  status,
  freeSeats: boolean(),
})

export const roster = plainRoute<RosterView>()('GET', '/api/courses/:course/roster', 'staff')
/** Says what a file would change. Writes nothing. */
export const previewRoster = route<RosterPreview>()(
  'POST',
  '/api/courses/:course/roster/preview',
  'instructor',
  previewBody,
  LARGE,
)
/** Brings a file in, in one transaction. With faults in it, only when they are to be skipped. */
export const importRoster = route<{ added: number; changed: number; unlisted: number; skipped: number }>()(
  'POST',
  '/api/courses/:course/roster/import',
  'instructor',
  importBody,
  LARGE,
)
export const addPerson = route<RosterView>()(
  'POST',
  '/api/courses/:course/roster/people',
  'instructor',
  newPersonBody,
)
export const changePerson = route<RosterView>()(
  'PATCH',
  '/api/courses/:course/roster/people/:person',
  'instructor',
  personChanges,
)
/** Changes section or status of several people at once. */
export const changePeople = route<RosterView>()(
  'PATCH',
  '/api/courses/:course/roster/people',
  'instructor',
  severalChanges,
  LARGE,
)
export const undoRosterBody = object({
  /** The change that is undone; refused where another came after it. Left out, the last one. */
  step: string(),
})
/** Brings back the roster as it was before its last change, seats included. */
export const undoRoster = route<RosterView>()(
  'POST',
  '/api/courses/:course/roster/undo',
  'instructor',
  undoRosterBody,
)
