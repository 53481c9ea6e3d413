import { NO_LIMIT } from './limit.ts'

/** A group as the seats check counts it. */
export interface SupplyGroup {
  /** Its section's key; null where it is for all sections, or the course has none. */
  section: string | null
  /** The limit; NO_LIMIT for none. */
  seats: number
  /** The smallest size at which it can work. */
  floor: number
}

/** What the seats check counts: who needs a seat where, and what is offered where. */
export interface SupplyInput {
  /** Sections with the number of active students in each; one entry with key null in a course without sections. */
  sections: readonly { key: string | null; students: number }[]
  /** Every group that is offered. */
  groups: readonly SupplyGroup[]
  /** Active students with those who are in no section; left out, those of the sections. */
  everybody?: number
}

/** One section's balance of seats. */
export interface SectionSupply {
  key: string | null
  students: number
  /** Infinity where a group has no limit. */
  seats: number
  groups: number
  /** Seats left over when everybody sits; negative when seats are short. */
  spare: number
  /** Groups that cannot all reach their floor, however the students are spread. */
  cannotWork: number
}

/**
 * Who needs a seat where. Groups for all sections are a row of their own, with the key null: for everybody, where no
 * section has groups; otherwise for those whom the groups of their own section do not hold.
 */
export function rowsToSeat({ sections, groups, everybody }: SupplyInput): SupplyInput['sections'] {
  if (sections.some(({ key }) => key === null) || groups.every(({ section }) => section !== null))
    return sections
  const total = sections.reduce((sum, { students }) => sum + students, 0)
  if (groups.every(({ section }) => section === null)) return [{ key: null, students: everybody ?? total }]
  const own = sections.map(({ key, students }) => ({
    key,
    students: Math.min(students, seatsOf(groups, key)),
  }))
  const held = own.reduce((sum, { students }) => sum + students, 0)
  return [...own, { key: null, students: (everybody ?? total) - held }]
}

function seatsOf(groups: readonly SupplyGroup[], key: string | null): number {
  const own = groups.filter(({ section }) => section === key)
  if (own.some(({ seats }) => seats === NO_LIMIT)) return Number.POSITIVE_INFINITY
  return own.reduce((sum, { seats }) => sum + seats, 0)
}

/** Seats against students, per section, in the order given, and for all sections together. Seats per student: one. */
export function seatsCheck(input: SupplyInput): SectionSupply[] {
  const { groups } = input
  return rowsToSeat(input).map(({ key, students }) => {
    const own = groups.filter((group) => group.section === key)
    const seats = seatsOf(groups, key)
    return {
      key,
      students,
      seats,
      groups: own.length,
      spare: seats - students,
      cannotWork: cannotWork(own, students),
    }
  })
}

/** Seats that are missing over all sections. A spare seat in one section does not help another. */
export function seatsShort(supply: readonly SectionSupply[]): number {
  return supply.reduce((sum, { spare }) => sum + Math.max(0, -spare), 0)
}

/** Groups left under their floor when as many as possible reach it: smallest floors first, as many as there are students. */
function cannotWork(groups: readonly SupplyGroup[], students: number): number {
  const reachable = groups.filter(({ seats, floor }) => seats === NO_LIMIT || floor <= seats)
  let left = students
  let working = 0
  for (const floor of reachable.map((group) => group.floor).sort((a, b) => a - b)) {
    if (floor > left) break
    left -= floor
    working += 1
  }
  return groups.length - working
}

/** Sizes that a number of people make in a number of groups, as even as can be, larger ones first. */
export function evenSizes(people: number, groups: number): number[] {
  if (groups <= 0) return []
  const small = Math.floor(people / groups)
  const larger = people - small * groups
  return Array.from({ length: groups }, (_, i) => (i < larger ? small + 1 : small))
}

/** How many groups people are put into: so many, or groups of about, of at most, or of at least so many people. */
export type GroupCount = { by: 'number' | 'size' | 'most' | 'least'; n: number }

/** The groups that people are put into, as even as can be: 29 in groups of at most 3 are 9 of 3 and 1 of 2. */
export function groupSizes(people: number, { by, n }: GroupCount): number[] {
  if (people <= 0) return []
  const groups = {
    number: Math.min(n, people),
    size: Math.max(1, Math.round(people / n)),
    most: Math.ceil(people / n),
    least: Math.max(1, Math.floor(people / n)),
  }[by]
  return evenSizes(people, groups)
}

/** Sizes that people make in groups of a size, the last group holding the rest: 29 in threes are nine threes and a pair. */
export function sizesOf(people: number, size: number): number[] {
  const full = Math.floor(people / size)
  const rest = people - full * size
  return [...Array.from({ length: full }, () => size), ...(rest > 0 ? [rest] : [])]
}

/** Sizes in words, equal ones together: `4 groups of 4, 8 of 3`. */
export function saySizes(sizes: readonly number[]): string {
  const times = new Map<number, number>()
  for (const size of sizes) times.set(size, (times.get(size) ?? 0) + 1)
  return [...times]
    .sort(([a], [b]) => b - a)
    .map(([size, n], i) => `${n}${i === 0 ? (n === 1 ? ' group' : ' groups') : ''} of ${size}`)
    .join(', ')
}
