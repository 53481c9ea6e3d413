import { array, boolean, mixed, number, object, string } from 'yup'
import { LIMITS } from '../core/limits.ts'
import type { Criterion } from '../core/marks.ts'
import {
  DATED_BY,
  type DatedBy,
  LATE_HAND_IN,
  type LateHandIn,
  SHARES_RULE,
  type SharesRule,
  TASK_FOR,
  type TaskFor,
  WITHOUT_GROUP,
  type WithoutGroup,
} from '../core/task.ts'
import type { SectionView } from './courses.ts'
import { codes, localTime, text, title } from './fields.ts'
import type { FileView } from './files.ts'
import { plainRoute, route } from './route.ts'
import type { RunPerson } from './seats.ts'
import type { SheetHead } from './sheets.ts'

/** Most characters in the text of a hand-in. */
export const MOST_TEXT = 100_000

/** A task as its staff know it. */
export interface TaskView {
  code: string
  title: string
  instructions: string
  /** False where nothing is handed in: what is marked takes place, such as a talk. */
  handsIn: boolean
  takesText: boolean
  takesLinks: boolean
  takesFiles: boolean
  /** The most words that the text may have; null where that is free. */
  mostWords: number | null
  /** Files that come with it. */
  files: FileView[]
  availableFrom: string | null
  dueAt: string | null
  /** What says when it is due: its own date, or that of each group. */
  datedBy: DatedBy
  late: LateHandIn
  lateUntil: string | null
  forWhom: TaskFor
  /** The list whose students it is for, by its code; null where it is for all. */
  list: string | null
  /** Groups by code, where it is for some. */
  groups: string[]
  withoutGroup: WithoutGroup
  points: number
  /** Whether members are asked how the work was shared, and who sees it. */
  shares: SharesRule
  /** Whether students may answer each remark on their work, once. */
  answers: boolean
  criteria: Criterion[]
  /** When students were shown it; null while it is being written. */
  outAt: string | null
  /** Whether something was handed in. */
  handedIn: boolean
  /** Whether something was handed in or marked: then whose the work is does not change any more. */
  begun: boolean
  /** What is otherwise for some, in the order in which it was made. */
  differences: DifferenceView[]
}

/** What is otherwise in a task for some. Fields left out are as in the task. */
export interface DifferenceView {
  code: string
  /** For the staff alone. */
  note: string
  /** For whom it is, by code. */
  groups: string[]
  lists: string[]
  students: string[]
  fields: DifferingFields
}

/** What may differ in a task; times are instants here. */
export type DifferingFields = Partial<
  Pick<
    TaskView,
    | 'instructions'
    | 'handsIn'
    | 'takesText'
    | 'takesLinks'
    | 'takesFiles'
    | 'mostWords'
    | 'availableFrom'
    | 'dueAt'
    | 'datedBy'
    | 'late'
    | 'lateUntil'
  >
>

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

/**
 * How the work of a group or student stands for a task. Where nothing is handed in it lies ahead or took place: its
 * moment has passed, or it is being marked.
 */
export type WorkState =
  | 'handed-in'
  | 'late'
  | 'missing'
  | 'not-due'
  | 'ahead'
  | 'took-place'
  | 'no-group'
  | 'not-for'

/** Whom a mark is for: those for whom it was handed in, who were there when it was marked, or who sit there. */
export type CountsFor = 'handed-in' | 'was-there' | 'sits-there'

/** The work of one owner for one task, as the staff see it. */
export interface OwnerWork {
  /** A group's code, or a student's. */
  owner: string
  kind: 'group' | 'student'
  state: WorkState
  /** When it is due for them, or takes place. */
  dueAt: string | null
  /** The difference that holds for them, by code; null for none. */
  difference: string | null
  handedAt: string | null
  version: number
  /** People it counts for, by code: as it was handed in, as the group stood when it was marked, or as it stands. */
  members: string[]
  /** Why those: it was handed in for them, they were there when it was marked, or they sit there. */
  countsFor: CountsFor
  /** Points of the group's mark; null while it is not marked whole. */
  points: number | null
  /** Those set apart with their points. */
  apart: { person: string; points: number | null }[]
  marked: boolean
  /** Who changed the mark last, by name; null without one. */
  markedBy: string | null
  released: boolean
  /** Whether something is written, brought or handed in. */
  begun: boolean
}

/** A work that was drawn for a second reading. Its points are given to instructors; whoever reads it is told only that. */
export interface SecondReading {
  owner: string
  /** Who reads it, by code. */
  reader: string
  lotNumber: number
  /** Whether the reader has marked it whole. */
  read: boolean
  first: number | null
  second: number | null
}

/** How many remarks are on one owner’s work, and how many answers to them. */
export interface Remarked {
  owner: string
  remarks: number
  answers: number
}

