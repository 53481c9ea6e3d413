import { rehearsal } from '../../contract/rehearsal.ts'
import { notFound } from '../http/problem.ts'
import type { Serve } from '../http/serve.ts'
import type { Stores } from '../stores.ts'
import { membersOf } from './members.ts'
import { type Reader, studentSheet } from './studentViews.ts'

/** The id of nobody: an invented student holds no seat and has none kept. */
const INVENTED = 0

/** The sheet as a student would see it. Reads only. */
export function bindRehearsal(serve: Serve, stores: Stores): void {
  const { roster, sheets } = stores
  serve(rehearsal, ({ req, sheet, course, now }) => {
    const { person, section } = req.query
    const sections = roster.sections(course.id)
    const chosen = sections.find(({ code }) => code === section) ?? sections[0]
    const real =
      typeof person === 'string'
        ? stores.audience.students(sheet).find(({ code }) => code === person)
        : undefined
    if (typeof person === 'string' && !real)
      throw notFound('Nobody of that name is an active student of this course.')
    const reader: Reader = real ?? {
      id: INVENTED,
      section_id: chosen?.id ?? null,
      status: 'active',
    }
    const view = studentSheet(sheet, course, reader, now, stores)
    const shown = new Map(sheets.groups(sheet.id).map(({ id, code }) => [code, id]))
    return {
      view:
        view.state === 'draft' || view.state === 'scheduled'
          ? { ...view, state: 'open' as const, opensAt: now }
          : view,
      as: real?.name ?? (chosen ? `an invented student of ${chosen.name}` : 'an invented student'),
      real: real !== undefined,
      names: Object.fromEntries(
        view.groups.map(({ code }) => [
          code,
          membersOf(shown.get(code) ?? 0, stores)
            .filter(({ id, status }) => id !== reader.id && status === 'active')
            .map(({ name }) => name),
        ]),
      ),
    }
  })
}
