import type { Instant } from '../../core/instant.ts'
import { reachedBy } from '../groups/reach.ts'
import type { Enrolment } from '../roster/store.ts'
import { mateNamesShown } from '../seats/namesFor.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'

/** Whom somebody can name in a group: its staff, and its other members where they read each other's names. */
export function namedIn(
  sheet: Sheet,
  groupId: number,
  by: Enrolment,
  now: Instant,
  stores: Pick<Stores, 'seats' | 'sheets' | 'roster'>,
): Enrolment[] {
  const { members, tutors, instructors } = reachedBy(sheet, groupId, stores)
  const known = by.role !== 'student' || mateNamesShown(sheet, now) ? members : []
  const all = new Map([...known, ...tutors, ...instructors].map((one) => [one.id, one]))
  all.delete(by.id)
  return [...all.values()]
}
