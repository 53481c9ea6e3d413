import { boolean, mixed, number, object, string } from 'yup'
import type { OtherScale, Scale } from '../core/formats/marksCsv.ts'
import type { LineFault } from '../core/formats/table.ts'
import { LIMITS } from '../core/limits.ts'
import type { Placements } from '../core/marks.ts'
import { codes, text } from './fields.ts'
import { LARGE, plainRoute, route, whileArchived } from './route.ts'
import type { SheetHead } from './sheets.ts'
import type { HandInView, OwnerWork, TaskView, WorkView } from './tasks.ts'

/** A mark as markers work on it. */
export interface MarkView {
  placements: Record<string, number>
  points: number | null
  feedback: string
  version: number
  changedAt: string
  /** Who changed it last, by name. */
  changedBy: string
  releasedAt: string | null
}

/** One pile: everything of one group or student for a task. */
export interface DeskPile extends OwnerWork {
  title: string
  section: string | null
  /** False where nothing is handed in by them. */
  handsIn: boolean
  /** Members by code and name. */
  people: { code: string; name: string }[]
  handIns: HandInView[]
  mark: MarkView | null
  /** Marks of members set apart, by the person's code. */
  setApart: Record<string, MarkView>
  /** How its members say the work was shared; null where they are not asked. */
  shares: PileShares | null
  /** How many remarks are on the work, and how many answers to them. */
  remarks: number
  answers: number
  /** Whether the reader may mark it. */
  mayMark: boolean
}

/** How the members of a group say the work was shared. */
export interface PileShares {
  /** What each gave to the others, by code, with a word. */
  given: { by: string; points: Record<string, number>; words: string; givenAt: string }[]
  /** What each was given on average, by code. */
  average: Record<string, number>
}

export interface DeskView extends SheetHead {
  task: TaskView
  piles: DeskPile[]
  /** Active students without a group, for whom nothing could be handed in. */
  noGroup: { code: string; name: string }[]
  mayRelease: boolean
}

/** What a file of marks would change. */
export interface MarksPreview {
  of: 'students' | 'groups'
  /** Columns that say to be of other points than their tasks bring. */
  scales: OtherScale[]
  changes: {
    /** The task’s title. */
    task: string
    /** The group or student, in words. */
    owner: string
    /** A member set apart; null for the whole. */
    member: string | null
    /** In all; null while something is open. */
    from: number | null
    to: number | null
    /** On which criteria, where it is marked by some. */
    placed: { title: string; from: number | null; to: number | null }[]
    /** Whether a member set apart gets the group’s mark again. */
    again: boolean
    /** Whether the mark is out, so that its students see the change at once. */
    out: boolean
  }[]
  /** Feedback that becomes another. */
  feedback: { task: string; owner: string; member: string | null; to: string; out: boolean }[]
  faults: LineFault[]
  /** What of the file was passed over, in sentences. */
  notes: string[]
  /** Stands for all of this: an import that carries it makes these changes, or none. */
  fingerprint: string
}

/** Most characters in a file of marks. */
const MOST_CSV = 1_000_000
const csv = string()
  .required('The file is empty.')
  .max(MOST_CSV, 'The file has more than a million characters, so it is no table of marks.')
/** What is done with points of a column that is of other points than its task; left out, it is asked about. */
const scale = mixed<Scale>().oneOf(['convert', 'as-is'], 'Points are converted, or taken as they stand.')
export const marksCsvBody = object({ csv, scale })
export const marksImportBody = object({
  csv,
  scale,
  fingerprint: string().required(),
  /** Whether lines that are wrong are passed over. */
  skipFaults: boolean().required(),
})
/** Where a marker is in the pile. */
export const deskPlaceBody = object({ owner: string().required() })

