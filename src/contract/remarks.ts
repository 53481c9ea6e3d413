import { mixed, number, object, string } from 'yup'
import type { Criterion } from '../core/marks.ts'
import { MOST_ANSWER, MOST_PAGE, MOST_REMARK, type RemarkPlace } from '../core/remarks.ts'
import type { FileView } from './files.ts'
import { plainRoute, route } from './route.ts'
import type { HandInView } from './tasks.ts'

/** Where a remark stands in one version of a work. */
export interface Standing {
  /** The version of the hand-in. */
  version: number
  /** The file, by its code; null for what was written. */
  file: string | null
  place: RemarkPlace
}

/** A remark on a work. */
export interface RemarkView {
  code: string
  /** Where it was made. */
  made: Standing
  /** The name of the file on which it was made; null for what was written. */
  fileName: string | null
  /** Where it stands, in each version in which it does: the one on which it was made, and others that kept its place. */
  stands: Standing[]
  words: string
  /** The criterion to which its points belong, by id; null for plain points, or none. */
  criterion: string | null
  /** Points earned, or lost where they are below none; null where it carries none. */
  points: number | null
  /** How often it was written, for whoever changes it. */
  edition: number
  /** Who made it, by name; empty for students. */
  by: string
  answers: { by: string; words: string; answeredAt: string; yours: boolean }[]
}

/** What markers have beside one work. */
export interface RemarksView {
  remarks: RemarkView[]
  /** Files that are given back with the mark. */
  files: FileView[]
  /** What was written in remarks for this task before, that used most often first. */
  phrases: string[]
  mayRemark: boolean
  /** Whether its students read them now. */
  released: boolean
}

/** What students have of the remarks on their work, once their mark is released. */
export interface OwnRemarks {
  now: string
  sheet: { code: string; title: string; courseCode: string; zone: string }
  task: { code: string; title: string; criteria: Criterion[] }
  /** Whose work it is: the group’s code, or `self`. */
  owner: string
  /** The group’s topic; null for one’s own work. */
  group: string | null
  /** Versions that stand and count for the reader, newest first. */
  handIns: HandInView[]
  remarks: RemarkView[]
  files: FileView[]
  mayAnswer: boolean
}

const share = (value: unknown): value is number =>
  typeof value === 'number' && Number.isFinite(value) && value >= 0 && value <= 1
const whole = (value: unknown, least: number, most: number) =>
  Number.isInteger(value) && (value as number) >= least && (value as number) <= most

/** Whether something sent is a place in a work; whether the work has such a place is looked at there. */
export function isPlace(value: unknown): value is RemarkPlace {
  if (typeof value !== 'object' || value === null) return false
  const { kind, start, end, page, x, y, width, height } = value as Record<string, unknown>
  if (kind === 'passage')
    return (
      whole(start, 0, Number.MAX_SAFE_INTEGER) && whole(end, (start as number) + 1, Number.MAX_SAFE_INTEGER)
    )
  if (!whole(page, 1, MOST_PAGE) || !share(x) || !share(y)) return false
  if (kind === 'spot') return true
  // A hair past the edge is what halves and thirds come to.
  return kind === 'area' && share(width) && share(height) && x + width <= 1.0001 && y + height <= 1.0001
}

/** Only what belongs to a place of its kind. */
function onlyPlace(place: RemarkPlace): RemarkPlace {
  if (place.kind === 'passage') return { kind: 'passage', start: place.start, end: place.end }
  const { page, x, y } = place
  if (place.kind === 'spot') return { kind: 'spot', page, x, y }
  return { kind: 'area', page, x, y, width: place.width, height: place.height }
}

/** Words that are shown as they are, so that nothing in them nests. */
const plain = (what: string, most: number) =>
  string()
    .trim()
    .max(most, `${what} holds ${most.toLocaleString('en')} characters at most.`)

const placed = {
  /** The version of the hand-in. */
  version: number().integer().min(1).required(),
  /** The file of it, by code; null for what was written. */
  file: string().nullable().defined(),
  place: mixed<RemarkPlace>(isPlace)
    .transform((value) => (isPlace(value) ? onlyPlace(value) : value))
    .typeError('Mark a passage, a spot or an area.')
    .required('Mark a passage, a spot or an area.'),
}
const said = {
  words: plain('A remark', MOST_REMARK).default(''),
  criterion: string().nullable().default(null),
  points: number()
    .typeError('Points are a number.')
    .nullable()
    .default(null)
    .test('points', 'Points are a number.', (value) => value == null || Number.isFinite(value)),
}
export const remarkBody = object({
  /** What the page calls it: the same remark sent again is taken once. */
  key: string()
    .required()
    .matches(/^[\w-]{8,64}$/, 'A key is letters, digits and hyphens.'),
  ...placed,
  ...said,
})
export const remarkChanges = object({
  /** The edition that the page knew. */
  edition: number().integer().min(1).required(),
  ...said,
  /** Where it stands from now on; null where that stays. */
  move: object(placed).nullable().default(null),
})
export const answerBody = object({
  words: plain('An answer', MOST_ANSWER).required('There is nothing in the answer.'),
})

const REMARKS = '/api/sheets/:sheet/tasks/:task/remarks/:owner'
const ONE = `${REMARKS}/:remark` as const
/** The remarks on a group’s or a student’s work (`:owner`, by code), with the files that go back with the mark. */
export const remarks = plainRoute<RemarksView>()('GET', REMARKS, 'staff')
/** Writes a remark beside a place in a version that stands. */
export const addRemark = route<RemarksView>()('POST', REMARKS, 'staff', remarkBody)
/** Changes a remark, or where it stands. When somebody else has changed it meanwhile, nothing is overwritten. */
export const changeRemark = route<RemarksView>()('PUT', ONE, 'staff', remarkChanges)
export const removeRemark = plainRoute<RemarksView>()('DELETE', ONE, 'staff')
export const restoreRemark = plainRoute<RemarksView>()('POST', `${ONE}/restore`, 'staff')
/** Takes a file away that goes back with the mark. */
export const removeFeedbackFile = plainRoute<RemarksView>()('DELETE', `${REMARKS}/files/:file`, 'staff')
/** The work with its remarks as a PDF: `:file` is `work.pdf`, its newest version, or `version-N.pdf`. */
export const remarkedPdf = plainRoute<never>()('GET', `${REMARKS}/pdf/:file`, 'staff')

const OWN = '/api/sheets/:sheet/tasks/:task/own-remarks/:owner'
/** The remarks on the reader’s own work: of a group (`:owner`, by code), or of oneself (`self`), once their mark is out. */
export const ownRemarks = plainRoute<OwnRemarks>()('GET', OWN, 'student')
/** Answers a remark, once, where the task lets students. */
export const answerRemark = route<OwnRemarks>()('POST', `${OWN}/:remark/answer`, 'student', answerBody)
/** The own work with its remarks as a PDF, as `remarkedPdf`. */
export const ownRemarkedPdf = plainRoute<never>()('GET', `${OWN}/pdf/:file`, 'student')
