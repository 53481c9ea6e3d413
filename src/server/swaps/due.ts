import type { Instant } from '../../core/instant.ts'
import type { Stores } from '../stores.ts'
import type { UnitOfWork } from '../unitOfWork.ts'

/**
 * Brings swaps up to date where no change of a sheet did it: once their time is over, and after seats were taken as they
 * come. A sheet is looked at again only when its ledger went on.
 */
export function createSwapDuty(unit: UnitOfWork, stores: Stores): (now: Instant) => void {
  const seen = new Map<number, number>()
  return (now) => {
    const due = new Set(stores.swaps.due(now))
    for (const id of new Set([...due, ...stores.sheets.withSwaps()])) {
      if (!due.has(id) && seen.get(id) === stores.ledger.newest(id)) continue
      // The change is nothing but its end.
      unit.apart({ id }, now, () => {}, 'swaps of a sheet could not be brought up to date')
      seen.set(id, stores.ledger.newest(id))
    }
  }
}