export const markBody = object({
  /** Whose work: a group's code, or a student's. */
  owner: string().required('Say whose work it is.'),
  /** A member who is set apart; null for the whole group. */
  apart: string().nullable().defined(),
  /** The version that the page knew; 0 before the first. */
  version: number().integer().min(0).required(),
  placements: mixed<Placements>()
    .required()
    .test('points', 'Each criterion has points.', (value) =>
      Object.values(value ?? {}).every((points) => typeof points === 'number' && Number.isFinite(points)),
    ),
  points: number().typeError('Points are a number.').nullable().defined(),
  feedback: string()
    .max(LIMITS.brief, `Feedback holds ${LIMITS.brief.toLocaleString('en')} characters at most.`)
    .default(''),
  /** Takes the member's own mark away again. */
  clear: boolean(),
})
/** Whose the mark of a group is that handed in nothing: who was there. */
export const thereBody = object({
  /** The group's code. */
  owner: string().required('Say of which group.'),
  /** Everybody who was there, by code. */
  people: codes(200, 'In one group 200 people are the most.').required(),
  reason: text('The reason', 500).trim().required('Give the reason; it stands in the ledger.'),
})
export const releaseBody = object({
  /** Whose marks, by owner; null for all that are whole. */
  owners: codes(LIMITS.rosterLines).nullable().defined(),
  released: boolean().required(),
})

export const desk = plainRoute<DeskView>()('GET', '/api/sheets/:sheet/tasks/:task/desk', 'staff')
/** Keeps a mark. When somebody else has changed it meanwhile, nothing is overwritten, and it is said who. */
export const setMark = route<DeskView>()('PUT', '/api/sheets/:sheet/tasks/:task/marks', 'staff', markBody)
/** Corrects who was there when a group was marked without a hand-in, with a reason, which the ledger keeps. */
export const setThere = route<DeskView>()('PUT', '/api/sheets/:sheet/tasks/:task/there', 'staff', thereBody)
export const secondBody = object({
  /** How many are drawn. */
  count: number()
    .typeError('How many is a number.')
    .integer('How many is a whole number.')
    .min(1, 'Draw one at least.')
    .max(200, 'Draw 200 at most.')
    .required('Say how many are drawn.'),
  /** Who reads them, by code. */
  reader: string().required('Choose who reads them.'),
})
const SECOND = '/api/sheets/:sheet/tasks/:task/second-readings'
/** Draws works by lot, which somebody else than their marker reads a second time. */
export const drawSecondReading = route<WorkView>()('POST', SECOND, 'instructor', secondBody)
/** Takes back what was drawn under a lot number and nobody has read; `all` for every draw of the task. */
export const endSecondReading = plainRoute<WorkView>()('DELETE', `${SECOND}/:lot`, 'instructor')
/** What was drawn for the reader, without the first marks. */
export const secondDesk = plainRoute<DeskView>()('GET', SECOND, 'staff')
/** Keeps what a second reader says of a work. It changes no mark. */
export const setSecondMark = route<DeskView>()('PUT', SECOND, 'staff', markBody)
/** Marks as a file: `:file` is `students` or `groups`, with `.csv`, `.xlsx` or `.ods`. */
export const marksFile = plainRoute<never>()('GET', '/api/sheets/:sheet/marks/:file', 'instructor')
/** Marks of every sheet of a course in one file: `:file` is `marks.csv`, `marks.xlsx` or `marks.ods`. */
export const courseMarksFile = plainRoute<never>()('GET', '/api/courses/:course/marks/:file', 'instructor')
/** What a file of marks would change, and what of it is wrong. */
export const previewMarks = whileArchived(
  route<MarksPreview>()('POST', '/api/sheets/:sheet/marks/preview', 'instructor', marksCsvBody, LARGE),
)
/** Makes the changes that were previewed, all of them or none. */
export const importMarks = route<WorkView>()(
  'POST',
  '/api/sheets/:sheet/marks/import',
  'instructor',
  marksImportBody,
  LARGE,
)
/** Says where one is in the pile, and answers who else is where. Forgotten some seconds after it was said last. */
export const deskPlace = whileArchived(
  route<{ others: { name: string; owner: string }[] }>()(
    'PUT',
    '/api/sheets/:sheet/tasks/:task/desk/place',
    'staff',
    deskPlaceBody,
  ),
)
/** Shows marks to those they are for, or hides them again. */
export const releaseMarks = route<DeskView>()(
  'POST',
  '/api/sheets/:sheet/tasks/:task/release',
  'instructor',
  releaseBody,
)
