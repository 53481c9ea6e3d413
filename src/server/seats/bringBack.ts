import type { Restored } from '../../contract/topics.ts'
import type { Instant } from '../../core/instant.ts'
import { checkSeatings } from '../../core/seating.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'
import { sayRemarks, seatingFacts, writeSeatings } from './byHand.ts'

/**
 * Seats people again in groups that went away and are back, as far as nothing speaks against it: a free seat, no
 * other seat meanwhile, still in the course. The caller holds the transaction.
 * @param because why they were taken out, as the ledger has it
 * @returns how many sit there again, and who could not return, with why
 */
export function bringBack(
  { sheet, actorId, now, stores }: { sheet: Sheet; actorId: number; now: Instant; stores: Stores },
  groups: readonly Group[],
  because: string,
): Restored {
  const codes = new Map(
    stores.roster.everybody(sheet.course_id).map(({ id, code, name }) => [id, { code, name }]),
  )
  const restored: Restored = { seated: 0, out: [] }
  for (const group of groups) {
    for (const enrolmentId of stores.ledger.lastTakenOut(sheet.id, group.id, because)) {
      const person = codes.get(enrolmentId)
      if (!person) continue
      const change = { person: person.code, from: null, to: group.code }
      const { faults, concerns } = checkSeatings([change], seatingFacts(sheet, now, stores))
      const against = [...faults, ...concerns]
      if (against.length > 0) {
        const [said] = sayRemarks(against, sheet, stores)
        restored.out.push({ name: person.name, why: said?.words ?? '' })
        continue
      }
      writeSeatings(
        { sheet, changes: [change], actorId, now, stores, detailOf: () => ({ because: 'brought-back' }) },
        new Set(),
      )
      restored.seated += 1
    }
  }
  return restored
}
