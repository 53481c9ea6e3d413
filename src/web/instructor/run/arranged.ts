import type { RunView } from '../../../contract/seats.ts'
import { isUnderFloor, seatsLeft } from '../../../core/limit.ts'

/** Which groups of the field are looked at, and in which order its topics stand. */
export interface Look {
  only: 'all' | 'full' | 'room' | 'under-floor' | 'empty' | 'own'
  order: 'written' | 'title' | 'fewest' | 'most-free'
}

export const ALL: Look = { only: 'all', order: 'written' }

/** The topics that are shown, in order, and the groups that are looked for; null where all are. */
export function arranged(
  view: Pick<RunView, 'topics' | 'groups' | 'you'>,
  taken: ReadonlyMap<string, number>,
  { only, order }: Look,
): { topics: RunView['topics']; sought: ReadonlySet<string> | null } {
  const size = (group: RunView['groups'][number]) => taken.get(group.code) ?? 0
  const left = (group: RunView['groups'][number]) => seatsLeft(group.seats, size(group), group.held)
  const fits: Record<Look['only'], (group: RunView['groups'][number]) => boolean> = {
    all: () => true,
    full: (group) => left(group) === 0,
    room: (group) => left(group) > 0,
    'under-floor': (group) => isUnderFloor(size(group), group.floor),
    empty: (group) => size(group) === 0,
    own: ({ tutors }) => tutors.includes(view.you),
  }
  const sought = only === 'all' ? null : new Set(view.groups.filter(fits[only]).map(({ code }) => code))
  const byTopic = new Map<string, RunView['groups'][number][]>()
  for (const group of view.groups) {
    if (sought && !sought.has(group.code)) continue
    const own = byTopic.get(group.topic)
    if (own) own.push(group)
    else byTopic.set(group.topic, [group])
  }
  const sum = (topic: string, of: (group: RunView['groups'][number]) => number) =>
    (byTopic.get(topic) ?? []).reduce((total, group) => total + of(group), 0)
  // Tutors see the topics first in which they look after a group.
  const own = new Set(view.groups.filter(({ tutors }) => tutors.includes(view.you)).map(({ topic }) => topic))
  const orders: Record<
    Look['order'],
    (a: RunView['topics'][number], b: RunView['topics'][number]) => number
  > = {
    written: (a, b) => Number(own.has(b.code)) - Number(own.has(a.code)),
    title: (a, b) => a.title.localeCompare(b.title, 'en', { numeric: true }),
    fewest: (a, b) => sum(a.code, size) - sum(b.code, size),
    'most-free': (a, b) => {
      const [first, second] = [sum(a.code, left), sum(b.code, left)]
      return first === second ? 0 : second - first
    },
  }
  const shown = sought ? view.topics.filter(({ code }) => byTopic.has(code)) : view.topics
  return { topics: shown.toSorted(orders[order]), sought }
}
