import type { PlanContent } from '../../contract/plans.ts'
import { namesShown } from '../../core/rules.ts'
import { saySlot } from '../../core/zone.ts'
import type { Course } from '../courses/store.ts'
import { seatedByPlanMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import { membersOf } from '../seats/members.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'

/** Tells those whom a plan seated where they sit, when that is, and with whom as far as the house rules show it. */
export function tellSeated(
  sheet: Sheet,
  course: Course,
  { moves }: Pick<PlanContent, 'moves'>,
  stores: Stores,
  mailer: Mailer,
): void {
  const { sheets, roster } = stores
  const people = new Map(roster.everybody(course.id).map((enrolment) => [enrolment.code, enrolment]))
  const reader = { state: 'closed' as const, seated: true, inGroup: true }
  for (const { person, to } of moves) {
    const enrolment = people.get(person)
    const group = sheets.group(to)
    const topic = sheets.topicById(group?.topic_id ?? 0)
    if (!enrolment || !group || !topic) continue
    const mates = membersOf(group.id, stores).filter(
      ({ id, status }) => id !== enrolment.id && status === 'active',
    )
    const with_ = namesShown(sheet.names, reader) ? mates.map(({ name }) => name).join(', ') : ''
    const when = group.starts_at === null ? '' : saySlot(group.starts_at, group.ends_at, course.zone)
    const seat = { sheet: sheet.title, topic: topic.title, when, place: group.place, mates: with_ }
    mailer.send(seatedByPlanMail(enrolment.email, seat))
  }
}
