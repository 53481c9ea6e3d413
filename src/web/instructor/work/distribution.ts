import type { WorkView } from '../../../contract/tasks.ts'
import { workOf } from './states.ts'

/** How the marks of some people lie: how many in each fifth of the points, and the middle one. */
export interface Spread {
  name: string
  /** People marked. */
  count: number
  /** People in each fifth, from least to most. */
  fifths: number[]
  median: number | null
}

/** How the marks of a task lie in each section, in each topic, or by who marked them; of students, with those set apart. */
export function distributionOf(
  view: WorkView,
  code: string,
  most: number,
  by: 'section' | 'topic' | 'marker',
): Spread[] {
  const task = view.tasks.find((one) => one.code === code)
  if (!task) return []
  const groupsOf = new Map<string, string[]>()
  for (const { code: group, members } of view.groups)
    for (const member of members) groupsOf.set(member, [...(groupsOf.get(member) ?? []), group])
  const topicOf = new Map(view.groups.map(({ code: group, topic }) => [group, topic]))
  const names = new Map(
    by === 'section'
      ? view.sections.map(({ code: section, name }) => [section, name] as const)
      : view.topics.map(({ code: topic, title }) => [topic, title] as const),
  )
  const points = new Map<string, number[]>()
  for (const person of view.people) {
    const own = groupsOf.get(person.code) ?? []
    const { points: got, markedBy } = workOf(person.code, own, task, task.work)
    if (got === null) continue
    const key =
      by === 'section'
        ? (person.section ?? '')
        : by === 'topic'
          ? (topicOf.get(own[0] ?? '') ?? '')
          : (markedBy ?? '')
    if (by === 'marker') names.set(key, key)
    points.set(key, [...(points.get(key) ?? []), got])
  }
  const order = by === 'section' && names.size === 0 ? [''] : [...names.keys()]
  return order
    .filter((key) => points.has(key))
    .map((key) => {
      const sorted = (points.get(key) ?? []).toSorted((a, b) => a - b)
      const fifths = [0, 0, 0, 0, 0]
      for (const one of sorted) {
        const at = Math.min(4, Math.floor((5 * one) / most))
        fifths[at] = (fifths[at] ?? 0) + 1
      }
      return { name: names.get(key) ?? 'Everybody', count: sorted.length, fifths, median: medianOf(sorted) }
    })
}

function medianOf(sorted: readonly number[]): number | null {
  if (sorted.length === 0) return null
  const half = Math.floor(sorted.length / 2)
  const upper = sorted[half] as number
  return sorted.length % 2 === 1 ? upper : ((sorted[half - 1] as number) + upper) / 2
}
