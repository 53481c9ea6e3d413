import * as contract from '../../contract/rehearsal.ts'
import { sheetState } from '../../core/window.ts'
import type { Sessions } from '../access/sessions.ts'
import { fieldProblem } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import { instantOf } from '../sheets/edit.ts'
import { windowOf } from '../sheets/window.ts'
import type { Stores } from '../stores.ts'
import type { Rehearsals } from './rehearsals.ts'

/** Beginning and ending a rehearsal. */
export function bindRehearsal(
  serve: Serve,
  stores: Stores,
  rehearsals: Rehearsals,
  { of }: Pick<Sessions, 'of'>,
): void {
  serve(contract.beginRehearsal, async ({ req, sheet, course, person, enrolment, body, now }) => {
    const sections = stores.roster.sections(course.id)
    const real =
      body.person === null ? null : stores.audience.students(sheet).find(({ code }) => code === body.person)
    if (real === undefined) throw fieldProblem('person', 'Nobody of that name is a student of this sheet.')
    const section = body.section === null ? sections[0] : sections.find(({ code }) => code === body.section)
    if (body.section !== null && !section) throw fieldProblem('section', 'The course has no such section.')
    const scheduled = sheetState(windowOf(sheet), now) === 'scheduled'
    const asked = instantOf({ sheet, course, person, now, stores }, 'at', body.at, null, 'first')
    const at = asked ?? (scheduled ? sheet.opens_at : null) ?? now
    const begun = await rehearsals.begin(
      { personId: person.id, session: of(req) },
      {
        sheetId: sheet.id,
        playerId: enrolment.id,
        enrolmentId: real?.id ?? null,
        sectionId: section?.id ?? null,
        at,
      },
    )
    return { ...begun, at, madeUp: enrolment.role === 'tutor' }
  })
  serve(contract.endRehearsal, async ({ person }) => {
    await rehearsals.endOf(person.id)
    return null
  })
}
