/** What a mark gives: points, or where somebody is placed on the criteria, written in one way (`core/marks.ts`). */
export type Given = number | string

/** One owner's marks for a task as they stand: of the whole, and of members set apart. */
export interface StandingMarks<Key, Value extends Given = number> {
  owner: Key
  members: readonly Key[]
  /** What the whole has; null while it is not marked. */
  whole: Value | null
  apart: ReadonlyMap<Key, Value | null>
}

/** A mark that changes: of the whole (with a null member), or of one set apart; to null takes that apart mark away. */
export interface MarkChange<Key, Value extends Given = number> {
  owner: Key
  member: Key | null
  from: Value | null
  to: Value | null
}

/** What counts for a member: the mark set apart, else that of the whole. */
export function pointsFor<Key, Value extends Given>(
  { whole, apart }: StandingMarks<Key, Value>,
  member: Key,
): Value | null {
  return apart.has(member) ? (apart.get(member) ?? null) : whole
}

/**
 * What has to change so that members get the points that are wanted for them. Where all members are to get the same, it
 * is the mark of the whole; otherwise those who differ from it are set apart. Members of whom nothing is said, and those
 * who have what is wanted already, keep theirs: where the whole has no mark, they get none by what is said of others.
 */
export function changesFor<Key, Value extends Given>(
  standing: StandingMarks<Key, Value>,
  wanted: ReadonlyMap<Key, Value>,
): MarkChange<Key, Value>[] {
  const { owner, members, apart } = standing
  const asked = members.flatMap((member) => {
    const to = wanted.get(member)
    return to === undefined ? [] : [{ member, to }]
  })
  if (asked.every(({ member, to }) => pointsFor(standing, member) === to)) return []
  const first = asked[0]?.to ?? null
  const alike = asked.length === members.length && asked.every(({ to }) => to === first)
  // A group without a mark gets the one that most of its members are to have, once something is said of each.
  const most = asked.length === members.length ? mostOften(asked.map(({ to }) => to)) : null
  const whole = alike ? first : (standing.whole ?? most)
  const changes: MarkChange<Key, Value>[] = []
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

/** The feedback of one owner's work as it will stand: of the whole, and of members who have a mark of their own. */
export interface StandingFeedback<Key> {
  members: readonly Key[]
  whole: string
  apart: ReadonlyMap<Key, string>
}

/** Whose feedback becomes another: the whole's (with a null member), or a member's who is set apart. */
export interface FeedbackChange<Key> {
  member: Key | null
  to: string
}

/**
 * What has to change so that members read what is wanted for them. Those who are set apart have their own; all others
 * read the one of the whole, so that different texts for them cannot be: they are given as unclear.
 */
export function feedbackFor<Key>(
  { members, whole, apart }: StandingFeedback<Key>,
  wanted: ReadonlyMap<Key, string>,
): { changes: FeedbackChange<Key>[]; unclear: Key[] } {
  const changes: FeedbackChange<Key>[] = []
  const shared: { member: Key; to: string }[] = []
  for (const member of members) {
    const to = wanted.get(member)
    if (to === undefined) continue
    if (!apart.has(member)) shared.push({ member, to })
    else if (apart.get(member) !== to) changes.push({ member, to })
  }
  const texts = new Set(shared.map(({ to }) => to))
  const [text] = texts
  if (texts.size > 1)
    return { changes, unclear: shared.filter(({ to }) => to !== whole).map(({ member }) => member) }
  if (text !== undefined && text !== whole) changes.unshift({ member: null, to: text })
  return { changes, unclear: [] }
}

/** What most of them are; of several the greatest. */
function mostOften<Value extends Given>(values: readonly Value[]): Value | null {
  const times = new Map<Value, number>()
  for (const value of values) times.set(value, (times.get(value) ?? 0) + 1)
  const [most] = [...times].sort((a, b) => b[1] - a[1] || (a[0] > b[0] ? -1 : 1))
  return most?.[0] ?? null
}
