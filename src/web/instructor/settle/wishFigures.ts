import type { PlanContent, SettleView } from '../../../contract/plans.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import { rankOf } from '../../../core/wishes/rules.ts'

/** How many of some people come to which wish. */
export interface Reached {
  name: string
  people: number
  first: number
  second: number
  third: number
  later: number
  none: number
  notRanked: number
  noSeat: number
}

/** How much a topic is wanted, and its seats; null without a limit. */
export interface TopicDemand {
  title: string
  first: number
  second: number
  seats: number | null
}

type Seen = Pick<SettleView, 'basis' | 'sections' | 'topics'>

/** Which wishes people come to by a plan: over all, then per section. In a further round, those who look for a seat in it. */
export function reachedBy(
  { basis, sections }: Seen,
  { moves, left, settings }: Pick<PlanContent, 'moves' | 'left' | 'settings'>,
): Reached[] {
  const lists = new Map(basis.wished?.lists.map((one) => [one.person, one]))
  const further = (settings.wishes?.round ?? 1) > 1
  const looking = new Set([...moves, ...left].map(({ person }) => person))
  const at = new Map(further ? [] : basis.seats.map(({ person, group }) => [person, group]))
  for (const { person, from } of left) if (from !== null) at.delete(person)
  for (const { person, to } of moves) at.set(person, to)
  const count = (name: string, of: (section: string | null) => boolean): Reached => {
    const reached: Reached = {
      name,
      people: 0,
      first: 0,
      second: 0,
      third: 0,
      later: 0,
      none: 0,
      notRanked: 0,
      noSeat: 0,
    }
    for (const { key, section } of basis.people) {
      if (!of(section) || (further && !looking.has(key))) continue
      reached.people += 1
      const group = at.get(key)
      const list = lists.get(key)
      const rank = group === undefined || !list ? null : rankOf(list, basis.wished?.topics[group])
      if (group === undefined) reached.noSeat += 1
      else if (!list) reached.notRanked += 1
      else if (rank === null) reached.none += 1
      else reached[(['first', 'second', 'third'] as const)[rank - 1] ?? 'later'] += 1
    }
    return reached
  }
  return [
    count('All', () => true),
    ...sections.map(({ code, name }) => count(name, (section) => section === code)),
  ]
}

/** How much each topic is wanted, in the order of the sheet. */
export function demandOf({ basis, topics }: Seen): TopicDemand[] {
  const wished = basis.wished
  const limits = new Map<string, number[]>()
  for (const { key, seats } of basis.groups) {
    const topic = wished?.topics[key] ?? ''
    limits.set(topic, [...(limits.get(topic) ?? []), seats])
  }
  return topics.map(({ code, title }) => {
    const own = limits.get(code) ?? []
    const at = (rank: number) => wished?.lists.filter(({ ranks }) => ranks[rank]?.includes(code)).length ?? 0
    return {
      title,
      first: at(0),
      second: at(1),
      seats: own.includes(NO_LIMIT) ? null : own.reduce((sum, n) => sum + n, 0),
    }
  })
}
