import type { Instant } from '../../core/instant.ts'
import { sheetState } from '../../core/window.ts'
import type { Db } from '../db/open.ts'
import type { Mailer } from '../mail/mailer.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'

/**
 * Sends the announcements that are due: those for now, and those for the opening once their sheet is open. Found by
 * query, so that a restart misses none; marked as sent in the transaction that hands them to the mailer, so that
 * none goes out twice.
 */
export function sendDueAnnouncements(db: Db, stores: Stores, mailer: Mailer, now: Instant): void {
  const { announcements, sheets, roster, courses } = stores
  for (const announcement of announcements.waiting()) {
    const sheet = sheets.byId(announcement.sheet_id)
    if (!sheet || sheet.deleted_at !== null) continue
    const state = sheetState(windowOf(sheet), now)
    const due = announcement.goes === 'now' || state === 'open' || state === 'closed'
    if (!due) continue
    const course = courses.byId(sheet.course_id)
    db.transaction(() => {
      const students = roster.students(sheet.course_id)
      announcements.sent(announcement.id, now, students.length)
      for (const { email } of students) {
        mailer.send({
          to: email,
          subject: `${course?.course_code ?? ''}: ${sheet.title}`,
          text: `${announcement.text}\n\n${announcement.address}`,
        })
      }
    }).immediate()
  }
}
