import type { PlanContent } from '../../contract/plans.ts'
import { isElsewhere } from '../../core/fits.ts'
import type { Instant } from '../../core/instant.ts'
import { NO_LIMIT } from '../../core/limit.ts'
import { LIMITS } from '../../core/limits.ts'
import type { Course } from '../courses/store.ts'
import { seatingFacts } from '../seats/byHand.ts'
import { addByRule } from '../sheets/byRule.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'

/** On which sheet room is made, and when. */
interface On {
  sheet: Sheet
  course: Course
  now: Instant
  stores: Stores
}

/** Makes room for those for whom no seat is free, as the rule says. The caller holds the transaction. */
export function withRoomFor(content: PlanContent, on: On): PlanContent {
  if (on.sheet.late_full === 'extra') return withExtraSeats(content, on)
  return on.sheet.late_full === 'group' ? withFurtherGroups(content, on) : content
}

/**
 * Puts those for whom no seat is free into further groups of their section, or of all sections where groups are mixed,
 * each filled up to the sheet's limit before the next is begun.
 */
function withFurtherGroups(content: PlanContent, { sheet, course, now, stores }: On): PlanContent {
  const sections = new Map(stores.audience.students(sheet).map(({ code, section_id }) => [code, section_id]))
  const waiting = new Map<number | null, string[]>()
  for (const { person, from, reason } of content.left) {
    if (from !== null || reason.code !== 'no-room') continue
    const place = sheet.mixed === 1 ? null : (sections.get(person) ?? null)
    waiting.set(place, [...(waiting.get(place) ?? []), person])
  }
  const limit = sheet.seats === NO_LIMIT ? LIMITS.seats : sheet.seats
  const titles: string[] = []
  const topics: string[] = []
  const moves: PlanContent['moves'] = []
  for (const [place, people] of waiting) {
    for (let i = 0; i < people.length; i += limit) {
      const title = furtherTitle(sheet, stores)
      const added = addByRule(sheet, course, title, place, now, stores)
      if (!added) break
      titles.push(title)
      topics.push(added.topic)
      for (const person of people.slice(i, i + limit))
        moves.push({ person, from: null, to: added.group, reason: { code: 'extra' } })
    }
  }
  if (moves.length === 0) return content
  const placed = new Set(moves.map(({ person }) => person))
  return {
    ...content,
    // The undo of the plan takes the groups away again that it began.
    settings: {
      ...content.settings,
      made: { titles, mixed: sheet.mixed === 1, seats: Math.max(1, sheet.seats), topics },
    },
    moves: [...content.moves, ...moves],
    left: content.left.filter(({ person }) => !placed.has(person)),
    after: { ...content.after, left: content.after.left - moves.length },
  }
}

/** The first name for a further group that no topic has yet. */
function furtherTitle(sheet: Sheet, { sheets }: Stores): string {
  const taken = new Set(sheets.topics(sheet.id).map(({ title }) => title.toLowerCase()))
  for (let n = taken.size + 1; ; n++) if (!taken.has(`group ${n}`)) return `Group ${n}`
}

/** Gives those for whom no seat is free one more in the smallest group that is for them, where the rule says so. */
function withExtraSeats(content: PlanContent, { sheet, now, stores }: On): PlanContent {
  const { people, groups, seats } = seatingFacts(sheet, now, stores)
  const sections = new Map(people.map(({ key, section }) => [key, section]))
  const sizes = new Map(groups.map(({ key }) => [key, 0]))
  for (const { group } of [...seats, ...content.moves.map(({ to }) => ({ group: to }))])
    sizes.set(group, (sizes.get(group) ?? 0) + 1)
  const extra: PlanContent['moves'] = []
  const left = content.left.filter(({ person, from, reason }) => {
    if (from !== null || reason.code !== 'no-room') return true
    const own = groups
      .filter((group) => group.offered && !group.bound)
      .filter((group) => !isElsewhere(group.section, sections.get(person) ?? null, sheet.offers))
    const smallest = own.reduce<(typeof own)[number] | null>(
      (found, group) => (!found || (sizes.get(group.key) ?? 0) < (sizes.get(found.key) ?? 0) ? group : found),
      null,
    )
    if (!smallest) return true
    sizes.set(smallest.key, (sizes.get(smallest.key) ?? 0) + 1)
    extra.push({ person, from: null, to: smallest.key, reason: { code: 'extra' } })
    return false
  })
  if (extra.length === 0) return content
  return {
    ...content,
    moves: [...content.moves, ...extra],
    left,
    after: { ...content.after, left: content.after.left - extra.length },
  }
}
