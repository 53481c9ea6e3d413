import { createHash } from 'node:crypto'
import type { OwnList, OwnWishes, WishesView, WishOutcomeTold, WishTopic } from '../../contract/wishes.ts'
import { grouped } from '../../core/grouped.ts'
import type { Instant } from '../../core/instant.ts'
import type { Wished } from '../../core/plan/types.ts'
import { countingList, offeredOf } from '../../core/wishes/list.ts'
import { rankOf } from '../../core/wishes/rules.ts'
import type { Enrolment } from '../roster/store.ts'
import { offeredTo } from '../seats/offered.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { listOf, listsOn, matesAgreed, matesOf, matesOn, seatsIn, topicsFor } from './lists.ts'
import { isSettled, type StandingSettling, standingSettlings } from './settling.ts'

/** What a student has kept so far, as it was kept but for topics that are not offered any more. */
export function ownList(
  sheet: Sheet,
  student: Pick<Enrolment, 'id' | 'section_id'>,
  now: Instant,
  stores: Stores,
): OwnList & { gone: string[] } {
  const row = stores.wishes.of(sheet.id, student.id)
  if (!row)
    return {
      code: null,
      ranks: [],
      cannot: [],
      mates: { people: [], first: false },
      agreed: null,
      version: 0,
      savedAt: null,
      now,
      gone: [],
    }
  const kept = listOf(row)
  const offered = topicsFor(sheet, student, stores)
  const { ranks, cannot } = offeredOf(kept, offered)
  const topic = (id: number) => stores.sheets.topicById(id)
  const codeOf = (id: number) => topic(id)?.code ?? ''
  return {
    code: row.code,
    ranks: ranks.map((topics) => topics.map(codeOf)),
    cannot: cannot.map((one) => ({ topic: codeOf(one.topic), reason: one.reason })),
    mates: { people: [...matesOf(row).people], first: matesOf(row).first },
    agreed: agreedWith(sheet, student, stores),
    version: row.version,
    savedAt: row.changed_at,
    now,
    gone: kept.ranks.flat().flatMap((id) => (offered.has(id) ? [] : (topic(id)?.title ?? []))),
  }
}

/** Names of those with whom somebody would sit, once all of them have named each other. */
function agreedWith(sheet: Sheet, student: Pick<Enrolment, 'id'>, stores: Stores): string[] | null {
  const mates = matesAgreed(sheet, student.id, stores)
  return mates?.map(({ name }) => name) ?? null
}

/** A sheet by wishes as one student has it; null for a sheet on which nobody ranks. */
export function ownWishes(
  sheet: Sheet,
  student: Pick<Enrolment, 'id' | 'section_id'>,
  now: Instant,
  stores: Stores,
): OwnWishes | null {
  // Once seats were given by wishes it is told why, also where the rest is taken as it comes.
  if (sheet.road !== 'wished' && !isSettled(sheet, stores)) return null
  const demand = sheet.wish_worth !== 'nothing' ? stores.demand.of(sheet, now) : null
  const open = stores.sheets.groups(sheet.id).filter((group) => offeredTo(student, sheet, group))
  const ofTopic = grouped(open, ({ topic_id }) => topic_id)
  const topics = stores.sheets.topics(sheet.id).flatMap(({ id, code, title, brief }): WishTopic[] => {
    const groups = ofTopic.get(id)
    if (!groups) return []
    const everybody = sheet.offers === 'course' || groups.some(({ section_id }) => section_id === null)
    const slots = groups.filter(({ place, starts_at }) => place !== '' || starts_at !== null)
    return [
      {
        code,
        title,
        brief,
        seats: seatsIn(groups.map(({ seats }) => seats)),
        slots: slots.map(({ place, starts_at, ends_at }) => ({
          place,
          startsAt: starts_at,
          endsAt: ends_at,
        })),
        demand: demand?.of(id, everybody ? undefined : student.section_id) ?? null,
      },
    ]
  })
  const { gone, ...list } = ownList(sheet, student, now, stores)
  return {
    ...list,
    topics,
    demandAt: demand?.at ?? null,
    gone,
    outcomes: standingSettlings(sheet, stores).flatMap(
      (settling) => outcomeFor(sheet, student, list, settling, stores) ?? [],
    ),
  }
}

