import { array, boolean, type InferType, mixed, number, object, string } from 'yup'
import { isEmail } from '../core/email.ts'
import { EXTRAS, type Extra } from '../core/extras.ts'
import { LIMITS } from '../core/limits.ts'
import {
  CHOICES,
  FOR_WHOM,
  type ForWhom,
  type HouseRules,
  MOST_MATES,
  MOST_SEATS_EACH,
  MOST_WISHES,
} from '../core/rules.ts'
import type { SheetState } from '../core/window.ts'
import type { SectionView } from './courses.ts'
import { codes, floor, localTime, seats, text, title } from './fields.ts'
import { plainRoute, route, whileArchived } from './route.ts'
import { postText, subjectTitle } from './talk.ts'
import type { TopicView } from './topicViews.ts'

/** What every view of a sheet starts with. */
export interface SheetHead {
  code: string
  /** The short address to hand out, as a path: `/s/k7m2xq9d`. */
  link: string
  title: string
  state: SheetState
  opensAt: string | null
  closesAt: string | null
  publishedAt: string | null
  course: { code: string; courseCode: string; title: string; zone: string }
  rules: HouseRules
  /** The newest ledger entry this view knows of; the live stream goes on from here. */
  rev: number
  /** The server's time when the view was made. */
  now: string
}

export interface ComposeView extends SheetHead {
  instructions: string
  contact: string
  /** The common limit (0: no limit) and the common floor. */
  seats: number
  floor: number
  /** Whether students see the sheet before it opens. */
  visibleBefore: boolean
  lotNumber: number
  sections: SectionView[]
  /** Active students for whom it is. */
  students: number
  /** Whether topics have one group for all sections, where they say nothing else. */
  mixed: boolean
  whom: { kind: ForWhom; sections: string[]; list: { code: string; title: string } | null }
  topics: TopicView[]
  /** What groups get on their page besides members and tasks. */
  extras: Extra[]
  /** Its tasks: those that are out are there for students as soon as the sheet is, the others wait. */
  tasks: { title: string; out: boolean }[]
  mayEdit: boolean
}

/** What a short address leads to. */
export interface LinkTarget {
  sheet: string
  title: string
  role: 'student' | 'staff'
}

const oneOf = <T extends string>(choices: readonly T[]) =>
  mixed<T>().oneOf([...choices], `This is one of: ${choices.join(', ')}.`)

/** A whole number among the rules on wishes. */
const wishNumber = (what: string, least: number) =>
  number()
    .typeError(`${what} are a whole number.`)
    .integer(`${what} are a whole number.`)
    .min(least, `${what} are ${least} at least.`)
    .max(MOST_WISHES, `${what} are ${MOST_WISHES} at most.`)

const fields = {
  title: title('The title'),
  instructions: text('The instructions', LIMITS.instructions),
  contact: text('The address for questions', 254)
    .trim()
    .test(
      'email',
      'That is not an email address: one @ and a domain are needed.',
      (value) => value === undefined || value === '' || isEmail(value),
    ),
  seats,
  floor,
  opensAt: localTime,
  closesAt: localTime,
  visibleBefore: boolean(),
  seatsEach: number()
    .typeError('Seats per student are a whole number.')
    .integer('Seats per student are a whole number.')
    .min(1, 'A student has at least one seat.')
    .max(MOST_SEATS_EACH, `A student has ${MOST_SEATS_EACH} seats at most.`),
  changing: oneOf(CHOICES.changing),
  names: oneOf(CHOICES.names),
  offers: oneOf(CHOICES.offers),
  fullGroups: oneOf(CHOICES.fullGroups),
  otherLines: oneOf(CHOICES.otherLines),
  convener: oneOf(CHOICES.convener),
  invitations: oneOf(CHOICES.invitations),
  convenerMay: oneOf(CHOICES.convenerMay),
  atClose: oneOf(CHOICES.atClose),
  late: oneOf(CHOICES.late),
  lateFrom: oneOf(CHOICES.lateFrom),
  lateFull: oneOf(CHOICES.lateFull),
  road: oneOf(CHOICES.road),
  wishesLeast: wishNumber('Wishes that a list needs', 1),
  wishesMost: wishNumber('Wishes that a list may have', 1),
  cannotMost: wishNumber('Topics that somebody cannot have', 0),
  matesMost: number()
    .typeError('Mates are a whole number.')
    .integer('Mates are a whole number.')
    .min(0, 'Mates are 0 at least.')
    .max(MOST_MATES, `Mates are ${MOST_MATES} at most.`),
  wishWorth: oneOf(CHOICES.wishWorth),
  aim: oneOf(CHOICES.aim),
  swaps: oneOf(CHOICES.swaps),
  /** Whether topics have one group for all sections, where they say nothing else. */
  mixed: boolean(),
  /** For whom it is; with `sections`, which ones, and with `list`, which list, each by code. */
  forWhom: oneOf(FOR_WHOM),
  sectionsFor: codes(LIMITS.sections),
  list: string().max(64),
  nudgesADay: number()
    .typeError('Nudges a day are a whole number.')
    .integer('Nudges a day are a whole number.')
    .min(1, 'One nudge a day is the least.')
    .max(10, 'Ten nudges a day are the most.'),
}
/** What a new sheet begins with; fields left out are as on any new sheet. */
export const newSheetBody = object({
  title: fields.title.required('The title is missing.'),
  road: fields.road,
  mixed: fields.mixed,
  forWhom: fields.forWhom,
  sectionsFor: fields.sectionsFor,
  list: fields.list,
  seats: fields.seats,
  floor: fields.floor,
  convener: fields.convener,
  late: fields.late,
  lateFull: fields.lateFull,
  /** Topics by their titles. */
  topics: array(title('The topic’s title').required('A topic needs a title.')).max(
    LIMITS.topics,
    `A sheet holds ${LIMITS.topics} topics.`,
  ),
  /** What its groups get on their page besides members and tasks. */
  extras: array(oneOf(EXTRAS).required()).max(EXTRAS.length),
  /** A subject that every group has from the beginning, with its first post. */
  firstSubject: object({ title: subjectTitle, text: postText }).default(undefined).optional(),
  /** A task that is there from the beginning; `dueAt` is a wall-clock time of the course, null for none. */
  firstTask: object({
    title: title('The task’s title').required('The task needs a title.'),
    dueAt: localTime,
  })
    .default(undefined)
    .optional(),
})
export type NewSheet = InferType<typeof newSheetBody>
/** Fields left out stay as they are. Times are wall-clock times in the course's zone. */
export const sheetChanges = object({
  ...fields,
  /** Which of the two instants is meant when a time occurs twice. */
  whichOpens: oneOf(['first', 'second']),
  whichCloses: oneOf(['first', 'second']),
  confirmed: boolean(),
  /** With `mixed`: seats those again who sat in groups that are back. */
  bringBack: boolean(),
  /** What its author saw of what is changed: where somebody else changed it meanwhile, it is refused. */
  was: object(fields).default(undefined).optional(),
})
export type SheetChanges = InferType<typeof sheetChanges>