export interface WorkView extends SheetHead {
  sections: SectionView[]
  topics: { code: string; title: string }[]
  groups: {
    code: string
    topic: string
    section: string | null
    tutors: string[]
    members: string[]
    /** False for one that was taken off the sheet. */
    onSheet: boolean
  }[]
  people: RunPerson[]
  /** Who looks after groups. */
  tutors: { code: string; name: string }[]
  /** Active students who sit nowhere. */
  noGroup: string[]
  /** Lists of people that a task can be for. */
  lists: { code: string; title: string; people: number }[]
  tasks: (TaskView & { work: OwnerWork[]; second: SecondReading[]; remarked: Remarked[] })[]
  /** Everybody who teaches the course, for a second reading. */
  staff: { code: string; name: string }[]
  you: string
  mayEdit: boolean
  /** In which groups the reader may mark. */
  mayMark: 'all' | 'own' | 'none'
}

const criterion = object({
  id: string()
    .required()
    .matches(/^[\w-]{1,40}$/, 'A criterion’s id is letters, digits and hyphens.')
    // Placements are read by it: it is no word that every object answers to.
    .notOneOf(Object.getOwnPropertyNames(Object.prototype), 'A criterion cannot have this id.'),
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

/** What may differ for some. Times are wall-clock times in the course's zone. */
const differing = {
  instructions: text('The instructions', LIMITS.instructions),
  /** False for a task without a hand-in. */
  handsIn: boolean(),
  takesText: boolean(),
  takesLinks: boolean(),
  takesFiles: boolean(),
  mostWords: number()
    .typeError('Words are a whole number.')
    .integer('Words are a whole number.')
    .min(1, 'A text has one word at least.')
    .max(MOST_TEXT, `A text has ${MOST_TEXT.toLocaleString('en')} words at most.`)
    .nullable(),
  availableFrom: localTime,
  dueAt: localTime,
  datedBy: oneOf(DATED_BY),
  late: oneOf(LATE_HAND_IN),
  lateUntil: localTime,
}
/** Fields left out stay as they are. */
const taskFields = {
  title: title('The title'),
  ...differing,
  forWhom: oneOf(TASK_FOR),
  /** The list whose students do it, each alone, by its code; null for all of them. */
  list: string().nullable(),
  groups: codes(LIMITS.topics * LIMITS.sections),
  withoutGroup: oneOf(WITHOUT_GROUP),
  points,
  shares: oneOf(SHARES_RULE),
  answers: boolean(),
  criteria: array(criterion.required()).max(12, 'Twelve criteria are the most.'),
  /** Shows it to students, or (while nothing was handed in) hides it again. */
  out: boolean(),
}
export const newTaskBody = object({
  ...taskFields,
  title: taskFields.title.required('The title is missing.'),
})
export const taskChanges = object({
  ...taskFields,
  /** What the author saw of the fields that are changed: where somebody else changed one since, nothing is. */
  was: object(taskFields).optional().default(undefined),
  confirmed: boolean(),
})

/** Most differences of one task, and most groups, lists and students that one is for. */
export const MOST_DIFFERENCES = 50
const MOST_FOR = 200
const forThose = codes(
  MOST_FOR,
  `A difference is for ${MOST_FOR} at most. Make a list, and choose that.`,
).default([])
export const differenceBody = object({
  /** For the staff alone. */
  note: text('The note', 500).default(''),
  groups: forThose,
  lists: forThose,
  students: forThose,
  /** What differs; a field that is left out is as in the task. */
  fields: object(differing).required(),
  /** Set once it was read who is in another difference of the task too. Those named there as they are here leave that one. */
  confirmed: boolean(),
})

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
/** Makes a task differ for some, unseen by the others. */
export const addDifference = route<WorkView>()(
  'POST',
  '/api/sheets/:sheet/tasks/:task/differences',
  'instructor',
  differenceBody,
)
export const changeDifference = route<WorkView>()(
  'PUT',
  '/api/sheets/:sheet/tasks/:task/differences/:difference',
  'instructor',
  differenceBody,
)
/** Ends a difference: whoever it was for has the task as it is for everybody. */
export const removeDifference = plainRoute<WorkView>()(
  'DELETE',
  '/api/sheets/:sheet/tasks/:task/differences/:difference',
  'instructor',
)
/** Takes a file away that comes with a task. */
export const removeTaskFile = plainRoute<WorkView>()(
  'DELETE',
  '/api/sheets/:sheet/tasks/:task/files/:file',
  'instructor',
)
/** Everything handed in for a task as a zip with a folder for each group; tutors get that of their groups. */
export const handInsZip = plainRoute<never>()('GET', '/api/sheets/:sheet/tasks/:task/hand-ins.zip', 'staff')

/** The criteria of a task, for use on another. */
export interface KnownCriteria {
  sheet: string
  sheetTitle: string
  task: string
  title: string
  criteria: Criterion[]
}
/** The criteria of all tasks on all sheets of a course that have any, the newest sheet first. */
export const knownCriteria = plainRoute<KnownCriteria[]>()('GET', '/api/courses/:course/criteria', 'staff')
