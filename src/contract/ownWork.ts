import { array, boolean, mixed, number, object, string } from 'yup'
import { MOST_FILES } from '../core/files.ts'
import { LIMITS } from '../core/limits.ts'
import type { Criterion } from '../core/marks.ts'
import type { LateHandIn, TaskGate } from '../core/task.ts'
import { codes, isWebLink, text } from './fields.ts'
import type { FileView } from './files.ts'
import { LARGE, plainRoute, route } from './route.ts'
import { type HandInView, MOST_TEXT } from './tasks.ts'

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

/** What a student says of how the work was shared, and is told of what the others said. */
export interface OwnShares {
  /** False before there is something to share, and once marks are out. */
  open: boolean
  others: { code: string; name: string }[]
  /** Points to give to the others together. */
  toGive: number
  /** What the reader gave; null for nothing yet. */
  given: { points: Record<string, number>; words: string } | null
  /** What the reader was given on average, where the rule shows it and enough have given. */
  average: number | null
}

/** A task as one student has it. What it is worth and asks is not there while it is locked. */
export interface OwnTask {
  code: string
  title: string
  /** False where nothing is handed in. */
  handsIn: boolean
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
    /** The most words that the text may have; null where that is free. */
    mostWords: number | null
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
    /** How many remarks are on the work, once its mark is out. */
    remarks: number
    /** Files that went back with the mark. */
    feedbackFiles: FileView[]
    /** How the work was shared, where that is asked and there are others; null else. */
    shares: OwnShares | null
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

/** Most links in one hand-in. */
export const MOST_LINKS = 20

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
  /** True once it was read that a version in time stands, and that this one is late and counts instead. */
  instead: boolean(),
})
export const draftBody = object({
  group,
  text: written,
  links,
  /** When the draft was saved that this one follows; null for none. Left out, it follows whatever there is. */
  over: string().nullable().max(40),
})
export const ownerBody = object({ group })
export const sharesBody = object({
  group: string().required(),
  /** Points for each of the others, by code. */
  points: mixed<Record<string, number>>()
    .required()
    .test('points', 'Each of the others has points.', (value) => {
      const all = Object.values(value ?? {})
      return all.length <= 200 && all.every((one) => typeof one === 'number')
    }),
  words: text('What you say', 1_000).trim().default(''),
})

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
/** Says how the work was shared among the others, in private. */
export const setShares = route<OwnWork>()(
  'PUT',
  '/api/sheets/:sheet/tasks/:task/shares',
  'student',
  sharesBody,
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
