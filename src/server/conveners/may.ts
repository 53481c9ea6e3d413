import { takingOut } from '../../core/convening.ts'
import { takesPeople } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { seatsLeft } from '../../core/limit.ts'
import { sheetState } from '../../core/window.ts'
import type { Enrolment } from '../roster/store.ts'
import { convenerIn } from '../seats/members.ts'
import { mateNamesShown } from '../seats/namesFor.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'

/** What a convener may do in the group: seat people now, and take out whom, by enrolment. */
export interface Convening {
  seat: boolean
  out: Map<number, 'now' | 'ask' | 'asked'>
}

/** What somebody may do in a group as its convener; null for everybody else, and where the rule knows nothing of it. */
export function convening(
  sheet: Sheet,
  group: Group,
  reader: Enrolment,
  now: Instant,
  stores: Stores,
): Convening | null {
  const { seats, sheets, tasks } = stores
  // Where seats are not taken as they come, nobody but staff gives any.
  if (sheet.road === 'wished') return null
  if (sheet.convener_may === 'no' || reader.role !== 'student') return null
  // Whoever is taken out or seated is named, so the rule has to show names in the group.
  if (!mateNamesShown(sheet, now) || convenerIn(sheet, group, stores) !== reader.id) return null
  const open = sheetState(windowOf(sheet), now) === 'open'
  const free = seatsLeft(group.seats, seats.takenIn(group.id), sheets.heldIn(group.id).length)
  // What is archived is read, and stays as it is.
  if (sheet.archived_at !== null) return { seat: false, out: new Map() }
  const bound = tasks.isBound(group.id)
  const asked = askedIn(group, stores)
  const out = new Map<number, 'now' | 'ask' | 'asked'>()
  for (const { enrolment_id, taken_at } of seats.ofGroup(group.id)) {
    const facts = { rule: sheet.convener_may, convener: true, bound, takenAt: taken_at }
    const how = takingOut({ ...facts, self: enrolment_id === reader.id }, now)
    if (how === 'no') continue
    // Once the window has closed nobody is taken out without being asked.
    const way = how === 'now' && open ? 'now' : 'ask'
    out.set(enrolment_id, asked.has(enrolment_id) ? 'asked' : way)
  }
  const seat = open && takesPeople(group) && !bound && free > 0 && seats.lineOf(group.id).length === 0
  return { seat, out }
}

/** Who was asked to leave since they sat down there last, by enrolment: whoever left and came back was not. */
export function askedIn(
  group: Group,
  { conveners, seats }: Pick<Stores, 'conveners' | 'seats'>,
): Set<number> {
  const asked = conveners.asked(group.id)
  if (asked.size === 0) return new Set()
  return new Set(
    seats
      .ofGroup(group.id)
      .flatMap(({ enrolment_id, taken_at }) =>
        (asked.get(enrolment_id) ?? '') >= taken_at ? [enrolment_id] : [],
      ),
  )
}

/** Students whom a convener can seat: of the group's section, active, without a group. */
export function seatableIn(sheet: Sheet, group: Group, { audience, seats }: Stores): Enrolment[] {
  const seated = new Set(seats.ofSheet(sheet.id).map(({ enrolment_id }) => enrolment_id))
  return audience
    .students(sheet)
    .filter(
      ({ id, section_id }) =>
        !seated.has(id) && (group.section_id === null || section_id === group.section_id),
    )
    .toSorted((a, b) => a.name.localeCompare(b.name))
}
