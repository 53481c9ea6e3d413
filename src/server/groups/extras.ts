import type { Extra } from '../../core/extras.ts'
import { ProblemError } from '../http/problem.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'

/** Refuses what groups of a sheet do not have (any more). */
export function extraOn(sheet: Sheet, extra: Extra, { groups }: Pick<Stores, 'groups'>): void {
  if (!groups.extras(sheet.id)[extra])
    throw new ProblemError(
      'extra-off',
      'That was turned off for the groups of this sheet. What was in it is kept.',
    )
}
