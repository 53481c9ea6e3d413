/** What the seats check counts: who needs a seat where, and how many seats are offered where. */
export interface SupplyInput {
  /** Sections with the number of active students in each; one entry with key null in a course without sections. */
  sections: readonly { key: string | null; students: number }[]
  /** Every group with its section and its limit. */
  groups: readonly { section: string | null; seats: number }[]
}

/** One section's balance of seats. */
export interface SectionSupply {
  key: string | null
  students: number
  seats: number
  groups: number
  /** Seats left over when everybody sits; negative when seats are short. */
  spare: number
}

/** Seats against students, per section, in the order given. Seats per student: one. */
export function seatsCheck({ sections, groups }: SupplyInput): SectionSupply[] {
  return sections.map(({ key, students }) => {
    const own = groups.filter((group) => group.section === key)
    const seats = own.reduce((sum, group) => sum + group.seats, 0)
    return { key, students, seats, groups: own.length, spare: seats - students }
  })
}

/** Seats that are missing over all sections. A spare seat in one section does not help another. */
export function seatsShort(supply: readonly SectionSupply[]): number {
  return supply.reduce((sum, { spare }) => sum + Math.max(0, -spare), 0)
}

/**
 * The smallest common limit at which the section with the worst shortage has a seat for everybody,
 * given that only groups on the common limit follow it; null when no limit up to `most` is enough.
 */
export function commonLimitThatSeatsAll(
  sections: SupplyInput['sections'],
  groups: readonly { section: string | null; seats: number | null }[],
  most: number,
): number | null {
  let needed = 1
  for (const { key, students } of sections) {
    const own = groups.filter((group) => group.section === key)
    const fixed = own.reduce((sum, group) => sum + (group.seats ?? 0), 0)
    const following = own.filter((group) => group.seats === null).length
    const missing = students - fixed
    if (missing <= 0) continue
    if (following === 0) return null
    needed = Math.max(needed, Math.ceil(missing / following))
  }
  return needed <= most ? needed : null
}
