import { array, boolean, type InferType, object, string } from 'yup'
import { LIMITS } from '../core/limits.ts'
import { codes, floor, localTime, seats, text, title, webLink } from './fields.ts'
import type { Restored } from './restored.ts'
import { LARGE, plainRoute, route } from './route.ts'
import type { ComposeView } from './sheets.ts'

const fields = {
  title: title('The topic’s title'),
  brief: text('A brief', LIMITS.brief),
  place: text('A place', LIMITS.place),
  link: webLink,
  startsAt: localTime,
  endsAt: localTime,
  seats: seats.nullable(),
  floor: floor.nullable(),
  /** Whether it has one group for all sections; null follows the sheet. */
  mixed: boolean().nullable(),
}

const exceptions = {
  offered: boolean(),
  seats: seats.nullable(),
  floor: floor.nullable(),
  place: text('A place', LIMITS.place).nullable(),
  link: webLink.nullable(),
  startsAt: localTime,
  endsAt: localTime,
}
export const holdBody = object({
  /** For whom, by the person's code in the course; null for a use that the note says. */
  person: string().nullable(),
  note: text('A note', LIMITS.place),
})

/** What a group of a new topic is to have of its own, in a section by its code, or null where it has one for everybody. */
const newGroup = object({
  section: string().nullable(),
  ...exceptions,
  /** Seats that are kept free in it. */
  held: array(holdBody.required()).max(LIMITS.seats),
})

export const newTopicBody = object({
  ...fields,
  title: fields.title.required('The topic’s title is missing.'),
  /** Of its groups, those that differ from it, or keep seats free. */
  groups: array(newGroup.required()).max(
    LIMITS.sections,
    'There are more groups than a course has sections.',
  ),
})
export type NewTopic = InferType<typeof newTopicBody>
/** One topic; with `only`, it has one group, in this section by its code. */
export const addTopicBody = newTopicBody.shape({ only: string() })
/** Seats that can be kept free by one list of topics. */
export const MOST_KEPT = 1_000
export const newTopicsBody = object({
  topics: array(newTopicBody)
    .required()
    .min(1, 'There is nothing to add.')
    .max(LIMITS.topics)
    .test(
      'kept',
      `A list keeps ${MOST_KEPT.toLocaleString('en')} seats free at most.`,
      (topics) =>
        (topics ?? []).reduce(
          (sum, topic) =>
            sum + (topic?.groups ?? []).reduce((own, group) => own + (group?.held?.length ?? 0), 0),
          0,
        ) <= MOST_KEPT,
    ),
})
export const topicChanges = object({
  ...fields,
  confirmed: boolean(),
  /** With `mixed`: seats those again who sat in groups that are back. */
  bringBack: boolean(),
  /** What its author saw of what is changed: where somebody else changed it meanwhile, it is refused. */
  was: object(fields).default(undefined).optional(),
})
export type TopicChanges = InferType<typeof topicChanges>
export const removeTopicBody = object({ confirmed: boolean() })
export const topicOrderBody = object({ topics: codes(LIMITS.topics).required() })

/** Exceptions of one group; null follows the topic again. */
export const groupChanges = object({
  ...exceptions,
  /** The member who is named convener, by the person's code in the course; null for nobody. */
  convener: string().nullable(),
  confirmed: boolean(),
  /** With `offered`: seats those again whom the group lost when it was closed. */
  bringBack: boolean(),
  /** What its author saw of what is changed: where somebody else changed it meanwhile, it is refused. */
  was: object(exceptions).default(undefined).optional(),
})
export type GroupChanges = InferType<typeof groupChanges>

/** Limits of several groups at once; null follows the topic again. */
export const limitsBody = object({
  changes: array(
    object({
      group: string().required(),
      seats: seats.nullable().defined(),
      /** What its author saw of it. */
      was: seats.nullable(),
    }),
  )
    .required()
    .max(LIMITS.topics * LIMITS.sections),
  confirmed: boolean(),
})

/** What changes in who looks after groups: whom each gets or loses, by their codes in the course; all others stay. */
export const tutorsBody = object({
  changes: array()
    .of(
      object({
        group: string().required(),
        add: codes(100).default([]),
        remove: codes(100).default([]),
      }),
    )
    .max(LIMITS.topics * LIMITS.sections, 'These are more groups than a sheet holds.')
    .min(1, 'No group is picked.')
    .required(),
})

export const addTopic = route<ComposeView>()('POST', '/api/sheets/:sheet/topics', 'instructor', addTopicBody)
/** Adds several topics in one go: all of them or none. */
export const addTopics = route<ComposeView>()(
  'POST',
  '/api/sheets/:sheet/topics/several',
  'instructor',
  newTopicsBody,
  LARGE,
)
/** `restored` says who sits again where that was asked for. */
export const changeTopic = route<ComposeView & { restored?: Restored }>()(
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
/** Puts a removed topic back where it was, with its groups and its people as far as they can return. */
export const restoreTopic = plainRoute<ComposeView & { restored: Restored }>()(
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
/** `restored` says who sits again where that was asked for. */
export const changeGroup = route<ComposeView & { restored?: Restored }>()(
  'PATCH',
  '/api/sheets/:sheet/groups/:group',
  'instructor',
  groupChanges,
)
export const changeLimits = route<ComposeView>()(
  'PUT',
  '/api/sheets/:sheet/limits',
  'instructor',
  limitsBody,
  LARGE,
)
/** Puts several groups into the care of exactly these tutors and instructors. */
export const assignTutors = route<ComposeView>()('PUT', '/api/sheets/:sheet/tutors', 'instructor', tutorsBody)
/** Keeps a seat of a group free. */
export const holdSeat = route<ComposeView>()(
  'POST',
  '/api/sheets/:sheet/groups/:group/held',
  'instructor',
  holdBody,
)
export const freeSeat = plainRoute<ComposeView>()(
  'DELETE',
  '/api/sheets/:sheet/groups/:group/held/:held',
  'instructor',
)
