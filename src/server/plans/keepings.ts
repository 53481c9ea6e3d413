import type { Instant } from '../../core/instant.ts'
import type { Keeping } from '../../core/plan/types.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'

/** Who keeps apart or together on a sheet at an instant, people by their codes. Those who left the course are left out. */
export function keepingsOn(
  sheet: Sheet,
  now: Instant,
  { plans, roster }: Pick<Stores, 'plans' | 'roster'>,
): Keeping[] {
  return plans
    .keepings(sheet.course_id)
    .filter(({ expires_at }) => expires_at === null || expires_at > now)
    .map(({ code, kind, members }) => ({
      key: code,
      kind,
      people: (JSON.parse(members) as number[]).flatMap((id) => {
        const enrolment = roster.enrolment(id)
        return enrolment?.status === 'active' ? [enrolment.code] : []
      }),
    }))
    .filter(({ people }) => people.length > 1)
}
