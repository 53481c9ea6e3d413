import type { Extra } from '../../core/extras.ts'
import { ProblemError } from '../http/problem.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'

/** Refuses what a group does not have (any more). */
export function extraOn(
  group: Pick<Group, 'id' | 'sheet_id'>,
  extra: Extra,
  { groups }: Pick<Stores, 'groups'>,
): void {
  if (!groups.extrasFor(group)[extra])
    throw new ProblemError('extra-off', 'That was turned off for this group. What was in it is kept.')
}
