import type { Mailer } from '../mail/mailer.ts'
import type { Edit } from '../sheets/edit.ts'
import { publish } from '../sheets/sheetEdits.ts'
import { tellSeated } from './mail.ts'

/**
 * Publishes a sheet and tells everybody who sits on it where, if that is wanted; nothing where it is out already. The
 * caller holds the transaction.
 * @throws ProblemError `sheet-not-ready`
 */
export function goOut(edit: Edit, tell: boolean, address: string, mailer: Mailer): void {
  if (!publish(edit) || !tell) return
  const { sheet, course, stores, now } = edit
  const codes = stores.sheets.groupCodes(sheet.id)
  const seated = stores.seats.ofSheet(sheet.id).flatMap(({ group_id, enrolment_id }) => {
    const person = stores.roster.enrolment(enrolment_id)
    return person?.status === 'active' ? [{ person: person.code, to: codes.get(group_id) ?? '' }] : []
  })
  tellSeated(sheet, course, seated, address, { cause: 'publish', now }, stores, mailer)
}
