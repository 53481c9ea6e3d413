import type { Instant } from '../../core/instant.ts'
import { NO_LIMIT } from '../../core/limit.ts'
import type { Stores } from '../stores.ts'
import { sitDown, standUp } from './sitDown.ts'
import type { Seat } from './store.ts'

/** Takes all seats of these enrolments, on sheets that are not archived, and says so in the ledgers. Gives what was taken. */
export function freeSeatsOf(
  courseId: number,
  enrolmentIds: readonly number[],
  actorId: number,
  now: Instant,
  stores: Stores,
): Seat[] {
  const { sheets, seats, ledger } = stores
  const freed: Seat[] = []
  for (const sheet of sheets.ofCourse(courseId)) {
    if (sheet.archived_at !== null) continue
    const limits = new Map(sheets.groups(sheet.id).map((group) => [group.id, group.seats]))
    for (const enrolmentId of enrolmentIds) {
      for (const seat of seats.heldBy(sheet.id, enrolmentId)) {
        standUp(seat.group_id, enrolmentId, limits.get(seat.group_id) ?? NO_LIMIT, stores)
        const detail = { because: 'roster' }
        ledger.note({
          sheetId: sheet.id,
          at: now,
          actorId,
          kind: 'seat-removed',
          enrolmentId,
          fromGroupId: seat.group_id,
          detail,
        })
        freed.push(seat)
      }
    }
  }
  return freed
}

/** Gives seats back that were freed, where they are still there to be had. Gives the number that could not be. */
export function giveSeatsBack(freed: readonly Seat[], actorId: number, now: Instant, stores: Stores): number {
  const { sheets, seats, ledger } = stores
  let lost = 0
  for (const { sheet_id, group_id, enrolment_id } of freed) {
    const sheet = sheets.byId(sheet_id)
    const group = sheets.groups(sheet_id).find(({ id, offered }) => id === group_id && offered === 1)
    const room =
      group && (group.seats === 0 || seats.takenIn(group.id) + sheets.heldIn(group.id).length < group.seats)
    if (!sheet || !room || seats.heldBy(sheet_id, enrolment_id).length >= sheet.seats_each) {
      lost += 1
      continue
    }
    sitDown(sheet_id, group_id, enrolment_id, now, stores)
    const detail = { because: 'roster-undone' }
    ledger.note({
      sheetId: sheet_id,
      at: now,
      actorId,
      kind: 'seat-taken',
      enrolmentId: enrolment_id,
      toGroupId: group_id,
      detail,
    })
  }
  return lost
}
