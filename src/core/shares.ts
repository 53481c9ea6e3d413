/** Points that each gives for every other member: shared evenly, all have as many. */
export const EVEN_SHARE = 10

/** How many points somebody has to give to so many others. */
export const pointsToGive = (others: number): number => EVEN_SHARE * others

/** What is wrong with points that somebody gives to others, or null. */
export type SharesFault =
  | { kind: 'unknown'; key: string }
  | { kind: 'missing'; key: string }
  | { kind: 'not-whole'; key: string }
  | { kind: 'sum'; given: number; wanted: number }

/**
 * Looks at points that somebody gives to the others of a group: whole and not below none, to each of them and nobody
 * else, and as many together as there are to give.
 */
export function sharesFault(
  points: Readonly<Record<string, number>>,
  others: readonly string[],
): SharesFault | null {
  const unknown = Object.keys(points).find((key) => !others.includes(key))
  if (unknown !== undefined) return { kind: 'unknown', key: unknown }
  for (const key of others) {
    const given = points[key]
    if (given === undefined) return { kind: 'missing', key }
    if (!Number.isInteger(given) || given < 0) return { kind: 'not-whole', key }
  }
  const given = others.reduce((sum, key) => sum + (points[key] ?? 0), 0)
  const wanted = pointsToGive(others.length)
  return given === wanted ? null : { kind: 'sum', given, wanted }
}

/** What one member gave to the others. */
export interface GivenShare<Key> {
  by: Key
  points: ReadonlyMap<Key, number>
}

/**
 * What each member was given on average by the others who gave, to one decimal. Points of and to those who are no
 * members (any more) are left out; whoever was given nothing is left out too.
 * @returns for each member the average and by how many it was given
 */
export function averageShares<Key>(
  given: readonly GivenShare<Key>[],
  members: readonly Key[],
): Map<Key, { average: number; by: number }> {
  const among = new Set(members)
  const averages = new Map<Key, { average: number; by: number }>()
  for (const member of members) {
    const got = given.flatMap(({ by, points }) => {
      const one = points.get(member)
      return by !== member && among.has(by) && one !== undefined ? [one] : []
    })
    if (got.length === 0) continue
    const average = Math.round((10 * got.reduce((sum, one) => sum + one, 0)) / got.length) / 10
    averages.set(member, { average, by: got.length })
  }
  return averages
}

/** From how many givers on an average tells nobody who gave what. */
export const ENOUGH_GIVERS = 2
