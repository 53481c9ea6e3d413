import { MIB } from './files.ts'

/** What groups can get on their page. */
export const EXTRAS = ['messages', 'talk', 'files', 'meeting', 'name'] as const
export type Extra = (typeof EXTRAS)[number]

/** What the groups of a sheet get, and who may do what with it. */
export type GroupExtras = Record<Extra, boolean> & {
  /** Who starts a subject in the talk; members reply to any. */
  starts: 'everybody' | 'staff'
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
  meeting: false,
  name: false,
  starts: 'everybody',
  meetingBy: 'staff',
  fileBytes: 25 * MIB,
  groupBytes: 250 * MIB,
}

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
