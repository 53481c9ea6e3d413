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
  /** Seats that were given out; null without a limit. */
  groups: { code: string; topic: string; section: string | null; seats: number | null }[]
  rows: { code: string; section: string | null; wishes: string[][]; cannot: string[] }[]
  /** Where each row came to sit, and which wish that is. */
  result: { row: string; group: string | null; rank: number | null }[]
}

/** The record of a seating; its rows and groups in the order of their codes, which says nothing of people. */
export function recordOf(input: WishInput, { seats }: Pick<WishOutcome, 'seats'>): WishRecord {
  const { aim, offers, lotNumber, wishers, groups } = input
  const codes = new Map(wishers.map(({ key, lot = key }) => [key, lot]))
  const byCode = <One>(all: readonly One[], codeOf: (one: One) => string) =>
    all.toSorted((a, b) => (codeOf(a) < codeOf(b) ? -1 : 1))
  return {
    schema: 'haplon-wishes-1',
    aim,
    offers,
    lotNumber,
    groups: byCode(
      groups.map(({ key, topic, section, seats }) => ({
        code: key,
        topic,
        section,
        seats: Number.isFinite(seats) ? seats : null,
      })),
      ({ code }) => code,
    ),
    rows: byCode(
      wishers.map(({ key, lot = key, section, ranks, cannot }) => ({
        code: lot,
        section,
        wishes: ranks.map((topics) => [...topics]),
        cannot: [...cannot],
      })),
      ({ code }) => code,
    ),
    result: byCode(
      seats.map(({ person, group, rank }) => ({ row: codes.get(person) ?? person, group, rank })),
      ({ row }) => row,
    ),
  }
}
