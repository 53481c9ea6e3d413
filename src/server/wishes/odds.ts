import { type Instant, MINUTE, msOf } from '../../core/instant.ts'
import type { Odds } from '../../core/wishes/odds.ts'
import { USUAL_ORDER } from '../../core/wishes/rules.ts'
import { basisOf } from '../plans/basis.ts'
import type { Planner } from '../plans/planner.ts'
import type { Enrolment } from '../roster/store.ts'
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

/** For how long chances that were drawn are told; to somebody whose order has changed since, for less. */
const FRESH = 5 * MINUTE
const FRESH_FOR_CHANGED = MINUTE / 3

/** Sheets whose chances are kept in memory. */
const MOST_SHEETS = 50

/**
 * Draws many lots beside the server’s thread to tell students their chances: once for all of a sheet, and not again for
 * some minutes, however many ask.
 */
export function createOddsBook(stores: Stores, planner: Pick<Planner, 'odds'>) {
  const known = new Map<
    number,
    { since: number; versions: ReadonlyMap<string, number>; found: Promise<SheetOdds> }
  >()
  const draw = async (
    sheet: Sheet,
    versions: ReadonlyMap<string, number>,
    now: Instant,
  ): Promise<SheetOdds> => {
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
    const { draws, of } = await planner.odds(input)
    return { at: now, draws, of, versions }
  }
  return {
    /** @throws Error where they could not be drawn; asked again, it is tried again */
    of(sheet: Sheet, reader: Pick<Enrolment, 'id' | 'code'>, now: Instant): Promise<SheetOdds> {
      const before = known.get(sheet.id)
      const age = before ? msOf(now) - before.since : Number.POSITIVE_INFINITY
      const mine = stores.wishes.of(sheet.id, reader.id)?.version ?? 0
      const same = before && (before.versions.get(reader.code) ?? 0) === mine
      if (before && age >= 0 && age < (same ? FRESH : FRESH_FOR_CHANGED)) return before.found
      const oldest = known.keys().next().value
      if (known.size >= MOST_SHEETS && oldest !== undefined) known.delete(oldest)
      const versions = versionsOn(sheet, stores)
      const found = draw(sheet, versions, now)
      known.delete(sheet.id)
      known.set(sheet.id, { since: msOf(now), versions, found })
      found.catch(() => known.delete(sheet.id))
      return found
    },
  }
}

/** Which version of whose list counts now. */
function versionsOn(sheet: Sheet, stores: Stores): Map<string, number> {
  return new Map(
    listsOn(sheet, stores).flatMap(({ student, row, counts }) =>
      counts ? [[student.code, row.version] as const] : [],
    ),
  )
}
