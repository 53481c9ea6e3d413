import { type Instant, MINUTE, msOf } from '../../core/instant.ts'
import type { Odds } from '../../core/wishes/odds.ts'
import { USUAL_ORDER } from '../../core/wishes/rules.ts'
import { basisOf } from '../plans/basis.ts'
import type { Planner } from '../plans/planner.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'
import { listsOn } from './lists.ts'

/** The chances of everybody on a sheet, as of an instant. */
export interface SheetOdds {
  at: Instant
  draws: number
  /** By the code of a person. */
  of: ReadonlyMap<string, Odds>
  /** Which version of whose list was drawn with, where it counted. */
  versions: ReadonlyMap<string, number>
}

/** For how long chances that were drawn are told. */
const FRESH = 5 * MINUTE

/** Sheets whose chances are kept in memory. */
const MOST_SHEETS = 50

/**
 * Draws many lots beside the server’s thread to tell students their chances: once for all of a sheet, and not again for
 * some minutes, however many ask.
 */
export function createOddsBook(stores: Stores, planner: Pick<Planner, 'odds'>) {
  const known = new Map<number, { since: number; found: Promise<SheetOdds> }>()
  const draw = async (sheet: Sheet, now: Instant): Promise<SheetOdds> => {
    const input = {
      ...basisOf(sheet, now, stores),
      method: 'wishes' as const,
      byWishes: { aim: sheet.aim, order: [...USUAL_ORDER] },
      lotNumber: sheet.lot_number,
      floorsFirst: true,
      mayDissolve: false,
      release: 'none' as const,
      pins: [],
    }
    const versions = new Map(
      listsOn(sheet, stores).flatMap(({ student, row, counts }) =>
        counts ? [[student.code, row.version] as const] : [],
      ),
    )
    const { draws, of } = await planner.odds(input)
    return { at: now, draws, of, versions }
  }
  return {
    /** @throws Error where they could not be drawn; asked again, it is tried again */
    of(sheet: Sheet, now: Instant): Promise<SheetOdds> {
      const before = known.get(sheet.id)
      if (before && msOf(now) - before.since < FRESH && msOf(now) >= before.since) return before.found
      const oldest = known.keys().next().value
      if (known.size >= MOST_SHEETS && oldest !== undefined) known.delete(oldest)
      const found = draw(sheet, now)
      known.delete(sheet.id)
      known.set(sheet.id, { since: msOf(now), found })
      found.catch(() => known.delete(sheet.id))
      return found
    },
  }
}
