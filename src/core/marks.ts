/** A row that work is marked against: what is looked at, how many points it can bring, and the levels on its line. */
export interface Criterion {
  id: string
  title: string
  /** Most points; the line goes from none to these. */
  points: number
  /** Words along the line, from least to most. */
  levels: readonly string[]
}

/** Where somebody was placed: points for each criterion, by its id. Those left out are not marked yet. */
export type Placements = Readonly<Record<string, number>>

/** Points are given in halves. */
export const STEP = 0.5

/** Points rounded to the nearest step and kept between none and the most. */
export function fitPoints(points: number, most: number): number {
  return Math.max(0, Math.min(most, Math.round(points / STEP) * STEP))
}

/** What a task can bring in all. */
export function mostPoints(task: { points: number; criteria: readonly Criterion[] }): number {
  return task.criteria.length === 0 ? task.points : task.criteria.reduce((sum, { points }) => sum + points, 0)
}

/** What somebody got: the sum over the criteria once each is marked, or the plain points; null while something is open. */
export function totalOf(
  task: { criteria: readonly Criterion[] },
  mark: { placements: Placements; points: number | null },
): number | null {
  if (task.criteria.length === 0) return mark.points
  let sum = 0
  for (const { id, points: most } of task.criteria) {
    const points = mark.placements[id]
    if (points === undefined) return null
    sum += Math.min(points, most)
  }
  return sum
}

/** Placements without those of criteria that are gone, and none past what a criterion brings now. */
export function fitPlacements(criteria: readonly Criterion[], placements: Placements): Placements {
  return Object.fromEntries(
    criteria.flatMap(({ id, points }) => {
      const given = placements[id]
      return given === undefined ? [] : [[id, fitPoints(given, points)] as const]
    }),
  )
}

/** Placements on the criteria that there are, written in one way, to be compared; null where none is placed. */
export function writtenPlacements(criteria: readonly Criterion[], placements: Placements): string | null {
  const there = fitPlacements(criteria, placements)
  return Object.keys(there).length === 0 ? null : JSON.stringify(there)
}

/** Points that lie past what can be had, by criterion id, or `points` for plain ones. */
export function pastMost(
  task: { points: number; criteria: readonly Criterion[] },
  mark: { placements: Placements; points: number | null },
): string[] {
  const past = task.criteria.filter(({ id, points }) => {
    const given = mark.placements[id]
    return given !== undefined && (given < 0 || given > points)
  })
  const plain =
    task.criteria.length === 0 && mark.points !== null && (mark.points < 0 || mark.points > task.points)
  return [...past.map(({ id }) => id), ...(plain ? ['points'] : [])]
}

/** Sentences of feedback that begin like what is typed last, those used most often first. */
export function phrasesLike(typed: string, feedbacks: readonly string[], most = 5): string[] {
  const last =
    typed
      .split(/(?<=[.!?])\s+/)
      .at(-1)
      ?.trim()
      .toLowerCase() ?? ''
  if (last.length < 2) return []
  const times = new Map<string, number>()
  for (const feedback of feedbacks) {
    for (const sentence of feedback.split(/(?<=[.!?])\s+|\n+/)) {
      const phrase = sentence.trim()
      if (phrase.toLowerCase().startsWith(last) && phrase.toLowerCase() !== last)
        times.set(phrase, (times.get(phrase) ?? 0) + 1)
    }
  }
  return [...times]
    .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
    .slice(0, most)
    .map(([phrase]) => phrase)
}
