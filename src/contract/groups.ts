import { boolean, mixed, number, object, string } from 'yup'
import { EMBLEMS, type GroupExtras, STARTS, type Starts } from '../core/extras.ts'
import { MIB, sayBytes } from '../core/files.ts'
import { LIMITS } from '../core/limits.ts'
import type { SectionView } from './courses.ts'
import { text, title, webLink } from './fields.ts'
import type { GroupFileView } from './files.ts'
import type { GroupCalendar } from './groupCalendar.ts'
import { plainRoute, route } from './route.ts'
import type { SheetHead } from './sheets.ts'
import type { SubjectHead } from './talk.ts'
import type { WorkState } from './tasks.ts'

/** A group as the list of all groups shows it. */
export interface GroupLine {
  code: string
  topic: { code: string; title: string }
  section: string | null
  /** The group’s own name and emblem; empty where it has none. */
  name: string
  emblem: string
  members: { code: string; name: string }[]
  convener: string | null
  tutors: { code: string; name: string }[]
  /** Whether the reader looks after it. */
  yours: boolean
  /** Posts that the reader has not read. */
  unread: number
  files: number
  /** Tasks that are due and for which nothing is handed in. */
  missing: number
  /** Whether it gets something else than all groups. */
  differs: boolean
}

export interface GroupsView extends SheetHead {
  sections: SectionView[]
  extras: GroupExtras
  /** How much is kept of each extra, so that one sees what turning it off would hide. */
  kept: { talk: number; files: number; messages: number }
  groups: GroupLine[]
  mayEdit: boolean
}

/** A message that went to everybody of a group. */
export interface GroupMessage {
  code: string
  by: string
  subject: string
  text: string
  sentAt: string
  /** How many it went to. */
  reached: number
}

/** A task as the page of a group lists it. */
export interface GroupTask {
  code: string
  title: string
  dueAt: string | null
  /** How the group’s work stands. */
  state: WorkState
  /** Whether it can be handed in now. */
  open: boolean
}

/** Something that happened in a group. */
export interface Happening {
  at: string
  /** Who did it, by name; empty when it happened by itself. */
  by: string
  kind:
    | 'came'
    | 'went'
    | 'handed-in'
    | 'taken-back'
    | 'subject'
    | 'post'
    | 'file'
    | 'file-version'
    | 'file-removed'
    | 'message'
    | 'place'
    | 'meeting'
  /** What it was about: a title, or a file’s name. */
  what: string
}

/** The page of one group. */
export interface GroupPage {
  now: string
  /** The newest ledger entry that the answer knows of. */
  rev: number
  sheet: {
    code: string
    title: string
    course: string
    courseCode: string
    zone: string
    archived: boolean
  }
  code: string
  /** As what the reader is here. */
  as: 'member' | 'tutor' | 'instructor'
  topic: { title: string; brief: string }
  section: string | null
  startsAt: string | null
  endsAt: string | null
  place: string
  link: string
  /** Empty where the group has none, or where names of groups are off. */
  name: string
  emblem: string
  /** How many sit here. */
  size: number
  /** Those who sit here, as far as the house rules show them; addresses for a mail to all. */
  members: { code: string; name: string; email: string; you: boolean }[]
  convener: string | null
  tutors: { code: string; name: string; email: string }[]
  /** Whom a post can name. */
  people: { code: string; name: string }[]
  extras: GroupExtras
  /** Whether this group gets something else than all of the sheet; null for members, who are not told. */
  extrasDiffer: boolean | null
  meeting: string
  tasks: GroupTask[]
  messages: GroupMessage[]
  talk: SubjectHead[]
  /** Null where groups have no calendar. */
  calendar: GroupCalendar | null
  files: GroupFileView[]
  /** Bytes that its files have together. */
  bytes: number
  lately: Happening[]
  /** What the reader may do as its convener: seat people now, and take out whom, by code; null for others. */
  convening: { seat: boolean; out: Record<string, 'now' | 'ask' | 'asked'> } | null
  /** Whether the reader’s convener has asked them to leave. */
  askedToLeave: boolean
  /** Whether the reader opens threads within a subject, and replies to a subject itself. */
  may: {
    write: boolean
    meeting: boolean
    name: boolean
    start: boolean
    thread: boolean
    replyToSubject: boolean
  }
}

const bytes = (what: string, most: number) =>
  number()
    .typeError(`${what} is a number of bytes.`)
    .integer(`${what} is a whole number of bytes.`)
    .min(MIB, `${what} is 1 MiB at least.`)
    .max(most, `${what} is ${sayBytes(most)} at most.`)

/** Fields left out stay as they are. */
export const extrasBody = object({
  messages: boolean(),
  talk: boolean(),
  files: boolean(),
  meeting: boolean(),
  name: boolean(),
  calendar: boolean(),
  starts: mixed<Starts>().oneOf([...STARTS]),
  meetingBy: mixed<GroupExtras['meetingBy']>().oneOf(['staff', 'convener']),
  fileBytes: bytes('The limit of a file', 500 * MIB),
  groupBytes: bytes('The limit of a group', 5_000 * MIB),
})
/** What one group gets otherwise than all; what is left out is as for all. */
export const ownExtrasBody = object({
  messages: boolean(),
  talk: boolean(),
  files: boolean(),
  meeting: boolean(),
  name: boolean(),
  calendar: boolean(),
  starts: mixed<Starts>().oneOf([...STARTS]),
  meetingBy: mixed<GroupExtras['meetingBy']>().oneOf(['staff', 'convener']),
})
export const placeBody = object({
  meeting: webLink,
  name: text('The group’s name', 60).trim(),
  emblem: string().oneOf(['', ...EMBLEMS], 'Choose one of the emblems.'),
})
export const messageBody = object({
  subject: title('The subject').required('The subject is missing.'),
  text: text('The message', LIMITS.brief).trim().required('The message is missing.'),
})

/** All groups of a sheet; a tutor gets the own ones alone. */
export const groupList = plainRoute<GroupsView>()('GET', '/api/sheets/:sheet/groups', 'staff')
/** Chooses what the groups of a sheet get. What is turned off is hidden and kept. */
export const setExtras = route<GroupsView>()('PUT', '/api/sheets/:sheet/extras', 'instructor', extrasBody)
/** Chooses what one group gets otherwise than all, in place of what was chosen for it before. */
export const setOwnExtras = route<GroupPage>()(
  'PUT',
  '/api/sheets/:sheet/groups/:group/extras',
  'instructor',
  ownExtrasBody,
)
/** The page of a group, for its members, its tutors and the instructors; not found for everybody else. */
export const groupPage = plainRoute<GroupPage>()('GET', '/api/sheets/:sheet/groups/:group', 'member')
/** Sets the meeting link, the name or the emblem of a group. */
export const setPlace = route<GroupPage>()(
  'PATCH',
  '/api/sheets/:sheet/groups/:group/place',
  'member',
  placeBody,
)
/** Sends a mail to everybody of the group and its tutors, and keeps it on the page. */
export const sendMessage = route<GroupPage>()(
  'POST',
  '/api/sheets/:sheet/groups/:group/messages',
  'member',
  messageBody,
)
/** Takes a file of the group away; it can be brought back for 30 days. */
export const removeGroupFile = plainRoute<GroupPage>()(
  'DELETE',
  '/api/sheets/:sheet/groups/:group/files/:file',
  'member',
)
export const restoreGroupFile = plainRoute<GroupPage>()(
  'POST',
  '/api/sheets/:sheet/groups/:group/files/:file/restore',
  'member',
)
