import type { OwnSwaps, SwapsView } from '../../contract/swaps.ts'
import type { Instant } from '../../core/instant.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { ratherThan, swappersOn, swapsGo } from './market.ts'

/** Swapping as one student has it; null where seats cannot be swapped, or the student has not exactly one. */
export function ownSwaps(
  sheet: Sheet,
  student: Pick<Enrolment, 'id' | 'section_id'>,
  now: Instant,
  stores: Stores,
): OwnSwaps | null {
  if (!swapsGo(sheet, now, stores)) return null
  const { seats, sheets, swaps } = stores
  const held = seats.heldBy(sheet.id, student.id)
  const seat = held.length === 1 && held[0] ? sheets.groupById(held[0].group_id) : undefined
  if (!seat) return null
  const topics = new Map(sheets.topics(sheet.id).map(({ id, code }) => [id, code]))
  const groups = sheets.groupCodes(sheet.id)
  const said = swaps.wish(sheet.id, student.id)
  const newest = swaps.newestOf(sheet.id, student.id)
  const to = groups.get(newest?.to_group_id ?? 0) ?? ''
  const parts = newest && newest.ended_at === null ? swaps.parts(newest.swap_id) : []
  return {
    seat: seat.code,
    topic: topics.get(seat.topic_id) ?? '',
    ranks: ratherThan(sheet, student, seat.topic_id, stores).map((ids) =>
      ids.flatMap((id) => topics.get(id) ?? []),
    ),
    version: said?.version ?? 0,
    savedAt: said?.changed_at ?? null,
    now,
    offer:
      newest && newest.ended_at === null
        ? {
            code: newest.code,
            to,
            people: parts.length,
            accepted: parts.filter(({ accepted_at }) => accepted_at !== null).length,
            mine: newest.accepted_at !== null,
            until: newest.until,
          }
        : null,
    last:
      newest?.ended_at != null && newest.ending !== null
        ? { ending: newest.ending, to, at: newest.ended_at, mine: newest.accepted_at !== null }
        : null,
  }
}

/** The title of the topic to which a swap would bring somebody that they have not answered yet; null for none. */
export function swapToAnswer(
  sheet: Sheet,
  student: Pick<Enrolment, 'id'>,
  now: Instant,
  { swaps, sheets }: Stores,
): string | null {
  if (sheet.swaps === 'no') return null
  const newest = swaps.newestOf(sheet.id, student.id)
  if (!newest || newest.ended_at !== null || newest.accepted_at !== null || newest.until <= now) return null
  return sheets.topicById(sheets.groupById(newest.to_group_id)?.topic_id ?? 0)?.title ?? null
}

/** Swaps of a sheet, for staff. */
export function swapsView(sheet: Sheet, now: Instant, stores: Stores): SwapsView {
  const { roster, sheets, swaps } = stores
  const going = swapsGo(sheet, now, stores)
  const topics = new Map(sheets.topics(sheet.id).map(({ id, code }) => [id, code]))
  const groups = new Map(sheets.everyGroup(sheet.id).map(({ id, code }) => [id, code]))
  const all = swaps.ofSheet(sheet.id).map(({ id, code, found_at, until, ending, ended_at }) => ({
    code,
    foundAt: found_at,
    until,
    ending,
    endedAt: ended_at,
    parts: swaps.parts(id).map(({ enrolment_id, from_group_id, to_group_id, accepted_at }) => ({
      person: roster.enrolment(enrolment_id)?.code ?? '',
      from: groups.get(from_group_id) ?? '',
      to: groups.get(to_group_id) ?? '',
      accepted: accepted_at !== null,
    })),
  }))
  return {
    now,
    going,
    wanting: going
      ? swappersOn(sheet, stores).map(({ person, seat, ranks }) => ({
          person,
          seat,
          ranks: ranks.map((ids) => ids.flatMap((id) => topics.get(id) ?? [])),
        }))
      : [],
    swaps: [...all.filter(({ ending }) => ending === null), ...all.filter(({ ending }) => ending !== null)],
  }
}
