import { keptFrom } from '../../core/fits.ts'
import { isOnSheet, takesPeople } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { NO_LIMIT, seatsLeft } from '../../core/limit.ts'
import type { Stores } from '../stores.ts'
import { heldFor } from './facts.ts'
import { leavePlace } from './places.ts'
import { sitDown, standUp } from './sitDown.ts'
import type { LinePlace, Seat } from './store.ts'

/**
 * Takes the seats of these enrolments, on sheets that are not archived, and says so in the ledgers. Gives what was taken.
 * @param since only seats taken from this instant on; all of them where it is not given
 */
export function freeSeatsOf(
  courseId: number,
  enrolmentIds: readonly number[],
  actorId: number,
  now: Instant,
  stores: Stores,
  since: Instant = '',
): Seat[] {
  const { sheets, seats, ledger } = stores
  const freed: Seat[] = []
  for (const sheet of sheets.ofCourse(courseId)) {
    if (sheet.archived_at !== null) continue
    const limits = new Map(sheets.groups(sheet.id).map((group) => [group.id, group.seats]))
    for (const enrolmentId of enrolmentIds) {
      for (const seat of seats.heldBy(sheet.id, enrolmentId)) {
        if (seat.taken_at < since) continue
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

/** Takes these enrolments out of all lines of sheets that are not archived, and says so in the ledgers. Gives the places. */
export function leaveLinesOf(
  courseId: number,
  enrolmentIds: readonly number[],
  actorId: number,
  now: Instant,
  stores: Stores,
): LinePlace[] {
  const { sheets, seats } = stores
  const left: LinePlace[] = []
  for (const sheet of sheets.ofCourse(courseId)) {
    if (sheet.archived_at !== null || sheet.full_groups !== 'line') continue
    for (const enrolmentId of enrolmentIds) {
      for (const place of seats.waitsIn(sheet.id, enrolmentId)) {
        leavePlace(
          { sheetId: sheet.id, groupId: place.group_id, enrolmentId, actorId },
          'roster',
          now,
          stores,
        )
        left.push(place)
      }
    }
  }
  return left
}

/** Gives places in lines back that were left, each where it was, as far as the sheet still keeps lines. */
export function takeUpPlaces(
  left: readonly LinePlace[],
  actorId: number,
  now: Instant,
  { sheets, seats, ledger }: Stores,
): void {
  for (const place of left) {
    const group = sheets.groupById(place.group_id)
    const sheet = group && sheets.byId(group.sheet_id)
    if (!group || sheet?.full_groups !== 'line' || !isOnSheet(group)) continue
    if (seats.heldBy(sheet.id, place.enrolment_id).some(({ group_id }) => group_id === group.id)) continue
    if (seats.waitsIn(sheet.id, place.enrolment_id).some(({ group_id }) => group_id === group.id)) continue
    // Where the number of the old place was given to somebody since, the end of the line is what is left.
    if (seats.restorePlace(sheet.id, place).changes === 0)
      seats.joinLine(sheet.id, group.id, place.enrolment_id, now)
    const detail = { group: group.id, because: 'roster-undone' }
    const entry = { sheetId: sheet.id, at: now, actorId, enrolmentId: place.enrolment_id, detail }
    ledger.note({ ...entry, kind: 'line-joined' })
  }
}

/** Gives seats back that were freed, where they are still there to be had. Gives the number that could not be. */
export function giveSeatsBack(freed: readonly Seat[], actorId: number, now: Instant, stores: Stores): number {
  const { sheets, seats, ledger } = stores
  let lost = 0
  for (const { sheet_id, group_id, enrolment_id } of freed) {
    const sheet = sheets.byId(sheet_id)
    const group = sheets.groups(sheet_id).find((one) => one.id === group_id && takesPeople(one))
    const kept = group ? keptFrom(heldFor(sheets.heldIn(group.id)), enrolment_id) : 0
    const room = group && seatsLeft(group.seats, seats.takenIn(group.id), kept) > 0
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
