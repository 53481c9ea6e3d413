import { array, boolean, mixed, number, object, string } from 'yup'
import { MOST_FILES } from '../core/files.ts'
import { LIMITS } from '../core/limits.ts'
import type { Criterion } from '../core/marks.ts'
import {
  LATE_HAND_IN,
  type LateHandIn,
  TASK_FOR,
  type TaskFor,
  type TaskGate,
  WITHOUT_GROUP,
  type WithoutGroup,
} from '../core/task.ts'
import type { SectionView } from './courses.ts'
import { codes, isWebLink, localTime, text, title } from './fields.ts'
import type { FileView } from './files.ts'
import { LARGE, plainRoute, route } from './route.ts'
import type { RunPerson } from './seats.ts'
import type { SheetHead } from './sheets.ts'

/** Most links in one hand-in, and characters in its text. */
export const MOST_LINKS = 20
export const MOST_TEXT = 100_000

/** A task as its staff know it. */
export interface TaskView {
  code: string
  title: string
  instructions: string
  takesText: boolean
  takesLinks: boolean
  takesFiles: boolean
  /** Files that come with it. */
  files: FileView[]
  availableFrom: string | null
  dueAt: string | null
  late: LateHandIn
  lateUntil: string | null
  forWhom: TaskFor
  /** Groups by code, where it is for some. */
  groups: string[]
  withoutGroup: WithoutGroup
  points: number
  criteria: Criterion[]
  /** When students were shown it; null while it is being written. */
  outAt: string | null
  /** Whether something was handed in: then whose the work is does not change any more. */
  handedIn: boolean
}

/** One version of what was handed in. */
export interface HandInView {
  version: number
  /** Who did it, by name. */
  by: string
  /** Everybody it counts for, by name. */
  members: string[]
  text: string
  links: string[]
  files: FileView[]
  handedAt: string
  late: boolean
  takenBackAt: string | null
}

/** A mark as its students see it, once it is released. */
export interface ReleasedMark {
  points: number | null
  placements: Record<string, number>
  feedback: string
  /** True when it was set apart from the group's. */
  apart: boolean
  releasedAt: string
}

/** What is being written before it is handed in. */
export interface DraftView {
  text: string
  links: string[]
  savedAt: string
  /** Who holds it now, by name; null when anybody may write. */
  holder: string | null
  /** True when that is the reader. */
  yours: boolean
}

/** A task as one student has it. What it is worth and asks is not there while it is locked. */
export interface OwnTask {
  code: string
  title: string
  gate: Exclude<TaskGate, { state: 'hidden' }>
  dueAt: string | null
  lateUntil: string | null
  late: LateHandIn
  /** The group for which it is handed in, by code with its topic; null where each hands in singly, or while locked. */
  group: { code: string; title: string } | null
  /** Null while it is locked. */
  work: {
    instructions: string
    takesText: boolean
    takesLinks: boolean
    takesFiles: boolean
    /** Files that come with it. */
    files: FileView[]
    points: number
    criteria: Criterion[]
    forWhom: 'group' | 'self'
    /** Every version for this owner that counts for the reader, newest first. */
    handIns: HandInView[]
    draft: DraftView | null
    /** Files brought for the next hand-in. */
    brought: FileView[]
    /** Bytes that one further file may have at most, and all of them together. */
    room: { fileBytes: number; left: number }
    mark: ReleasedMark | null
  } | null
}

export interface OwnWork {
  now: string
  /** The newest ledger entry that the answer knows of. */
  rev: number
  /** The sheet, for the way back; whether seats can be taken on it now, and whom to ask where not. */
  sheet: { code: string; title: string; courseCode: string; zone: string; open: boolean; contact: string }
  tasks: OwnTask[]
}

/** How the work of a group or student stands for a task. */
export type WorkState = 'handed-in' | 'late' | 'missing' | 'not-due' | 'no-group' | 'not-for'

/** The work of one owner for one task, as the staff see it. */
export interface OwnerWork {
  /** A group's code, or a student's. */
  owner: string
  kind: 'group' | 'student'
  state: WorkState
  handedAt: string | null
  version: number
  /** People it counts for, by code: as it was handed in, or as the group stands. */
  members: string[]
  /** Points of the group's mark; null while it is not marked whole. */
  points: number | null
  /** Those set apart with their points. */
  apart: { person: string; points: number | null }[]
  marked: boolean
  released: boolean
}

export interface WorkView extends SheetHead {
  sections: SectionView[]
  topics: { code: string; title: string }[]
  groups: { code: string; topic: string; section: string | null; tutors: string[]; members: string[] }[]
  people: RunPerson[]
  /** Who looks after groups. */
  tutors: { code: string; name: string }[]
  /** Active students who sit nowhere. */
  noGroup: string[]
  tasks: (TaskView & { work: OwnerWork[] })[]
  you: string
  mayEdit: boolean
  /** In which groups the reader may mark. */
  mayMark: 'all' | 'own' | 'none'
}

