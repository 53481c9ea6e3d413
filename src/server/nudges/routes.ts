import * as contract from '../../contract/nudges.ts'
import type { Instant } from '../../core/instant.ts'
import { firstName } from '../../core/names.ts'
import type { Course } from '../courses/store.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { AddressOf } from '../sheets/address.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { rankedOn } from '../wishes/lists.ts'
import { dueAt, sendNudge, sentToday, sheetFields } from './send.ts'
import type { Nudge, Nudged } from './store.ts'

/** Writing to those who have no group yet, or to others of the course; at once or before the close. */
export function bindNudges(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  mailer: Mailer,
  addressOf: AddressOf,
): void {
  const { nudges } = stores
  const published = (sheet: Sheet) => {
    if (sheet.published_at === null)
      throw new ProblemError(
        'sheet-not-published',
        'Publish the sheet first; before that its link leads nowhere.',
      )
  }

  serve(contract.nudges, ({ req, sheet, course, now }) =>
    nudgesView(sheet, course, addressOf(sheet, req), now, stores),
  )
  serve(contract.nudge, ({ req, sheet, course, person, body, now }) => {
    published(sheet)
    const students = new Map(stores.audience.students(sheet).map((one) => [one.code, one]))
    const people = [...new Set(body.people)].map((code, i) => {
      const student = students.get(code)
      if (!student)
        throw fieldProblem(`people[${i}]`, 'Only active students for whom the sheet is are written to.')
      return student
    })
    const address = addressOf(sheet, req)
    const outcome = unit.onSheet(sheet, now, () => {
      const fields = { subject: body.subject, text: body.text, address, before_close: null }
      const nudge = nudges.add(sheet.id, fields, now, person.id)
      const sent = sendNudge(nudge, sheet, course, people, now, stores, mailer)
      if (sent.sent === 0) {
        const words = `All of them got ${sheet.nudges_a_day} within a day already. Wait, or let more be sent a day.`
        throw new ProblemError('nobody-to-write-to', words)
      }
      return sent
    })
    return { ...nudgesView(sheet, course, address, now, stores), ...outcome }
  })
  serve(contract.addAutomaticNudge, ({ req, sheet, course, person, body, now }) => {
    const address = addressOf(sheet, req)
    const fields = { subject: body.subject, text: body.text, address, before_close: body.hours }
    unit.onSheet(sheet, now, (current) => {
      const due = dueAt(nudges.add(current.id, fields, now, person.id), current)
      if (due !== null && due <= now)
        throw fieldProblem('hours', 'That moment has passed. Choose fewer hours before the close.')
    })
    return nudgesView(sheet, course, address, now, stores)
  })
  serve(contract.dropNudge, ({ req, sheet, course, params, now }) => {
    if (!nudges.drop(sheet.id, params.nudge)) throw notFound('It was sent already, or was deleted.')
    return nudgesView(sheet, course, addressOf(sheet, req), now, stores)
  })
}

function nudgesView(
  sheet: Sheet,
  course: Course,
  address: string,
  now: Instant,
  stores: Stores,
): contract.NudgesView {
  const { nudges, roster, seats, sheets } = stores
  const sections = new Map(roster.sections(course.id).map(({ id, code }) => [id, code]))
  const groupCodes = sheets.groupCodes(sheet.id)
  const seated = new Map<number, string[]>()
  for (const { enrolment_id, group_id } of seats.ofSheet(sheet.id)) {
    seated.set(enrolment_id, [...(seated.get(enrolment_id) ?? []), groupCodes.get(group_id) ?? ''])
  }
  const ranked = sheet.road === 'wished' ? rankedOn(sheet, stores) : null
  const visits = new Map(nudges.visits(sheet.id).map((visit) => [visit.enrolment_id, visit]))
  const nudged = nudges.nudgedOn(sheet.id)
  const last = new Map(nudged.map(({ enrolment_id, at }) => [enrolment_id, at]))
  const today = sentToday(sheet.id, now, stores)
  return {
    people: roster.classList(course, stores.audience.students(sheet)).map(({ id, section_id, ...one }) => ({
      code: one.code,
      name: one.name,
      firstName: firstName(one),
      section: section_id === null ? null : (sections.get(section_id) ?? null),
      groups: seated.get(id) ?? [],
      ranked: ranked?.has(id) ?? null,
      firstOpened: visits.get(id)?.first_at ?? null,
      lastOpened: visits.get(id)?.last_at ?? null,
      lastNudged: last.get(id) ?? null,
      today: today.get(one.code) ?? 0,
    })),
    nudges: nudges.ofSheet(sheet.id).map((nudge) =>
      nudgeView(
        nudge,
        sheet,
        nudged.filter(({ nudge_id }) => nudge_id === nudge.id),
        new Set(seated.keys()),
        stores,
      ),
    ),
    aDay: sheet.nudges_a_day,
    fields: sheetFields(sheet, course, address, now),
    now,
  }
}

function nudgeView(
  nudge: Nudge,
  sheet: Sheet,
  recipients: readonly Nudged[],
  seated: ReadonlySet<number>,
  { mail, roster }: Stores,
): contract.NudgeView {
  const mails = new Map(
    mail.byIds(recipients.flatMap(({ mail_id }) => mail_id ?? [])).map((one) => [one.id, one]),
  )
  return {
    code: nudge.code,
    subject: nudge.subject,
    text: nudge.text,
    beforeClose: nudge.before_close,
    dueAt: dueAt(nudge, sheet),
    madeAt: nudge.made_at,
    sentAt: nudge.sent_at,
    recipients: recipients.map(({ enrolment_id, mail_id }) => {
      const enrolment = roster.enrolment(enrolment_id)
      const sent = mails.get(mail_id ?? 0)
      return {
        person: enrolment?.code ?? '',
        name: enrolment?.name ?? '',
        state: sent?.state ?? 'sent',
        fault: sent?.fault ?? null,
        seatedNow: seated.has(enrolment_id),
      }
    }),
  }
}
