import type { Restored } from '../../contract/restored.ts'
import type { Instant } from '../../core/instant.ts'
import { checkSeatings, type SeatingChange, type SeatingFacts } from '../../core/seating.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'
import { type Remark, sayRemarks, seatingFacts, writeSeatings } from './byHand.ts'

/** On which sheet seats follow their groups, by whom, and when. The caller holds the transaction. */
export interface Following {
  sheet: Sheet
  actorId: number
  now: Instant
  stores: Stores
}

/**
 * Seats people again in groups that went away and are back, as far as nothing speaks against it: a free seat, no
 * other seat meanwhile, still in the course.
 * @param because why they were taken out, as the ledger has it
 * @returns how many sit there again, and who could not return, with why
 */
export function bringBack(following: Following, groups: readonly Group[], because: string): Restored {
  const { sheet, stores } = following
  const codes = new Map(
    stores.roster.everybody(sheet.course_id).map(({ id, code, name }) => [id, { code, name }]),
  )
  const names = new Map([...codes.values()].map(({ code, name }) => [code, name]))
  const changes = groups.flatMap((group) =>
    stores.ledger.lastTakenOut(sheet.id, group.id, because).flatMap((id): SeatingChange[] => {
      const person = codes.get(id)
      return person ? [{ person: person.code, from: null, to: group.code }] : []
    }),
  )
  const { made, against } = seatWhoFit(following, changes, 'brought-back')
  return {
    seated: made.length,
    out: against.map(({ change, remarks }) => ({
      name: names.get(change.person) ?? '',
      why: sayRemarks(remarks, sheet, stores)[0]?.words ?? '',
    })),
  }
}

/**
 * Carries out, one after the other, the changes that nothing speaks against: everything does that does against any seat,
 * but for work that was handed in, which does not keep out those who were in the group themselves.
 * @param because what the ledger says beside each
 */
export function seatWhoFit(
  { sheet, actorId, now, stores }: Following,
  changes: readonly SeatingChange[],
  because: string,
): { made: SeatingChange[]; against: { change: SeatingChange; remarks: Remark[] }[] } {
  const made: SeatingChange[] = []
  const against: { change: SeatingChange; remarks: Remark[] }[] = []
  // What changes of the facts is changed in them: read anew for each of hundreds, they would hold the server.
  let facts = seatingFacts(sheet, now, stores)
  for (const change of changes) {
    const { faults, concerns } = checkSeatings([change], facts)
    const remarks = [...faults, ...concerns.filter(({ code }) => code !== 'work-handed-in')]
    if (remarks.length > 0) against.push({ change, remarks })
    else {
      made.push(change)
      facts = after(facts, change)
    }
  }
  writeSeatings(
    { sheet, changes: made, actorId, now, stores, detailOf: () => ({ because }) },
    new Set<number>(),
  )
  return { made, against }
}

/** The facts once a change is made: the seat, and that whatever was held for it is used up. */
function after(facts: SeatingFacts, { person, from, to }: SeatingChange): SeatingFacts {
  const seats = facts.seats.filter((seat) => seat.person !== person || seat.group !== from)
  if (to !== null) seats.push({ person, group: to })
  const groups = facts.groups.map((group) =>
    group.key === to && group.heldFor.includes(person)
      ? { ...group, heldFor: group.heldFor.filter((who) => who !== person) }
      : group,
  )
  return { ...facts, seats, groups }
}
