import type { SheetChanges } from '../../contract/sheets.ts'
import { fieldProblem } from '../http/problem.ts'
import { chosenList } from '../lists/chosen.ts'
import { askFirst, type Edit } from './edit.ts'
import type { SheetFields } from './store.ts'

type Whom = Pick<SheetChanges, 'forWhom' | 'sectionsFor' | 'list'>

/**
 * For whom a sheet is to be, as it is kept.
 * @throws ProblemError beside the list where there is none, or nobody is on it
 */
export function whomFields(
  { sheet, course, stores }: Edit,
  { forWhom, list }: Whom,
): Pick<SheetFields, 'for_whom' | 'list_id'> {
  const for_whom = forWhom ?? sheet.for_whom
  if (for_whom !== 'list') return { for_whom, list_id: null }
  if (list === undefined && sheet.list_id !== null) return { for_whom, list_id: sheet.list_id }
  return { for_whom, list_id: chosenList(course, list, 'the sheet', stores) }
}

/**
 * Keeps for which sections a sheet is, and asks where somebody sits on it already whom it is not for any more. They
 * keep their seats, and the sheet with them.
 */
export function setWhom(
  edit: Edit,
  next: SheetFields,
  { forWhom, sectionsFor, list }: Whom,
  confirmed: boolean,
): void {
  const { sheet, course, stores } = edit
  if (forWhom === undefined && sectionsFor === undefined && list === undefined) return
  const chosen = sectionsOf(edit, next, sectionsFor)
  const members = next.list_id === null ? null : stores.lists.members(next.list_id)
  const out = stores.seats
    .ofSheet(sheet.id)
    .map(({ enrolment_id }) => enrolment_id)
    .filter((id) => {
      if (next.for_whom === 'course') return false
      if (members) return !members.has(id)
      return !chosen.includes(stores.roster.enrolment(id)?.section_id ?? 0)
    })
  askFirst(
    edit,
    confirmed,
    out,
    `Some sit on it for whom it would not be. They keep their seats, and see it as before; nobody else of ${course.course_code} does.`,
  )
  stores.sheets.setSectionsFor(sheet.id, chosen)
}

function sectionsOf({ sheet, course, stores }: Edit, next: SheetFields, sent: Whom['sectionsFor']): number[] {
  if (next.for_whom !== 'sections') return []
  const known = new Map(stores.roster.sections(course.id).map(({ id, code }) => [code, id]))
  const ids = sent?.map((code) => known.get(code)) ?? stores.sheets.sectionsFor(sheet.id)
  const wrong = ids.indexOf(undefined)
  if (wrong >= 0) throw fieldProblem(`sectionsFor[${wrong}]`, 'The course has no such section any more.')
  if (ids.length === 0) throw fieldProblem('sectionsFor', 'Choose a section: the sheet would be for nobody.')
  return [...new Set(ids)].filter((id) => id !== undefined)
}
