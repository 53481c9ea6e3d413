import { array, boolean, number, object, string } from 'yup'
import { isEmail, normalEmail } from '../core/email.ts'
import { MOST_MATES, MOST_WISHES } from '../core/rules.ts'
import type { Slot } from '../core/times.ts'
import { MOST_REASON } from '../core/wishes/list.ts'
import type { WhyNot } from '../core/wishes/reasons.ts'
import type { WishRecord } from '../core/wishes/record.ts'
import type { WishAim } from '../core/wishes/types.ts'
import { plainRoute, route } from './route.ts'

/** A topic as somebody who ranks may see it. */
export interface WishTopic {
  code: string
  title: string
  brief: string
  /** Seats that are open to the student in all groups of it that are; 0 is no limit. */
  seats: number
  /** Where and when its groups meet, as far as that is known. */
  slots: (Slot & { place: string })[]
  /** How many want it first, and how many want it at all, by lists that count; null where the rules do not show it. */
  demand: { first: number; all: number } | null
}

/** What a student wishes for, topics by their codes. */
export interface OwnList {
  /** Names the list in a record without names; null before anything was kept. */
  code: string | null
  ranks: string[][]
  cannot: { topic: string; reason: string }[]
  /** With whom the student would sit, by address, and whether that comes before topics. */
  mates: { people: string[]; first: boolean }
  /** Names of the mates, where each of them has named all the others; null as long as that is not so. */
  agreed: string[] | null
  /** Counts up with each change; 0 before anything was kept. */
  version: number
  savedAt: string | null
  /** The server's time when this was read. */
  now: string
}

/** A sheet by wishes as one student has it; seats may be taken as they come since. */
export interface OwnWishes extends OwnList {
  topics: WishTopic[]
  /** As of when the demand is; null where none is shown. */
  demandAt: string | null
  /** Titles of topics that the student had listed and that are not offered any more. */
  gone: string[]
  /** Once seats were given, by round, the first one first; none for a student who was not there then. */
  outcomes: WishOutcomeTold[]
}

/** What a student was given in one round. */
export interface WishOutcomeTold {
  /** Which seat of each person the round gave: 1, where everybody has one. */
  round: number
  seated: boolean
  /** Which wish it is, from 1; null for none of theirs. */
  rank: number | null
  /** Whether an order of theirs counted. */
  ranked: boolean
}

/** Why a student has none of the wishes that they like better, and by what it can be checked. */
export interface OwnWhy {
  aim: WishAim
  lotNumber: number
  /** The student's place in the lot, null for somebody for whom no seat was looked for; and among how many. */
  place: number | null
  of: number
  /** The code of the student's own row. */
  code: string
  rank: number | null
  topic: string | null
  /** The most wanted first; topics by their titles. */
  whyNot: (Omit<WhyNot, 'instead'> & {
    title: string
    /** With `aim`: how many would then have each wish, and how many have it now. */
    instead: { byRank: number[]; none: number; left: number } | null
  })[]
  now: { byRank: number[]; none: number; left: number }
  /** Whether the record without names is handed out. */
  record: boolean
}

/** What chances a student has under the wishes there are, over many lots. */
export interface OwnOdds {
  /** As of when. */
  at: string
  draws: number
  /** How often the student came to each wish, to a seat that is none of them, to no seat. */
  byRank: number[]
  none: number
  left: number
  /** The version of the student’s order that was drawn with; null where none counted. */
  version: number | null
}

/** How much each group is wanted, who has ranked what, as staff see it. */
export interface WishesView {
  now: string
  /** Per active student with a list that counts, or one that is begun. */
  lists: {
    person: string
    /** Topics by their codes. */
    ranks: string[][]
    cannot: { topic: string; reason: string }[]
    /** By code, mates who have all named each other, and whether that comes before topics; null for none. */
    mates: { people: string[]; first: boolean } | null
    savedAt: string
    counts: boolean
  }[]
  /** Rounds of seats that were given and stand, the first one first. */
  settled: { round: number; plan: string; at: string; handedOut: boolean }[]
}

const topic = string().required('A topic is named by its code.').max(64)

/**
 * Topics by rank; equal wishes stand together.
 * @param missing what is said where there are none
 */
export const ranksField = (missing: string) =>
  array(
    array(topic)
      .required()
      .min(1, 'A rank has a topic at least.')
      .max(MOST_WISHES, `${MOST_WISHES} topics are the most.`),
  )
    .required(missing)
    .max(MOST_WISHES, `${MOST_WISHES} ranks are the most.`)

export const wishesBody = object({
  ranks: ranksField('Say what is ranked; an empty list is none.'),
  cannot: array(
    object({
      topic,
      reason: string().trim().defined().max(MOST_REASON, `A reason holds ${MOST_REASON} characters at most.`),
    }).required(),
  )
    .max(MOST_WISHES, `${MOST_WISHES} topics are the most.`)
    .default([]),
  mates: object({
    people: array(
      string()
        .required('A mate is named by a mail address.')
        .transform((typed: unknown) => (typeof typed === 'string' ? normalEmail(typed) : typed))
        .test('email', 'That is no mail address: one @ and a domain are needed.', (value) =>
          isEmail(value ?? ''),
        ),
    )
      .max(MOST_MATES, `${MOST_MATES} mates are the most.`)
      .default([]),
    first: boolean().default(false),
  }).default({ people: [], first: false }),
  /** The version that this changes; 0 for the first. */
  over: number().integer().min(0).required('Say which version this changes.'),
})
export const recordBody = object({ handedOut: boolean().required() })

/** Keeps a student's list; nothing is given out before the close. A list that is too short is kept and does not count yet. */
export const saveWishes = route<OwnList>()('PUT', '/api/sheets/:sheet/wishes', 'student', wishesBody)
/** Why the student has what they have by a round, computed from what the seats were given by. */
export const ownWhy = plainRoute<OwnWhy>()('GET', '/api/sheets/:sheet/wishes/why/:round', 'student')
/** What chances the student has, where the house rules show them; drawn anew every few minutes. */
export const ownOdds = plainRoute<OwnOdds>()('GET', '/api/sheets/:sheet/wishes/odds', 'student')
/** What everybody wishes for, for staff. */
export const wishes = plainRoute<WishesView>()('GET', '/api/sheets/:sheet/wishes', 'staff')
/** The record of a round without names: for staff, and for students of the sheet once it is handed out. */
export const wishRecord = plainRoute<WishRecord>()('GET', '/api/sheets/:sheet/wishes/record/:round', 'member')
/** Hands the records out to the students of the sheet, or takes them back. */
export const handOutRecord = route<WishesView>()(
  'PUT',
  '/api/sheets/:sheet/wishes/record',
  'instructor',
  recordBody,
)