const criterion = object({
  id: string()
    .required()
    .matches(/^[\w-]{1,40}$/, 'A criterion’s id is letters, digits and hyphens.'),
  title: title('The criterion’s name').required('The criterion’s name is missing.'),
  points: number()
    .typeError('Points are a number.')
    .required('Say how many points it brings.')
    .min(1, 'A criterion brings one point at least.')
    .max(100, 'A criterion brings 100 points at most.'),
  levels: array(text('A level', 40).required('A level needs a word.'))
    .required()
    .max(8, 'Eight levels are the most.'),
})
const points = number()
  .typeError('Points are a number.')
  .min(1, 'A task brings one point at least.')
  .max(1_000, 'A task brings 1,000 points at most.')
const oneOf = <T extends string>(choices: readonly T[]) =>
  mixed<T>().oneOf([...choices], `This is one of: ${choices.join(', ')}.`)

/** Fields left out stay as they are. Times are wall-clock times in the course's zone. */
const taskFields = {
  title: title('The title'),
  instructions: text('The instructions', LIMITS.instructions),
  takesText: boolean(),
  takesLinks: boolean(),
  takesFiles: boolean(),
  availableFrom: localTime,
  dueAt: localTime,
  late: oneOf(LATE_HAND_IN),
  lateUntil: localTime,
  forWhom: oneOf(TASK_FOR),
  groups: codes(LIMITS.topics * LIMITS.sections),
  withoutGroup: oneOf(WITHOUT_GROUP),
  points,
  criteria: array(criterion.required()).max(12, 'Twelve criteria are the most.'),
  /** Shows it to students, or (while nothing was handed in) hides it again. */
  out: boolean(),
}
export const newTaskBody = object({
  ...taskFields,
  title: taskFields.title.required('The title is missing.'),
})
export const taskChanges = object({ ...taskFields, confirmed: boolean() })

const links = array(
  string()
    .trim()
    .required()
    .max(LIMITS.link, `A link holds ${LIMITS.link} characters at most.`)
    .test('link', 'A link begins with https:// or http://.', (value) => isWebLink(value ?? '')),
)
  .max(MOST_LINKS, `${MOST_LINKS} links are the most.`)
  .default([])
const written = text('The text', MOST_TEXT).default('')
/** The own group for which it is, by code; null where each hands in singly. */
const group = string().nullable().defined()

export const handInBody = object({
  group,
  text: written,
  links,
  /** Which of the files brought, or handed in before, are handed in now: by code. */
  files: codes(MOST_FILES, `${MOST_FILES} files are the most in one hand-in.`).default([]),
  /** The newest version that the page knew of; 0 before the first. */
  after: number().integer().min(0).required(),
})
export const draftBody = object({
  group,
  text: written,
  links,
  /** When the draft was saved that this one follows; null for none. Left out, it follows whatever there is. */
  over: string().nullable().max(40),
})
export const ownerBody = object({ group })

/** Everything that staff need of a sheet's tasks. */
export const work = plainRoute<WorkView>()('GET', '/api/sheets/:sheet/work', 'staff')
export const addTask = route<WorkView>()('POST', '/api/sheets/:sheet/tasks', 'instructor', newTaskBody)
export const changeTask = route<WorkView>()(
  'PATCH',
  '/api/sheets/:sheet/tasks/:task',
  'instructor',
  taskChanges,
)
/** Takes a task away; what was handed in and marked is kept, and comes back with it. */
export const removeTask = plainRoute<WorkView>()('DELETE', '/api/sheets/:sheet/tasks/:task', 'instructor')
export const restoreTask = plainRoute<WorkView>()(
  'POST',
  '/api/sheets/:sheet/tasks/:task/restore',
  'instructor',
)
/** The tasks that are there for the reader. Tasks for others are not among them. */
export const ownWork = plainRoute<OwnWork>()('GET', '/api/sheets/:sheet/own-work', 'student')
/** Hands in, for the group or oneself; every member gets a receipt by mail. */
export const handIn = route<OwnWork>()(
  'POST',
  '/api/sheets/:sheet/tasks/:task/hand-ins',
  'student',
  handInBody,
  LARGE,
)
/** Takes back what was handed in, before it is due. */
export const takeBack = route<OwnWork>()(
  'POST',
  '/api/sheets/:sheet/tasks/:task/take-back',
  'student',
  ownerBody,
)
/** Keeps what is being written, and holds it: the others of the group can read, not write, until it is let go. */
export const saveDraft = route<OwnWork>()(
  'PUT',
  '/api/sheets/:sheet/tasks/:task/draft',
  'student',
  draftBody,
  LARGE,
)
/** Lets go of the draft, so that a mate can write. */
export const letGoDraft = route<OwnWork>()(
  'POST',
  '/api/sheets/:sheet/tasks/:task/draft/let-go',
  'student',
  ownerBody,
)
/** Takes a file away that was brought for the next hand-in. */
export const removeDraftFile = route<OwnWork>()(
  'POST',
  '/api/sheets/:sheet/tasks/:task/draft/files/:file/remove',
  'student',
  ownerBody,
)
/** Takes a file away that comes with a task. */
export const removeTaskFile = plainRoute<WorkView>()(
  'DELETE',
  '/api/sheets/:sheet/tasks/:task/files/:file',
  'instructor',
)
/** Everything handed in for a task as a zip with a folder for each group; tutors get that of their groups. */
export const handInsZip = plainRoute<never>()('GET', '/api/sheets/:sheet/tasks/:task/hand-ins.zip', 'staff')
