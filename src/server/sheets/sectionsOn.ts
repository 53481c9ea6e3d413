import type { Section } from '../roster/store.ts'
import type { Stores } from '../stores.ts'
import type { Sheet } from './store.ts'

/** Sections as a sheet has them: those of its course, and removed ones that a put away sheet still has groups in. */
export function sectionsOn(sheet: Sheet, { roster, sheets }: Pick<Stores, 'roster' | 'sheets'>): Section[] {
  const there = new Set(sheets.groups(sheet.id).map(({ section_id }) => section_id))
  return roster
    .everySection(sheet.course_id)
    .filter(({ id, removed_at }) => removed_at === null || there.has(id))
    .map(({ id, code, name }) => ({ id, code, name }))
}
