import { DAY, HOUR, type Instant, msOf, shift } from '../../core/instant.ts'
import { firstName } from '../../core/names.ts'
import { fillFields, mayNudge } from '../../core/nudge.ts'
import { sayLength, sheetState } from '../../core/window.ts'
import { sayInstant } from '../../core/zone.ts'
import type { Course } from '../courses/store.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { rankedOn } from '../wishes/lists.ts'
import type { Nudge } from './store.ts'

/** What the fields of a nudge stand for, the same for everybody. */
export function sheetFields(sheet: Sheet, course: Course, address: string, now: Instant) {
  const { closes_at: closes } = sheet
  return {
    sheet: sheet.title,
    course: `${course.course_code} ${course.title}`,
    closes: closes === null ? 'at a time to be said' : sayInstant(closes, course.zone),
    timeLeft: closes === null || closes <= now ? 'no time' : sayLength(msOf(closes) - msOf(now)),
    link: address,
  }
}

/** How many nudges each person got within the last day, by code. */
export function sentToday(sheetId: number, now: Instant, { nudges, roster }: Stores): Map<string, number> {
  const since = shift(now, -DAY)
  const sent = new Map<string, number>()
  for (const { enrolment_id, at } of nudges.nudgedOn(sheetId)) {
    if (at <= since) continue
    const code = roster.enrolment(enrolment_id)?.code ?? ''
    sent.set(code, (sent.get(code) ?? 0) + 1)
  }
  return sent
}

/**
 * Writes to people, each with the fields filled in for them. The caller holds the transaction.
 * @returns names of those left out because they got the day's number already; only people without a group count
 */
export function sendNudge(
  nudge: Nudge,
  sheet: Sheet,
  course: Course,
  people: readonly Enrolment[],
  now: Instant,
  stores: Stores,
  mailer: Mailer,
): { sent: number; skipped: string[] } {
  const { nudges, seats, sheets } = stores
  const seatOf = new Map(
    seats.ofSheet(sheet.id).map(({ enrolment_id, group_id }) => [enrolment_id, group_id]),
  )
  const without = people.filter(({ id }) => !seatOf.has(id)).map(({ code }) => code)
  const allowed = new Set(mayNudge(without, sentToday(sheet.id, now, stores), sheet.nudges_a_day))
  const common = sheetFields(sheet, course, nudge.address, now)
  const skipped: string[] = []
  let sent = 0
  for (const enrolment of people) {
    const at = seatOf.get(enrolment.id)
    if (at === undefined && !allowed.has(enrolment.code)) {
      skipped.push(enrolment.name)
      continue
    }
    const topic = sheets.topicById(sheets.groupById(at ?? 0)?.topic_id ?? 0)?.title
    const values = {
      ...common,
      'time left': common.timeLeft,
      name: enrolment.name,
      'first name': firstName(enrolment),
      group: topic ?? 'no group yet',
    }
    const mailId = mailer.send({
      to: enrolment.email,
      subject: fillFields(nudge.subject, values),
      text: fillFields(nudge.text, values),
    })
    nudges.addNudged(nudge.id, enrolment.id, mailId, now)
    sent += 1
  }
  nudges.sent(nudge.id, now)
  return { sent, skipped }
}

/** When an automatic nudge is due; null while its sheet has no close. */
export function dueAt({ before_close }: Nudge, { closes_at }: Sheet): Instant | null {
  return before_close === null || closes_at === null ? null : shift(closes_at, -before_close * HOUR)
}

/** Active students who have still to do something on a sheet: those without a seat, or, where topics are ranked, without an order that counts. */
export function lacking(sheet: Sheet, stores: Stores): Enrolment[] {
  const { audience, seats } = stores
  const done =
    sheet.road === 'wished'
      ? rankedOn(sheet, stores)
      : new Set(seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
  return audience.students(sheet).filter(({ id }) => !done.has(id))
}

/**
 * Sends the automatic nudges whose time has come, to those who have no group at that moment. One whose time passed
 * while the sheet was not open is marked as gone, to nobody. One that fails is logged and tried again, and is in no
 * other's way.
 */
export function sendDueNudges(unit: UnitOfWork, stores: Stores, mailer: Mailer, now: Instant): void {
  for (const nudge of stores.nudges.waiting()) {
    const send = () => sendIfDue(nudge, stores, mailer, now)
    unit.apart({ id: nudge.sheet_id }, now, send, 'a nudge could not go out; it is tried again')
  }
}

function sendIfDue(nudge: Nudge, stores: Stores, mailer: Mailer, now: Instant): void {
  const sheet = stores.sheets.byId(nudge.sheet_id)
  const course = sheet && stores.courses.byId(sheet.course_id)
  if (!sheet || !course || sheet.deleted_at !== null) return
  const due = dueAt(nudge, sheet)
  if (due === null || due > now) return
  const state = sheetState(windowOf(sheet), now)
  if (state === 'draft' || state === 'scheduled') return
  const people = state === 'open' ? lacking(sheet, stores) : []
  sendNudge(nudge, sheet, course, people, now, stores, mailer)
}
