import { convenerOf } from '../../core/convener.ts'
import type { Named } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'

type Sources = Pick<Stores, 'seats' | 'roster'>

/** Those who sit in a group, in the order they sat down. */
export function membersOf(groupId: number, { seats, roster }: Sources): Named[] {
  return seats
    .sitters(groupId)
    .map((id) => roster.enrolment(id))
    .filter((person) => person !== undefined)
}

/** The enrolment of the member who answers for a group under the sheet's rule, or null. */
export function convenerIn(sheet: Sheet, group: Group, { seats, roster }: Sources): number | null {
  if (sheet.convener === 'none') return null
  const active = seats
    .ofGroup(group.id)
    .filter(({ enrolment_id }) => roster.enrolment(enrolment_id)?.status === 'active')
    .map(({ enrolment_id, taken_at }) => ({ key: enrolment_id, takenAt: taken_at }))
  return convenerOf(sheet.convener, active, {
    named: group.convener_id,
    lotNumber: sheet.lot_number,
    group: group.id,
    order: (key) => key,
  })
}
