import { convenerOf } from '../../core/convener.ts'
import type { Named } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'

type Sources = Pick<Stores, 'seats' | 'roster'>

/** Somebody who sits in a group, and since when. */
export interface Member extends Named {
  taken_at: string
}

/** Those who sit in a group, in the order they sat down. */
export function membersOf(groupId: number, { seats, roster }: Sources): Member[] {
  const members: Member[] = []
  for (const { enrolment_id, taken_at } of seats.sitters(groupId)) {
    const person = roster.enrolment(enrolment_id)
    if (!person) continue
    const { id, name, status, email } = person
    members.push({ id, name, status, email, taken_at })
  }
  return members
}

/** The enrolment of the member who answers for a group under the sheet's rule, or null. */
export function convenerIn(sheet: Sheet, group: Group, sources: Sources): number | null {
  return convenerAmong(sheet, group, membersOf(group.id, sources))
}

/** The same, where the members are known already. */
export function convenerAmong(sheet: Sheet, group: Group, members: readonly Member[]): number | null {
  if (sheet.convener === 'none') return null
  const active = members
    .filter(({ status }) => status === 'active')
    .map(({ id, taken_at }) => ({ key: id, takenAt: taken_at }))
  return convenerOf(sheet.convener, active, {
    named: group.convener_id,
    lotNumber: sheet.lot_number,
    group: group.id,
    order: (key) => key,
  })
}
