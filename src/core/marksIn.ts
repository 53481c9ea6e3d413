/** One owner's marks for a task as they stand: of the whole, and of members set apart. */
export interface StandingMarks<Key> {
  owner: Key
  members: readonly Key[]
  /** Points of the whole; null while it is not marked. */
  whole: number | null
  apart: ReadonlyMap<Key, number | null>
}

/** A mark that changes: of the whole (with a null member), or of one set apart; null points take that apart mark away. */
export interface MarkChange<Key> {
  owner: Key
  member: Key | null
  from: number | null
  to: number | null
}

/** What counts for a member: the mark set apart, else that of the whole. */
export function pointsFor<Key>({ whole, apart }: StandingMarks<Key>, member: Key): number | null {
  return apart.has(member) ? (apart.get(member) ?? null) : whole
}

/**
 * What has to change so that members get the points that are wanted for them. Where all members are to get the same, it
 * is the mark of the whole; otherwise those who differ from it are set apart. Members of whom nothing is said, and those
 * who have what is wanted already, keep theirs.
 */
export function changesFor<Key>(
  standing: StandingMarks<Key>,
  wanted: ReadonlyMap<Key, number>,
): MarkChange<Key>[] {
  const { owner, members, apart } = standing
  const asked = members.flatMap((member) => {
    const to = wanted.get(member)
    return to === undefined ? [] : [{ member, to }]
  })
  if (asked.every(({ member, to }) => pointsFor(standing, member) === to)) return []
  const first = asked[0]?.to ?? null
  const alike = asked.length === members.length && asked.every(({ to }) => to === first)
  // A group without a mark gets the one that most of its members are to have.
  const whole = alike ? first : (standing.whole ?? mostOften(asked.map(({ to }) => to)))
  const changes: MarkChange<Key>[] = []
  if (whole !== standing.whole) changes.push({ owner, member: null, from: standing.whole, to: whole })
  for (const { member, to } of asked) {
    const own = apart.has(member)
    const from = pointsFor(standing, member)
    if (to === whole) {
      if (own) changes.push({ owner, member, from, to: null })
    } else if (!own || from !== to) changes.push({ owner, member, from, to })
  }
  return changes
}

function mostOften(values: readonly number[]): number | null {
  const times = new Map<number, number>()
  for (const value of values) times.set(value, (times.get(value) ?? 0) + 1)
  const [most] = [...times].sort((a, b) => b[1] - a[1] || b[0] - a[0])
  return most?.[0] ?? null
}
