import { HOUR, type Instant, shift } from '../../core/instant.ts'
import { reaches } from '../groups/reach.ts'
import { namedDigestMail, namedMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import { namesFor } from '../seats/namesFor.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import type { Notice } from './noticeStore.ts'

/** Milliseconds between two mails to one person about one group's talk. */
export const PAUSE = HOUR

/**
 * Tells somebody that a post names them: at once where nothing was told for an hour, else together with what follows.
 * The caller holds the transaction.
 */
export function notice(one: Notice, now: Instant, stores: Stores, mailer: Mailer): void {
  const last = stores.notices.noticedAt(one.enrolment_id, one.group_id)
  if (last === undefined || last <= shift(now, -PAUSE)) tell([one], now, stores, mailer)
  else stores.notices.add(one)
}

/**
 * Sends what has waited for its hour, one mail for each person and group. Posts that were read meanwhile, or removed,
 * are left out. Found by query, so that a restart misses none; what fails is logged, tried again, and in no other's way.
 */
export function sendDueNotices(unit: UnitOfWork, stores: Stores, mailer: Mailer, now: Instant): void {
  const due = new Map<string, Notice[]>()
  for (const one of stores.notices.waiting(shift(now, -PAUSE))) {
    const key = `${one.enrolment_id} ${one.group_id}`
    due.set(key, [...(due.get(key) ?? []), one])
  }
  for (const notices of due.values()) {
    const [first] = notices
    const sheetId = first && stores.sheets.groupById(first.group_id)?.sheet_id
    if (!first || sheetId === undefined) continue
    const send = () => tell(notices, now, stores, mailer)
    unit.apart({ id: sheetId }, now, send, 'who was named could not be told; it is tried again')
  }
}

function tell(notices: readonly Notice[], now: Instant, stores: Stores, mailer: Mailer): void {
  const { talk, sheets, roster, courses } = stores
  for (const one of notices) stores.notices.drop(one)
  const [first] = notices
  const group = first && sheets.groupById(first.group_id)
  const sheet = group && sheets.byId(group.sheet_id)
  const course = sheet && courses.byId(sheet.course_id)
  const reader = first && roster.enrolment(first.enrolment_id)
  if (!first || !group || !sheet || !course || sheet.deleted_at !== null || reader?.status !== 'active')
    return
  // Whoever has left the group meanwhile, or whose sheet has no talk any more, is told nothing of it.
  if (!reaches(sheet, reader, group, stores) || !stores.groups.extrasFor(group).talk) return
  const nameOf = namesFor(sheet, reader, now, stores)
  const posts = notices.flatMap(({ post_id }) => {
    const post = talk.postById(post_id)
    const subject = post && talk.subjectById(post.subject_id)
    if (!post || !subject || post.removed_at !== null) return []
    if (talk.readUpTo(reader.id, subject.id) >= post.id) return []
    return [{ by: nameOf(post.by_id), subject: subject.title, text: post.text }]
  })
  const [only] = posts
  if (!only) return
  stores.notices.setNoticed(reader.id, first.group_id, now)
  const where = { to: reader.email, course: course.course_code, address: first.address }
  mailer.send(posts.length === 1 ? namedMail(where, only) : namedDigestMail(where, posts))
}
