import { number, object, string } from 'yup'
import { LIMITS } from '../core/limits.ts'
import { unknownFields } from '../core/nudge.ts'
import { codes } from './fields.ts'
import { plainRoute, route } from './route.ts'

/** Somebody who can be written to, and how they stand. */
export interface NudgePerson {
  code: string
  name: string
  /** What a nudge addresses them by. */
  firstName: string
  section: string | null
  /** The groups in which they sit, by code; none is somebody without a group. */
  groups: string[]
  /** Where topics are ranked: whether they have ranked enough to count; null elsewhere. */
  ranked: boolean | null
  /** When they opened the sheet first and last; null for never. */
  firstOpened: string | null
  lastOpened: string | null
  /** When they were written to last. */
  lastNudged: string | null
  /** How many nudges they got within the last day. */
  today: number
}

/** A nudge that went out, or goes by itself before the close. */
export interface NudgeView {
  code: string
  subject: string
  text: string
  /** Hours before the close at which it goes; null went at once. */
  beforeClose: number | null
  /** When an automatic one is due; null without a close. */
  dueAt: string | null
  madeAt: string
  sentAt: string | null
  /** Those it went to: how their mail stands, and whether they have a group by now. */
  recipients: {
    person: string
    name: string
    state: 'kept' | 'waiting' | 'sent' | 'failed'
    fault: string | null
    seatedNow: boolean
  }[]
}

export interface NudgesView {
  people: NudgePerson[]
  nudges: NudgeView[]
  /** Nudges that one person may get within a day. */
  aDay: number
  /** What the fields of a text stand for, for each person: name, group; and for all. */
  fields: { sheet: string; course: string; closes: string; timeLeft: string; link: string }
  now: string
}

const noUnknown = (value: string | undefined) => unknownFields(value ?? '').length === 0
const words = (what: string, most: number) =>
  string()
    .trim()
    .required(`${what} is missing.`)
    .max(most, `${what} holds ${most.toLocaleString('en')} characters at most.`)
    .test(
      'fields',
      ({ value }) => `There is no field ${unknownFields(value)[0]}. Pick one from the list.`,
      noUnknown,
    )
const subject = words('The subject', LIMITS.title)
const text = words('The text', LIMITS.brief)

export const nudgeBody = object({
  subject,
  text,
  /** Who gets it, by code. */
  people: codes(LIMITS.rosterLines).required().min(1, 'Nobody is picked.'),
})
export const automaticNudgeBody = object({
  subject,
  text,
  hours: number()
    .typeError('Hours are a number.')
    .required('Say how many hours before the close.')
    .min(0.25, 'A quarter of an hour before the close is the latest.')
    .max(24 * 30, 'Thirty days before the close are the earliest.'),
})

/** Whom there is to write to, and what went out. */
export const nudges = plainRoute<NudgesView>()('GET', '/api/sheets/:sheet/nudges', 'staff')
/** Writes to people at once. Those without a group who got the day's number already are left out, and named. */
export const nudge = route<NudgesView & { skipped: string[]; sent: number }>()(
  'POST',
  '/api/sheets/:sheet/nudges',
  'instructor',
  nudgeBody,
)
/** Sets a nudge that goes by itself, before the close, to those who have no group then. */
export const addAutomaticNudge = route<NudgesView>()(
  'POST',
  '/api/sheets/:sheet/nudges/automatic',
  'instructor',
  automaticNudgeBody,
)
/** Takes back an automatic nudge that has not gone yet. */
export const dropNudge = plainRoute<NudgesView>()('DELETE', '/api/sheets/:sheet/nudges/:nudge', 'instructor')
