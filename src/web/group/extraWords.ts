import type { Extra } from '../../core/extras.ts'

/** What groups can get, in words. */
export const EXTRA_WORDS: Readonly<Record<Extra, string>> = {
  messages: 'Messages',
  talk: 'Talk',
  files: 'Files',
  calendar: 'Calendar',
  meeting: 'Meeting link',
  name: 'Name and emblem',
}
