import * as contract from '../../contract/announcements.ts'
import { fieldProblem, notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Mailer } from '../mail/mailer.ts'
import type { AddressOf } from '../sheets/address.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { sendIfDue } from './due.ts'

/** Mails that were not taken, as many of them as are listed. */
const MOST_FAILED = 100

/** Announcing a sheet by mail to the students of its course. */
export function bindAnnouncements(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  mailer: Mailer,
  addressOf: AddressOf,
): void {
  const { announcements, mail } = stores
  const view = (sheet: Sheet): contract.AnnouncementsView => ({
    announcements: announcements
      .ofSheet(sheet.id)
      .map(({ code, text, goes, made_at, sent_at, recipients }) => ({
        code,
        text,
        when: goes,
        madeAt: made_at,
        sentAt: sent_at,
        recipients,
      })),
    students: stores.audience.students(sheet).length,
    mailAwaySince: mailer.standing().away?.since ?? null,
    failed: mail.failedOf(sheet.id, MOST_FAILED).map(({ code, recipient, subject, created_at, fault }) => ({
      code,
      to: recipient,
      subject,
      at: created_at,
      fault: fault ?? '',
    })),
  })
  serve(contract.announcements, ({ sheet }) => view(sheet))
  serve(contract.announce, ({ req, sheet, person, body, now }) => {
    if (sheet.published_at === null) {
      throw new ProblemError(
        'sheet-not-published',
        'Publish the sheet first; before that its link leads nowhere.',
      )
    }
    if (body.when === 'opening' && (sheet.opens_at === null || sheet.opens_at <= now)) {
      throw fieldProblem('when', 'The sheet has opened already. Send it now.')
    }
    const address = addressOf(sheet, req)
    unit.onSheet(sheet, now, () => {
      const added = announcements.add(sheet.id, body.text, address, body.when, now, person.id)
      sendIfDue(added, stores, mailer, now)
    })
    return view(sheet)
  })
  serve(contract.sendAgain, ({ sheet, body, now }) => {
    unit.onSheet(sheet, now, () => {
      if (mail.again(sheet.id, body.mails, now) === 0)
        throw notFound('They are on their way again already, or were forgotten after 90 days.')
    })
    return view(sheet)
  })
  serve(contract.withdrawAnnouncement, ({ sheet, params }) => {
    if (!announcements.withdraw(sheet.id, params.announcement))
      throw notFound('It was sent already, or was deleted.')
    return view(sheet)
  })
}
