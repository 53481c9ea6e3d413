import type { Instant } from '../../core/instant.ts'
import { sheetState } from '../../core/window.ts'
import { announcementMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import type { Announcement } from './store.ts'

/**
 * Sends the announcements that are due: those for now, and those for the opening once their sheet is open. Found by
 * query, so that a restart misses none. One that fails is logged and tried again, and is in no other's way.
 */
export function sendDueAnnouncements(unit: UnitOfWork, stores: Stores, mailer: Mailer, now: Instant): void {
  for (const announcement of stores.announcements.waiting()) {
    const send = () => sendIfDue(announcement, stores, mailer, now)
    unit.apart(
      { id: announcement.sheet_id },
      now,
      send,
      'an announcement could not go out; it is tried again',
    )
  }
}

/**
 * Sends an announcement if its time has come, within the transaction of the caller: it is marked as sent where it is
 * handed to the mailer, so that none goes out twice. What belongs to a deleted or archived sheet waits.
 */
export function sendIfDue(announcement: Announcement, stores: Stores, mailer: Mailer, now: Instant): void {
  const { announcements, sheets, courses } = stores
  const sheet = sheets.byId(announcement.sheet_id)
  if (!sheet || sheet.deleted_at !== null || sheet.archived_at !== null) return
  const state = sheetState(windowOf(sheet), now)
  if (announcement.goes !== 'now' && state !== 'open' && state !== 'closed') return
  const course = courses.byId(sheet.course_id)
  const students = stores.audience.students(sheet)
  announcements.sent(announcement.id, now, students.length)
  const { text, address } = announcement
  const said = { course: course?.course_code ?? '', sheet: sheet.title, text, address }
  for (const { email } of students) {
    mailer.send(announcementMail(email, said))
  }
}
