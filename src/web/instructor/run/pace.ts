import { type Instant, instantFromMs, msOf } from '../../../core/instant.ts'

/** One point of the curve: seats taken by then, how many the needed pace asks for, and the share seated per section. */
export interface PacePoint {
  at: Instant
  seated: number
  /** People who should sit by then, at an even pace from opening to close. */
  needed: number
  /** Share seated per section, 0 to 100, by its code. */
  shares: Record<string, number>
}

export interface PaceInput {
  opensAt: Instant
  closesAt: Instant
  now: Instant
  people: readonly { code: string; section: string | null }[]
  seats: readonly { person: string; at: Instant }[]
  sections: readonly { code: string }[]
}

const POINTS = 48

/** How a sheet filled over its window, as far as it has come, against the pace that seats everybody by the close. */
export function paceOf({ opensAt, closesAt, now, people, seats, sections }: PaceInput): PacePoint[] {
  const [from, to] = [msOf(opensAt), msOf(closesAt)]
  const known = new Map(people.map(({ code, section }) => [code, section]))
  const firstAt = new Map<string, number>()
  for (const { person, at } of seats) {
    if (known.has(person))
      firstAt.set(person, Math.min(firstAt.get(person) ?? Number.POSITIVE_INFINITY, msOf(at)))
  }
  const end = Math.min(to, Math.max(from, msOf(now)))
  return Array.from({ length: POINTS + 1 }, (_, i) => {
    const at = from + ((end - from) * i) / POINTS
    const seated = [...firstAt].filter(([, taken]) => taken <= at)
    const shares = sections.map(({ code }): [string, number] => {
      const all = people.filter(({ section }) => section === code).length
      const here = seated.filter(([person]) => known.get(person) === code).length
      return [code, all === 0 ? 100 : Math.round((100 * here) / all)]
    })
    return {
      at: instantFromMs(at),
      seated: seated.length,
      needed: Math.round((people.length * (at - from)) / Math.max(1, to - from)),
      shares: Object.fromEntries(shares),
    }
  })
}
