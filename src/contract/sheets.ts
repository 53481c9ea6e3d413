import { array, boolean, type InferType, number, object, string } from 'yup'
import { isEmail } from '../core/email.ts'
import { LIMITS } from '../core/limits.ts'
import type { SheetState } from '../core/window.ts'
import type { SectionView } from './courses.ts'
import { plainRoute, route } from './route.ts'

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
  /** The newest ledger entry this view knows of; the live stream goes on from here. */
  rev: number
  /** The server's time when the view was made. */
  now: string
}

export interface TopicView {
  code: string
  title: string
  brief: string
  place: string
  /** The topic's own limit and floor, or null where it follows the sheet's common one. */
  seats: number | null
  floor: number | null
  /** Its groups, one per section, with the number of people seated. */
  groups: { code: string; section: string | null; taken: number }[]
}

export interface ComposeView extends SheetHead {
  instructions: string
  contact: string
  /** The common limit and the common floor. */
  seats: number
  floor: number
  sections: SectionView[]
  students: number
  topics: TopicView[]
  mayEdit: boolean
}

/** What a short address leads to. */
export interface LinkTarget {
  sheet: string
  title: string
  role: 'student' | 'staff'
}

const seats = number()
  .typeError('Seats are a whole number.')
  .integer('Seats are a whole number.')
  .min(1, 'A group has at least one seat.')
  .max(LIMITS.seats, `A group has ${LIMITS.seats} seats at most.`)
const floor = number()
  .typeError('The floor is a whole number.')
  .integer('The floor is a whole number.')
  .min(1, 'The floor is at least one.')
  .max(LIMITS.seats, `The floor is ${LIMITS.seats} at most.`)
const text = (what: string, most: number) =>
  string().max(most, `${what} holds ${most.toLocaleString('en')} characters at most.`)
const title = (what: string) => text(what, LIMITS.title).trim().min(1, `${what} is missing.`)
const localTime = string()
  .nullable()
  .matches(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}$/, {
    message: 'Give day and time as 2026-05-13T17:00.',
    excludeEmptyString: false,
  })

export const newSheetBody = object({ title: title('The title').required('The title is missing.') })
/** Fields left out stay as they are. Times are wall-clock times in the course's zone. */
export const sheetChanges = object({
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
  /** Which of the two instants is meant when a time occurs twice. */
  whichOpens: string().oneOf(['first', 'second'] as const),
  whichCloses: string().oneOf(['first', 'second'] as const),
  confirmed: boolean(),
})
export type SheetChanges = InferType<typeof sheetChanges>

export const newTopicBody = object({
  title: title('The topic’s title').required('The topic’s title is missing.'),
  brief: text('A brief', LIMITS.brief),
  place: text('A place', LIMITS.place),
  seats: seats.nullable(),
  floor: floor.nullable(),
})
export const topicChanges = object({
  title: title('The topic’s title'),
  brief: text('A brief', LIMITS.brief),
  place: text('A place', LIMITS.place),
  seats: seats.nullable(),
  floor: floor.nullable(),
  confirmed: boolean(),
})
export type TopicChanges = InferType<typeof topicChanges>

export const removeTopicBody = object({ confirmed: boolean() })
export const topicOrderBody = object({
  topics: array(string().required()).required().max(LIMITS.topics),
})

export const addSheet = route<ComposeView>()(
  'POST',
  '/api/courses/:course/sheets',
  'instructor',
  newSheetBody,
)
export const compose = plainRoute<ComposeView>()('GET', '/api/sheets/:sheet/compose', 'staff')
export const changeSheet = route<ComposeView>()('PATCH', '/api/sheets/:sheet', 'instructor', sheetChanges)
/** Makes the sheet visible to the course's students; it opens by its window. */
export const publishSheet = plainRoute<ComposeView>()('POST', '/api/sheets/:sheet/publish', 'instructor')
export const addTopic = route<ComposeView>()('POST', '/api/sheets/:sheet/topics', 'instructor', newTopicBody)
export const changeTopic = route<ComposeView>()(
  'PATCH',
  '/api/sheets/:sheet/topics/:topic',
  'instructor',
  topicChanges,
)
/** Takes a topic off the sheet. People seated there lose their seats, so it asks first. */
export const removeTopic = route<ComposeView>()(
  'POST',
  '/api/sheets/:sheet/topics/:topic/remove',
  'instructor',
  removeTopicBody,
)
/** Puts a removed topic back where it was, with its groups; seats that were lost stay lost. */
export const restoreTopic = plainRoute<ComposeView>()(
  'POST',
  '/api/sheets/:sheet/topics/:topic/restore',
  'instructor',
)
export const orderTopics = route<ComposeView>()(
  'PUT',
  '/api/sheets/:sheet/topics/order',
  'instructor',
  topicOrderBody,
)
export const followLink = plainRoute<LinkTarget>()('GET', '/api/links/:link', 'signed-in')