/** Whether those who have a seat already are told by mail where they sit. */
export const publishBody = object({ tell: boolean().default(false) })
/** Whether those who sit on it were asked about. */
export const withdrawBody = object({ confirmed: boolean() })
export const archiveBody = object({ archived: boolean().required() })
export const copyBody = object({
  /** The course that gets the copy. */
  course: string().required('Say which course gets the copy.'),
  title: title('The title').required('The title is missing.'),
  /** When the copy's window opens, in that course's zone; dates of topics move along. Null: no window, no dates. */
  opensAt: localTime.defined(),
  /** Whether the same people are in the same groups; only within one course. Whoever left is not, whoever is new waits. */
  people: boolean().default(false),
  /** Whether its tasks come along, as drafts, with their criteria; their dates move with the window, or go. */
  tasks: boolean().default(false),
  /** How groups of the copy come about; left out, as on the sheet. */
  road: oneOf(CHOICES.road),
})

export const addSheet = route<ComposeView>()(
  'POST',
  '/api/courses/:course/sheets',
  'instructor',
  newSheetBody,
)
export const compose = plainRoute<ComposeView>()('GET', '/api/sheets/:sheet/compose', 'staff')
export const changeSheet = route<ComposeView>()('PATCH', '/api/sheets/:sheet', 'instructor', sheetChanges)
/** Makes the sheet visible to the students it is for; it opens by its window, and groups that are made are there. */
export const publishSheet = route<ComposeView>()(
  'POST',
  '/api/sheets/:sheet/publish',
  'instructor',
  publishBody,
)
/**
 * Takes a published sheet back to a draft: students do not see it any more. Seats stay, so it asks where somebody sits;
 * mail about them that is held for a minute is not sent.
 */
export const withdrawSheet = route<ComposeView>()(
  'POST',
  '/api/sheets/:sheet/withdraw',
  'instructor',
  withdrawBody,
)
/** Puts a sheet away or takes it out again. Nothing in it changes while it is put away. */
export const archiveSheet = whileArchived(
  route<ComposeView>()('POST', '/api/sheets/:sheet/archive', 'instructor', archiveBody),
)
/** Deletes a sheet; until `restoreSheet` it is as if it did not exist. */
export const deleteSheet = whileArchived(plainRoute<null>()('DELETE', '/api/sheets/:sheet', 'instructor'))
/** Brings a deleted sheet of the course back. */
export const restoreSheet = plainRoute<ComposeView>()(
  'POST',
  '/api/courses/:course/deleted/:gone/restore',
  'instructor',
)
/** Copies title, texts, topics and rules into a draft; people and tasks come along where that is wanted. */
export const copySheet = whileArchived(
  route<ComposeView>()('POST', '/api/sheets/:sheet/copy', 'instructor', copyBody),
)
export const followLink = plainRoute<LinkTarget>()('GET', '/api/links/:link', 'signed-in')
