import { grouped } from '../../core/grouped.ts'
import type { Instant } from '../../core/instant.ts'
import { checkSeatings, type SeatingFacts } from '../../core/seating.ts'
import { sheetState } from '../../core/window.ts'
import type { Swap, Swapper } from '../../core/wishes/swaps.ts'
import type { Enrolment } from '../roster/store.ts'
import { offeredTo } from '../seats/offered.ts'
import type { Sheet } from '../sheets/store.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import { listOf, topicsFor } from '../wishes/lists.ts'
import { isSettled } from '../wishes/settling.ts'

type Ranks = readonly (readonly number[])[]

/** Whether seats of a sheet can be swapped now: they were given by wishes, and nobody ranks any more. */
export function swapsGo(sheet: Sheet, now: Instant, stores: Stores): boolean {
  if (sheet.swaps !== 'offered' || sheet.road === 'made' || sheet.deleted_at !== null) return false
  const state = sheetState(windowOf(sheet), now)
  const over = state === 'closed' || (state === 'open' && sheet.road === 'chosen')
  return over && !stores.courses.byId(sheet.course_id)?.archived_at && isSettled(sheet, stores)
}

/**
 * Topics that somebody would rather have than the one in whose group they sit, by rank: as they said, or else what they
 * ranked above it. Without what is not offered to them now.
 */
export function ratherThan(
  sheet: Sheet,
  student: Pick<Enrolment, 'id' | 'section_id'>,
  topicId: number,
  stores: Stores,
  offered: ReadonlySet<number> = topicsFor(sheet, student, stores),
): number[][] {
  const said = stores.swaps.wish(sheet.id, student.id)
  const row = stores.wishes.of(sheet.id, student.id)
  const ranks: Ranks = said ? (JSON.parse(said.ranks) as number[][]) : row ? listOf(row).ranks : []
  const own = ranks.findIndex((topics) => topics.includes(topicId))
  return ranks
    .slice(0, own < 0 ? ranks.length : own)
    .map((topics) => topics.filter((topic) => offered.has(topic)))
    .filter((topics) => topics.length > 0)
}

/** Somebody who can swap their seat, with what they would rather have. */
export interface MarketSwapper extends Swapper {
  student: Enrolment
  ranks: number[][]
}

/**
 * Everybody on a sheet who has one seat and would rather have another, people and groups by their codes. Groups whose
 * work is handed in stay as they are.
 */
export function swappersOn(sheet: Sheet, stores: Stores): MarketSwapper[] {
  const { sheets, seats, tasks, audience } = stores
  const bound = tasks.bound(sheet.id)
  const groups = sheets.groups(sheet.id).filter(({ id }) => !bound.has(id))
  const byId = new Map(groups.map((group) => [group.id, group]))
  const ofTopic = grouped(groups, ({ topic_id }) => topic_id)
  const held = grouped(seats.ofSheet(sheet.id), ({ enrolment_id }) => enrolment_id)
  const offered = new Map<number | null, Set<number>>()
  return audience.students(sheet).flatMap((student): MarketSwapper[] => {
    const own = held.get(student.id) ?? []
    const seat = own.length === 1 && own[0] ? byId.get(own[0].group_id) : undefined
    if (!seat) return []
    const topics = offered.get(student.section_id) ?? topicsFor(sheet, student, stores)
    offered.set(student.section_id, topics)
    const ranks = ratherThan(sheet, student, seat.topic_id, stores, topics)
    const better = ranks.map((ids) =>
      ids.flatMap((id) =>
        (ofTopic.get(id) ?? []).flatMap((group) => (offeredTo(student, sheet, group) ? [group.code] : [])),
      ),
    )
    return better.flat().length === 0
      ? []
      : [{ person: student.code, seat: seat.code, better, student, ranks }]
  })
}

/**
 * Somebody of those who are free to swap who could not sit where a swap leads, for whom else is there. Who keeps apart or
 * together with nobody always can: sections, groups that are offered and work that is handed in were looked at before.
 */
export function keptFromIn(swap: Swap, facts: SeatingFacts): string | null {
  const named = facts.keepings.some(({ people }) => swap.some(({ person }) => people.includes(person)))
  return named ? misfitIn(swap, facts) : null
}

/** Somebody in a swap against whose new seat something speaks; past a limit nobody comes by swapping. */
export function misfitIn(swap: Swap, facts: SeatingFacts): string | null {
  const { faults, concerns } = checkSeatings(swap, facts)
  return [...faults, ...concerns.filter(({ code }) => code !== 'past-limit')][0]?.person ?? null
}
