import * as contract from '../../contract/ledger.ts'
import { inverseOf, type SeatingChange } from '../../core/seating.ts'
import { sendFile } from '../http/files.ts'
import { notFound, ProblemError } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Mailer } from '../mail/mailer.ts'
import { recallSeated } from '../plans/mail.ts'
import { seatPeople } from '../seats/byHand.ts'
import type { AddressOf } from '../sheets/address.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'
import { exportOf } from './exports.ts'
import { type LedgerEntry, SEAT_KINDS } from './store.ts'
import { ledgerView, momentView } from './views.ts'

/** Because of what mail about a change of a seat went out, or is held; null where none did. */
function causeOfMail({ detail }: LedgerEntry): string | null {
  const { told, plan } = JSON.parse(detail) as { told?: string; plan?: string }
  if (told !== undefined) return `hand ${told}`
  return plan === undefined ? null : `plan ${plan}`
}

/** The ledger: read, as it stood at a moment, one change taken back; and the files a sheet is taken elsewhere as. */
export function bindLedger(
  serve: Serve,
  stores: Stores,
  unit: UnitOfWork,
  mailer: Mailer,
  addressOf: AddressOf,
): void {
  const { ledger, roster, sheets } = stores
  /** The changes of seats that one swap made: they are undone together. */
  const entriesOfSwap = (sheet: Sheet, code: string): LedgerEntry[] =>
    ledger
      .since(sheet.id, 0)
      .filter(({ kind, detail }) => SEAT_KINDS.includes(kind) && JSON.parse(detail).swap === code)

  serve(contract.ledger, ({ sheet, course, enrolment, now }) =>
    ledgerView(sheet, course, enrolment, now, stores),
  )

  serve(contract.ledgerMoment, ({ sheet, params }) => {
    const at = new Date(params.at)
    if (Number.isNaN(at.getTime())) throw notFound('That is no moment. Give it as 2026-05-13T12:00:00.000Z.')
    return momentView(sheet, at.toISOString(), stores)
  })

  serve(contract.undoEntry, ({ req, sheet, person, params, body, now }) => {
    const entry = ledger.entry(sheet.id, Number(params.position))
    if (!entry) throw notFound('The ledger has no such entry.')
    const who = roster.enrolment(entry.enrolment_id ?? 0)
    if (!who || !SEAT_KINDS.includes(entry.kind))
      throw new ProblemError('nothing-to-undo', 'Only changes of seats are undone here.')
    const { swap } = JSON.parse(entry.detail) as { swap?: string }
    const together = swap === undefined ? [entry] : entriesOfSwap(sheet, swap)
    const codes = sheets.groupCodes(sheet.id)
    const codeOf = (id: number | null) => (id === null ? null : (codes.get(id) ?? null))
    const changes = together.map(
      (one): SeatingChange => ({
        person: roster.enrolment(one.enrolment_id ?? 0)?.code ?? '',
        from: codeOf(one.from_group_id),
        to: codeOf(one.to_group_id),
      }),
    )
    return unit.onSheet(sheet, now, (current) => {
      const detailOf = () => ({ because: 'undone', undoes: entry.id })
      const seatings = {
        sheet: current,
        changes: inverseOf(changes),
        actorId: person.id,
        now,
        stores,
        detailOf,
      }
      const position = seatPeople(seatings, () => body.confirmed === true)
      const address = addressOf(current, req)
      for (const one of together) {
        const cause = causeOfMail(one)
        const to = roster.enrolment(one.enrolment_id ?? 0)?.email
        if (cause && to) recallSeated(current, cause, address, now, stores, mailer, to)
      }
      // Else the same swap would be found again at once.
      if (swap !== undefined)
        for (const { enrolment_id } of together) stores.swaps.saveWish(sheet.id, enrolment_id ?? 0, [], now)
      return { position }
    })
  })

  serve(contract.exportFile, async ({ res, sheet, course, person, params, now }) => {
    const file = await exportOf(params.file, sheet, course, person.id, now, stores)
    if (!file) throw notFound('There is no such file. Choose one from the list under Ledger.')
    sendFile(res, [course.course_code, sheet.title, params.file], file)
    return undefined
  })
}
