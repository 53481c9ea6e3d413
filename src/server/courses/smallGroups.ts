import type { SmallGroup } from '../../contract/courses.ts'
import type { Instant } from '../../core/instant.ts'
import { mendingsFor } from '../../core/plan/mend.ts'
import { basisOf } from '../plans/basis.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Group } from '../sheets/topicStore.ts'
import type { Stores } from '../stores.ts'

/** Groups that are too small since somebody left the course, with what can be done about each. */
export function smallGroups(
  sheet: Sheet,
  low: readonly Group[],
  counts: ReadonlyMap<number, number>,
  now: Instant,
  stores: Stores,
): SmallGroup[] {
  const { ledger, roster, sheets } = stores
  const left = low.flatMap((group) => {
    const leavers = ledger.lastTakenOut(sheet.id, group.id, 'roster').flatMap((id) => {
      const person = roster.enrolment(id)
      return person && person.status !== 'active' ? [person.name] : []
    })
    return leavers.length > 0 ? [{ group, leavers }] : []
  })
  if (left.length === 0) return []
  const basis = basisOf(sheet, now, stores)
  const names = roster.sectionNames(sheet.course_id)
  return left.map(({ group, leavers }) => ({
    group: group.code,
    title: [sheets.topicById(group.topic_id)?.title, names.get(group.section_id ?? 0)]
      .filter(Boolean)
      .join(', '),
    size: counts.get(group.id) ?? 0,
    floor: group.floor,
    ownFloor: group.own_floor,
    leavers,
    can: mendingsFor(basis, group.code).map(({ kind }) => kind),
  }))
}
