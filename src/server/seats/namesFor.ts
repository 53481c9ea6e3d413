import type { Instant } from '../../core/instant.ts'
import { namesShown } from '../../core/rules.ts'
import { sheetState } from '../../core/window.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'

type Sources = Pick<Stores, 'roster' | 'seats' | 'ledger'>

/**
 * How people of a group are called to a reader who belongs to it, in talk, files, hand-ins and mail. Staff go by name to
 * everybody; students to staff and to themselves, and to other students as the house rules say: a group mate is whoever
 * sits in a group of the reader’s now, or left it after the reader sat down. Whoever came later does not learn who sat
 * there before.
 * @returns a function of an enrolment; `wereMates` where the two are known to have been, by work that counts for both
 */
export function namesFor(
  sheet: Sheet,
  reader: Enrolment,
  now: Instant,
  { roster, seats, ledger }: Sources,
): (enrolmentId: number, wereMates?: boolean) => string {
  if (reader.role !== 'student') return (id) => roster.enrolment(id)?.name ?? 'A member'
  const state = sheetState(windowOf(sheet), now)
  const held = seats.heldBy(sheet.id, reader.id)
  const sitsWith = (id: number) =>
    held.some(({ group_id }) => seats.ofGroup(group_id).some(({ enrolment_id }) => enrolment_id === id))
  const past = new Map<number, boolean>()
  const satWith = (id: number) => {
    const known = past.get(id)
    if (known !== undefined) return known
    const together = held.some(
      ({ group_id, taken_at }) => (ledger.leftAt(sheet.id, id, group_id) ?? '') > taken_at,
    )
    past.set(id, together)
    return together
  }
  return (id, wereMates = false) => {
    const person = roster.enrolment(id)
    if (id === reader.id || (person && person.role !== 'student')) return person?.name ?? reader.name
    const here = sitsWith(id)
    const inGroup = here || wereMates || satWith(id)
    // Whose place in the course is paused reads of nobody.
    const mayRead = reader.status === 'active'
    if (mayRead && namesShown(sheet.names, { state, seated: held.length > 0, inGroup }))
      return person?.name ?? 'A member'
    return here || wereMates ? 'A member of your group' : 'Somebody who sat here before'
  }
}

/** Whether those of one group read each other’s names now. */
export function mateNamesShown(sheet: Sheet, now: Instant): boolean {
  return namesShown(sheet.names, { state: sheetState(windowOf(sheet), now), seated: true, inGroup: true })
}
