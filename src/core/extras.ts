import { MIB } from './files.ts'

/** What groups can get on their page. */
export const EXTRAS = ['messages', 'talk', 'files', 'calendar', 'meeting', 'name'] as const
export type Extra = (typeof EXTRAS)[number]

/** Who opens what in a group's talk. */
export type Starts = 'everybody' | 'threads' | 'staff'
export const STARTS = ['everybody', 'threads', 'staff'] as const satisfies readonly Starts[]

/** What the groups of a sheet get, and who may do what with it. */
export type GroupExtras = Record<Extra, boolean> & {
  /** Who opens a subject in the talk. Members reply to any; with `threads` they open threads within those of the staff. */
  starts: Starts
  /** Who sets the meeting link; instructors and tutors always may. */
  meetingBy: 'staff' | 'convener'
  /** Bytes that one file may have, and all files of one group. */
  fileBytes: number
  groupBytes: number
}

/** Every extra stays off until it is wanted, but messages. */
export const FIRST_EXTRAS: GroupExtras = {
  messages: true,
  talk: false,
  files: false,
  calendar: false,
  meeting: false,
  name: false,
  starts: 'everybody',
  meetingBy: 'staff',
  fileBytes: 25 * MIB,
  groupBytes: 250 * MIB,
}

/** What one group gets otherwise than all groups of its sheet. */
export type OwnExtras = Partial<Omit<GroupExtras, 'fileBytes' | 'groupBytes'>>

/** Emblems that a group can choose from, by the names of the drawings that ship with the application. */
export const EMBLEMS = [
  'wheat',
  'grape',
  'apple',
  'carrot',
  'cherry',
  'milk',
  'beer',
  'croissant',
  'soup',
  'flask',
  'microscope',
  'leaf',
  'sprout',
  'droplet',
  'flame',
  'snowflake',
  'sun',
  'moon',
  'fish',
  'snail',
] as const
export type Emblem = (typeof EMBLEMS)[number]
