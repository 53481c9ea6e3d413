import type { LedgerLine } from '../../../contract/ledger.ts'
import { matches } from '../../../core/names.ts'
import { localTimeOf } from '../../../core/zone.ts'
import { type KindGroup, kindGroupOf, type Naming } from '../record/words.ts'

/** What of the ledger is looked for. */
export interface Sought {
  /** Words of a person's or an actor's name. */
  typed: string
  /** A group by code; empty for all. */
  group: string
  kind: KindGroup | 'all'
  /** A day in the course's zone, `YYYY-MM-DD`; empty for all. */
  day: string
}

export const EVERYTHING: Sought = { typed: '', group: '', kind: 'all', day: '' }

/** The entries that are looked for, newest first. */
export function soughtIn(
  entries: readonly LedgerLine[],
  { typed, group, kind, day }: Sought,
  naming: Naming,
  zone: string,
): LedgerLine[] {
  return entries
    .filter((line) => {
      if (kind !== 'all' && kindGroupOf(line.kind) !== kind) return false
      if (group !== '' && line.from !== group && line.to !== group && line.detail.group !== group)
        return false
      if (day !== '' && localTimeOf(line.at, zone).slice(0, 10) !== day) return false
      if (typed.trim() === '') return true
      return matches(typed, line.person === null ? null : naming.person(line.person), line.actor)
    })
    .toReversed()
}
