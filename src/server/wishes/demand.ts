import { HOUR, type Instant, msOf } from '../../core/instant.ts'
import type { Sheet } from '../sheets/store.ts'
import { type ListSources, listsOn } from './lists.ts'

/** How much each topic is wanted, as of an instant. */
export interface Demand {
  at: Instant
  /** By topic id, among those of one section or, left out, among all; how many want it first, and at all. */
  of: (topicId: number, sectionId?: number | null) => { first: number; all: number }
}

export type DemandBook = ReturnType<typeof createDemandBook>

/**
 * Gathers how much topics are wanted once an hour, so that nobody can tell from a change who has just ranked what. Kept
 * in memory; after a start it is gathered anew.
 */
export function createDemandBook(stores: ListSources) {
  const known = new Map<number, { hour: number; demand: Demand }>()
  return {
    /** @param now of the server */
    of(sheet: Sheet, now: Instant): Demand {
      const hour = Math.floor(msOf(now) / HOUR)
      const before = known.get(sheet.id)
      if (before?.hour === hour) return before.demand
      const demand = demandOn(sheet, now, stores)
      known.set(sheet.id, { hour, demand })
      return demand
    },
  }
}

/** How much each topic is wanted now, by lists that count. */
export function demandOn(sheet: Sheet, now: Instant, stores: ListSources): Demand {
  const counts = new Map<string, { first: number; all: number }>()
  const key = (topicId: number, sectionId?: number | null) =>
    `${topicId} ${sectionId === undefined ? 'all' : (sectionId ?? 'none')}`
  for (const { list, student, counts: does } of listsOn(sheet, stores)) {
    if (!does) continue
    list.ranks.forEach((topics, i) => {
      for (const topic of topics) {
        for (const at of [key(topic), key(topic, student.section_id)]) {
          const own = counts.get(at) ?? { first: 0, all: 0 }
          counts.set(at, { first: own.first + (i === 0 ? 1 : 0), all: own.all + 1 })
        }
      }
    })
  }
  return { at: now, of: (topicId, sectionId) => counts.get(key(topicId, sectionId)) ?? { first: 0, all: 0 } }
}
