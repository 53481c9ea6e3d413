import { isUnderFloor, seatsLeft } from './limit.ts'

/** What the tally counts over: people, groups with limit and floor, and who sits where. Keys are compared only. */
export interface TallyInput {
  sections: readonly { code: string; name: string }[]
  people: readonly { code: string; section: string | null }[]
  groups: readonly { code: string; section: string | null; seats: number; floor: number; held?: number }[]
  seats: readonly { group: string; person: string }[]
}

/** How a sheet stands. */
export interface Tally {
  students: number
  /** Codes of people who hold no seat, in the order of the people. */
  noGroup: string[]
  /** Per section: students, and how many of them hold no seat. */
  sections: { code: string; name: string; students: number; left: number }[]
  /** Seats that anybody could take; Infinity where a group has no limit. */
  seatsOpen: number
  groupsFull: number
  /** Groups in which people sit, but fewer than can work. */
  underFloor: number
  taken: Map<string, number>
}

/** Counts how a sheet stands. Seats of people who are not given (paused, departed) take room but count for nobody. */
export function tally({ sections, people, groups, seats }: TallyInput): Tally {
  const taken = new Map<string, number>()
  for (const { group } of seats) taken.set(group, (taken.get(group) ?? 0) + 1)
  const seated = new Set(seats.map(({ person }) => person))
  const left = people.filter(({ code }) => !seated.has(code))
  const within = (list: TallyInput['people'], section: string) =>
    list.filter((person) => person.section === section).length
  const free = groups.map(({ code, seats, held }) => seatsLeft(seats, taken.get(code) ?? 0, held))
  return {
    students: people.length,
    noGroup: left.map(({ code }) => code),
    sections: sections.map(({ code, name }) => ({
      code,
      name,
      students: within(people, code),
      left: within(left, code),
    })),
    seatsOpen: free.reduce((sum, seats) => sum + seats, 0),
    groupsFull: free.filter((seats) => seats === 0).length,
    underFloor: groups.filter(({ code, floor }) => isUnderFloor(taken.get(code) ?? 0, floor)).length,
    taken,
  }
}