/** How many topics a student has ranked, and whether that counts; null where nobody ranks. */
export function rankedBy(
  sheet: Sheet,
  student: Pick<Enrolment, 'id' | 'section_id'>,
  stores: Stores,
): { topics: number; counts: boolean } | null {
  if (sheet.road !== 'wished') return null
  const row = stores.wishes.of(sheet.id, student.id)
  if (!row) return { topics: 0, counts: false }
  const offered = topicsFor(sheet, student, stores)
  const { ranks } = offeredOf(listOf(row), offered)
  const counts = countingList(listOf(row), offered, { least: sheet.wishes_least }) !== null
  return { topics: ranks.flat().length, counts }
}

/**
 * Once seats were given by wishes: which wish somebody was given by a round, whatever they have changed since. Null for
 * somebody who was not there then and has no seat of that round.
 */
function outcomeFor(
  sheet: Sheet,
  student: Pick<Enrolment, 'id'>,
  { ranks }: Pick<OwnList, 'ranks'>,
  { round, content: { moves, left } }: StandingSettling,
  stores: Stores,
): WishOutcomeTold | null {
  const { seats, sheets, roster } = stores
  const code = roster.enrolment(student.id)?.code
  const given = moves.find(({ person }) => person === code)
  const ranked = ranks.length > 0
  if (given?.reason.code === 'wish')
    return { round, seated: true, rank: given.reason.rank, ranked: given.reason.wished }
  // Set by hand, kept free for them, or theirs before: the seat as it is.
  const seat = seats.heldBy(sheet.id, student.id)[round - 1]
  const group = given ? sheets.group(given.to) : seat && sheets.groupById(seat.group_id)
  if (!group && !left.some(({ person }) => person === code)) return null
  const topic = group && sheets.topicById(group.topic_id)
  return { round, seated: group !== undefined, rank: rankOf({ ranks }, topic?.code), ranked }
}

/** By what the lot knows somebody who has kept no list: the same each time, and nothing that others could tell. */
function codeWithout({ id, link }: Sheet, student: Pick<Enrolment, 'id'>): string {
  return createHash('sha256').update(`wishes ${id} ${link} ${student.id}`).digest('hex').slice(0, 12)
}

/** What people of a sheet wish for, as plans are made from it: lists that count, topics and groups by their codes. */
export function wishedOn(sheet: Sheet, stores: Stores): Wished {
  const topics = new Map(stores.sheets.topics(sheet.id).map(({ id, code }) => [id, code]))
  const codeOf = (id: number) => topics.get(id) ?? ''
  const rows = new Map(stores.wishes.ofSheet(sheet.id).map((row) => [row.enrolment_id, row.code]))
  const codes = stores.audience
    .students(sheet)
    .map((one): [string, string] => [one.code, rows.get(one.id) ?? codeWithout(sheet, one)])
  const person = (id: number) => stores.roster.enrolment(id)?.code ?? ''
  return {
    mates: matesOn(sheet, stores).map(({ people, first }) => ({ people: people.map(person), first })),
    codes: Object.fromEntries(codes),
    topics: Object.fromEntries(
      stores.sheets.groups(sheet.id).map(({ code, topic_id }) => [code, codeOf(topic_id)]),
    ),
    lists: listsOn(sheet, stores).flatMap(({ student, list, counts }) =>
      counts
        ? [
            {
              person: student.code,
              ranks: list.ranks.map((ids) => ids.map(codeOf)),
              cannot: list.cannot.map(({ topic }) => codeOf(topic)),
            },
          ]
        : [],
    ),
  }
}

/** What everybody wishes for, for staff. */
export function wishesView(sheet: Sheet, now: Instant, stores: Stores): WishesView {
  const topics = new Map(stores.sheets.topics(sheet.id).map(({ id, code }) => [id, code]))
  const codeOf = (id: number) => topics.get(id) ?? ''
  const mates = new Map(
    matesOn(sheet, stores).flatMap(({ people, first }) =>
      people.map((id) => [
        id,
        {
          people: people.flatMap((other) =>
            other === id ? [] : (stores.roster.enrolment(other)?.code ?? []),
          ),
          first,
        },
      ]),
    ),
  )
  return {
    now,
    lists: listsOn(sheet, stores).map(({ row, student, list, counts }) => ({
      person: student.code,
      ranks: list.ranks.map((ids) => ids.map(codeOf)),
      cannot: list.cannot.map(({ topic, reason }) => ({ topic: codeOf(topic), reason })),
      mates: mates.get(student.id) ?? null,
      savedAt: row.changed_at,
      counts,
    })),
    settled: standingSettlings(sheet, stores).map(({ round, plan, row }) => ({
      round,
      plan: plan.code,
      at: plan.applied_at ?? '',
      handedOut: row.handed_out === 1,
    })),
  }
}
