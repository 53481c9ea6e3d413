import type { ClaimFacts } from '../../core/claim.ts'
import { keptFrom } from '../../core/fits.ts'
import { takesPeople } from '../../core/groupState.ts'
import type { Instant } from '../../core/instant.ts'
import { type SheetState, sheetState } from '../../core/window.ts'
import type { Enrolment, RosterStore } from '../roster/store.ts'
import type { Sheet, SheetStore } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import { windowOf } from '../sheets/window.ts'
import type { TaskStore } from '../tasks/store.ts'
import type { SeatStore } from './store.ts'

export interface FactSources {
  sheets: SheetStore
  seats: SeatStore
  roster: RosterStore
  tasks: TaskStore
}

/**
 * Everything a claim runs against, as it stands now.
 * @param granted true when an instructor granted it: window and rule on changing seats do not stand in the way
 */
export function factsOf(
  sheet: Sheet,
  enrolment: Enrolment,
  target: Group | null,
  now: Instant,
  sources: FactSources,
  granted = false,
): ClaimFacts<number> {
  const { id } = enrolment
  const { sheets, seats } = sources
  const hasLines = sheet.full_groups === 'line'
  const line = target && hasLines ? seats.lineOf(target.id) : []
  return {
    state: stateFor(sheet, now, granted),
    rules: {
      road: granted ? 'chosen' : sheet.road,
      seatsEach: sheet.seats_each,
      changing: granted ? 'until-close' : sheet.changing,
      offers: sheet.offers,
      fullGroups: sheet.full_groups,
    },
    role: enrolment.role,
    active: enrolment.status === 'active',
    section: enrolment.section_id,
    held: heldSlots(sheet, enrolment, granted, sources),
    waiting: hasLines ? seats.waitsIn(sheet.id, id).map(({ group_id }) => group_id) : [],
    target: target && {
      section: target.section_id,
      offered: takesPeople(target),
      seats: target.seats,
      taken: seats.takenIn(target.id),
      held: keptFrom(heldFor(sheets.heldIn(target.id)), id),
      line: line.filter(({ enrolment_id }) => enrolment_id !== id).length,
      startsAt: target.starts_at,
      endsAt: target.ends_at,
    },
  }
}

/** For whom each of these seats is held; null for a use. */
export function heldFor(held: readonly { enrolment_id: number | null }[]): (number | null)[] {
  return held.map(({ enrolment_id }) => enrolment_id)
}

/** The sheet's state as it counts for a claim: put away when it is deleted, open when an instructor granted it. */
function stateFor(sheet: Sheet, now: Instant, granted: boolean): SheetState {
  if (sheet.deleted_at !== null || sheet.archived_at !== null) return 'archived'
  return granted ? 'open' : sheetState(windowOf(sheet), now)
}

/** The seats that a student holds on a sheet, with their dates, and whether work binds them there. */
function heldSlots(sheet: Sheet, { id }: Enrolment, granted: boolean, { sheets, seats, tasks }: FactSources) {
  return seats.heldBy(sheet.id, id).map(({ group_id }) => {
    const group = sheets.groupById(group_id)
    // An instructor may let somebody leave a group whose work is handed in.
    const bound = !granted && tasks.isBound(group_id)
    return { group: group_id, startsAt: group?.starts_at ?? null, endsAt: group?.ends_at ?? null, bound }
  })
}
