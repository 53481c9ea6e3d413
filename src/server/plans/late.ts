import { DAY, type Instant, msOf } from '../../core/instant.ts'
import { lateSeatedMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { instructorsOf } from './closingWords.ts'

/** How the codes of plans begin that follow from the rule for late enrolments. */
export const LATE = 'late-'

/** Tells instructors once a day whom the rule for late enrolments seated since, and where. */
export function tellOfLate(unit: UnitOfWork, stores: Stores, mailer: Mailer, now: Instant): void {
  const { plans, sheets, ledger, courses, roster } = stores
  const sheetsOfRule = [...sheets.closedWithRules(now), ...sheets.openToLate(now)]
  for (const sheet of sheetsOfRule.filter(({ late }) => late === 'seat')) {
    const told = plans.lateTold(sheet.id)
    const newest = ledger.newest(sheet.id)
    if (newest <= (told?.position ?? 0)) continue
    if (told?.told_at && msOf(now) - msOf(told.told_at) < DAY) continue
    const course = courses.byId(sheet.course_id)
    const titles = new Map(sheets.topics(sheet.id).map(({ id, title }) => [id, title]))
    const seated = ledger
      .since(sheet.id, told?.position ?? 0)
      .flatMap(({ kind, detail, enrolment_id, to_group_id }) => {
        const plan = (JSON.parse(detail) as { plan?: unknown }).plan
        if (kind !== 'seat-taken' || typeof plan !== 'string' || !plan.startsWith(LATE)) return []
        const group = sheets.groupById(to_group_id ?? 0)
        return [`${roster.enrolment(enrolment_id ?? 0)?.name}: ${titles.get(group?.topic_id ?? 0)}`]
      })
    const words = 'instructors could not be told whom the rule for late enrolments seated'
    unit.apart(
      sheet,
      now,
      () => {
        plans.setLateTold(sheet.id, newest, seated.length > 0 ? now : (told?.told_at ?? null))
        if (!course || seated.length === 0) return
        for (const email of instructorsOf(course, stores))
          mailer.send(lateSeatedMail(email, { course: course.course_code, sheet: sheet.title, seated }))
      },
      words,
    )
  }
}

/**
 * Active students without a seat who came onto the roster, or came back, after the close, by code; after the opening
 * where the rule says so. While the sheet is open, whoever had a seat and gave it up chooses for themselves.
 */
export function lateOn(sheet: Sheet, { audience, seats, ledger }: Stores): string[] {
  const since = sheet.late_from === 'opening' ? sheet.opens_at : sheet.closes_at
  if (since === null) return []
  const late = audience.students(sheet).filter(({ here_since }) => here_since > since)
  if (late.length === 0) return []
  const seated = new Set(seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
  const chooses = ({ id, here_since }: Enrolment) =>
    (sheet.closes_at === null || here_since < sheet.closes_at) && ledger.everSeated(sheet.id, id)
  return late.filter((one) => !seated.has(one.id) && !chooses(one)).map(({ code }) => code)
}
