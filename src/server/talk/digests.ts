import { isOnSheet } from '../../core/groupState.ts'
import { DAY, HOUR, type Instant, MINUTE, shift } from '../../core/instant.ts'
import { type UnreadGroup, unreadMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import type { Digest } from './digestStore.ts'

/** Milliseconds between two digests for one person, and between two looks where there was nothing to send. */
export const APART = DAY
const LOOKS = 15 * MINUTE
/** How long a post waits to be read on the page before a digest tells of it. */
export const UNREAD_FOR = HOUR
/** People who are looked at in one go. */
const AT_ONCE = 50

/**
 * Sends each who wants it what they have not read in their groups, once a day at most, and only where something came
 * since the last. Found by query, so that a restart misses nobody; what fails is logged, tried again, and in no other's way.
 */
export function sendDueDigests(unit: UnitOfWork, stores: Stores, mailer: Mailer, now: Instant): void {
  for (const digest of stores.digests.due(now, AT_ONCE)) {
    const { groups, newest, sheet, email } = unreadOf(digest, now, stores)
    if (!sheet || newest <= digest.up_to) {
      stores.digests.lookAgain(digest.person_id, shift(now, LOOKS), digest.up_to)
      continue
    }
    const send = () => {
      mailer.send(unreadMail(email, groups, digest.address))
      stores.digests.lookAgain(digest.person_id, shift(now, APART), newest)
    }
    unit.apart(sheet, now, send, 'unread talk could not be sent; it is tried again')
  }
}

/** What somebody has not read, by group, with the newest of its posts and the first sheet that it is about. */
function unreadOf({ person_id }: Digest, now: Instant, stores: Stores) {
  const { roster, courses, sheets, digests, groups: extras } = stores
  const found: UnreadGroup[] = []
  let newest = 0
  let about: Sheet | null = null
  for (const enrolment of roster.enrolmentsOfPerson(person_id)) {
    const course = courses.byId(enrolment.course_id)
    if (!course || course.archived_at !== null || enrolment.status !== 'active') continue
    for (const sheet of sheets.ofCourse(course.id)) {
      if (sheet.archived_at !== null) continue
      for (const group of groupsOf(enrolment, sheet, stores)) {
        if (!extras.extrasFor(group).talk) continue
        const subjects = digests.unread(group.id, enrolment.id, shift(now, -UNREAD_FOR))
        if (subjects.length === 0) continue
        about ??= sheet
        newest = Math.max(newest, ...subjects.map((one) => one.newest))
        found.push({
          group: `${sheets.topicById(group.topic_id)?.title ?? ''} (${course.course_code}, ${sheet.title})`,
          path: `/sheets/${sheet.code}/groups/${group.code}`,
          subjects: subjects.map(({ title, posts }) => ({ title, posts })),
        })
      }
    }
  }
  return { groups: found, newest, sheet: about, email: roster.personById(person_id)?.email ?? '' }
}

/** The groups whose talk somebody reads: the own ones, those looked after, and for instructors all. */
function groupsOf(enrolment: Enrolment, sheet: Sheet, { seats, sheets }: Stores): Group[] {
  if (enrolment.role === 'student')
    return seats.heldBy(sheet.id, enrolment.id).flatMap(({ group_id }) => sheets.groupById(group_id) ?? [])
  const all = sheets.groups(sheet.id).filter(isOnSheet)
  if (enrolment.role === 'instructor') return all
  const care = new Set(
    sheets
      .tutors(sheet.id)
      .flatMap(({ group_id, enrolment_id }) => (enrolment_id === enrolment.id ? [group_id] : [])),
  )
  return all.filter(({ id }) => care.has(id))
}
