import { wishWords } from '../../contract/wishWords.ts'
import { type Instant, MINUTE, shift } from '../../core/instant.ts'
import type { MoveReason } from '../../core/plan/types.ts'
import { namesShown } from '../../core/rules.ts'
import { saySlot } from '../../core/zone.ts'
import type { Course } from '../courses/store.ts'
import { seatedByPlanMail, seatTakenBackMail } from '../mail/letters.ts'
import type { Mailer } from '../mail/mailer.ts'
import { convenerIn, membersOf } from '../seats/members.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'

/** Milliseconds for which mail about seats is held, so that it can be recalled. */
const HELD = MINUTE

/**
 * Recalls mails about seats, and tells those to whom one went out already that it was taken back.
 * @param only where it was undone for one person alone: their address
 */
export function recallSeated(
  sheet: Sheet,
  cause: string,
  address: string,
  now: Instant,
  stores: Stores,
  mailer: Mailer,
  only: string | null = null,
): void {
  for (const to of new Set(stores.mail.recall(sheet.id, cause, now, only)))
    mailer.send(seatTakenBackMail(to, { sheet: sheet.title, address }))
}

/**
 * Tells people where they sit, when that is, with whom and who leads as far as the house rules show it.
 * @param address the sheet's public address; empty where it is not known
 * @param held the mails are held for a minute, in which whatever undoes the cause recalls them; null: they go at once
 */
export function tellSeated(
  sheet: Sheet,
  course: Course,
  seated: readonly { person: string; to: string; reason?: MoveReason }[],
  address: string,
  held: { cause: string; now: Instant } | null,
  stores: Stores,
  mailer: Mailer,
): void {
  const { sheets, roster } = stores
  const people = new Map(roster.everybody(course.id).map((enrolment) => [enrolment.code, enrolment]))
  const reader = { state: 'closed' as const, seated: true, inGroup: true }
  for (const { person, to, reason } of seated) {
    const enrolment = people.get(person)
    const group = sheets.group(to)
    const topic = sheets.topicById(group?.topic_id ?? 0)
    if (!enrolment || !group || !topic) continue
    const mates = membersOf(group.id, stores).filter(
      ({ id, status }) => id !== enrolment.id && status === 'active',
    )
    const shown = namesShown(sheet.names, reader)
    const with_ = shown ? mates.map(({ name }) => name).join(', ') : ''
    const leads = convenerIn(sheet, group, stores)
    const lead =
      leads === enrolment.id ? 'you' : shown ? (mates.find(({ id }) => id === leads)?.name ?? '') : ''
    const when = group.starts_at === null ? '' : saySlot(group.starts_at, group.ends_at, course.zone)
    const seat = {
      sheet: sheet.title,
      topic: topic.title,
      wish: wishSentence(reason),
      when,
      place: group.place,
      mates: with_,
      lead,
      address,
    }
    mailer.send({
      ...seatedByPlanMail(enrolment.email, seat),
      ...(held && { cause: held.cause, from: shift(held.now, HELD) }),
    })
  }
}

/** Which wish a seat is, where it was given by wishes to somebody who had some. */
function wishSentence(reason: MoveReason | undefined): string {
  if (reason?.code !== 'wish' || !reason.wished) return ''
  const why = reason.rank === 1 ? '' : ' Why you have no better one stands on the sheet.'
  return `That is ${wishWords(reason.rank)}.${why}`
}
