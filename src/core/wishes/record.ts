import type { Priority, WishRules } from './rules.ts'
import type { WishAim, WishInput, WishOutcome } from './types.ts'

/**
 * A seating by wishes as anybody can check it: without names, by codes of rows, each of which only its student knows.
 * `docs/schemas/haplon-wishes-1.json` says what is in it, and `npm run check-wishes` checks it.
 */
export interface WishRecord {
  schema: 'haplon-wishes-1'
  aim: WishAim
  offers: 'section' | 'course'
  lotNumber: number
  /** True where the lot’s order was gone through from its end, as in a second round; left out, from its beginning. */
  reversed?: true
  /** Seats that were given out; null without a limit. */
  groups: {
    code: string
    topic: string
    section: string | null
    seats: number | null
    /** How many have to sit there for it to work, and how many did before; left out, one and nobody. */
    floor?: number
    before?: number
  }[]
  rows: {
    code: string
    section: string | null
    wishes: string[][]
    cannot: string[]
    /** Groups in which they may not sit for other reasons. */
    never?: string[]
    /** The group in which they sat, and which they may leave. */
    home?: string
  }[]
  /** What was kept to besides; left out where there was nothing. */
  rules?: {
    /** What counted before what, once as few as can be were left. */
    order: Priority[]
    /** Rows that sit in one group, or nowhere; two that do not sit in one group. */
    together: string[][]
    apart: string[][]
    /** Whether it is proven that no other choice of groups, and of places for these, would have been better. */
    proven: boolean
  }
  /** Where each row came to sit, and which wish that is. */
  result: { row: string; group: string | null; rank: number | null }[]
}

/** What a seating kept to besides wishes, and whether it is proven to be the best. */
export interface RecordedRules {
  rules: WishRules
  proven: boolean
}

/** The record of a seating; its rows and groups in the order of their codes, which says nothing of people. */
export function recordOf(
  input: WishInput,
  { seats }: Pick<WishOutcome, 'seats'>,
  within?: RecordedRules,
): WishRecord {
  const { aim, offers, lotNumber, reversed, wishers, groups } = input
  const codes = new Map(wishers.map(({ key, lot = key }) => [key, lot]))
  const byCode = <One>(all: readonly One[], codeOf: (one: One) => string) =>
    all.toSorted((a, b) => (codeOf(a) < codeOf(b) ? -1 : 1))
  return {
    schema: 'haplon-wishes-1',
    aim,
    offers,
    lotNumber,
    ...(reversed === true && { reversed }),
    groups: byCode(
      groups.map(({ key, topic, section, seats }) => ({
        code: key,
        topic,
        section,
        seats: Number.isFinite(seats) ? seats : null,
        ...floorOf(key, within),
      })),
      ({ code }) => code,
    ),
    rows: byCode(
      wishers.map(({ key, lot = key, section, ranks, cannot, never = [], home = null }) => ({
        code: lot,
        section,
        wishes: ranks.map((topics) => [...topics]),
        cannot: [...cannot],
        ...(never.length > 0 && { never: [...never] }),
        ...(home !== null && { home }),
      })),
      ({ code }) => code,
    ),
    ...rulesIn(input, within, codes),
    result: byCode(
      seats.map(({ person, group, rank }) => ({ row: codes.get(person) ?? person, group, rank })),
      ({ row }) => row,
    ),
  }
}

function floorOf(group: string, within: RecordedRules | undefined): { floor?: number; before?: number } {
  const known = within?.rules.floors.get(group)
  return known ? { floor: known.floor, before: known.fixed } : {}
}

/** What was kept to, with people as their rows; nothing where no seat could have been otherwise for it. */
function rulesIn(
  { wishers }: WishInput,
  within: RecordedRules | undefined,
  codes: ReadonlyMap<string, string>,
): Pick<WishRecord, 'rules'> {
  if (!within) return {}
  const { together, apart, floors, order } = within.rules
  const seated = wishers.some(({ home }) => home != null)
  if (together.length + apart.length + floors.size === 0 && !seated) return {}
  const rows = (people: readonly string[]) => people.map((person) => codes.get(person) ?? person)
  return {
    rules: {
      order: [...order],
      together: together.map(rows),
      apart: apart.map(rows),
      proven: within.proven,
    },
  }
}
