import { mixed, object, string } from 'yup'
import { LIMITS } from '../core/limits.ts'
import { codes } from './fields.ts'
import { plainRoute, route } from './route.ts'

/** When an announcement goes out: at once, or when the sheet opens. */
export type AnnounceWhen = 'now' | 'opening'

export interface AnnouncementView {
  code: string
  text: string
  when: AnnounceWhen
  madeAt: string
  /** When it went out, and to how many; null while it waits. */
  sentAt: string | null
  recipients: number
}

export interface AnnouncementsView {
  announcements: AnnouncementView[]
  /** Active students, who would get the next one. */
  students: number
  /** Since when the mail server takes no mail; null while it does. What is sent meanwhile goes once it is back. */
  mailAwaySince: string | null
  /** Mails of this sheet, whatever they say, that the mail server refused for good; newest first. */
  failed: { code: string; to: string; subject: string; at: string; fault: string }[]
}

export const announceBody = object({
  text: string()
    .trim()
    .required('Write what the students should read.')
    .max(LIMITS.brief, `An announcement holds ${LIMITS.brief.toLocaleString('en')} characters at most.`),
  when: mixed<AnnounceWhen>().oneOf(['now', 'opening'], 'It goes out now or at opening.').required(),
})

export const announcements = plainRoute<AnnouncementsView>()(
  'GET',
  '/api/sheets/:sheet/announcements',
  'staff',
)
/** Mails all active students of the course, with the sheet's link below the text. */
export const announce = route<AnnouncementsView>()(
  'POST',
  '/api/sheets/:sheet/announcements',
  'instructor',
  announceBody,
)
/** Puts mails of the sheet that were refused into the queue again, by their codes. */
export const sendAgain = route<AnnouncementsView>()(
  'POST',
  '/api/sheets/:sheet/mails/again',
  'instructor',
  object({ mails: codes(500).min(1, 'Say which mails.').required() }),
)
/** Takes back an announcement that waits for the opening. */
export const withdrawAnnouncement = plainRoute<AnnouncementsView>()(
  'DELETE',
  '/api/sheets/:sheet/announcements/:announcement',
  'instructor',
)
