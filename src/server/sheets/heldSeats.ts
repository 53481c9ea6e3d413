import { fieldProblem } from '../http/problem.ts'
import type { Enrolment } from '../roster/store.ts'
import { type Edit, note } from './edit.ts'
import type { Group } from './topicStore.ts'

/** A group in which a seat is to be kept free. */
export interface Holding {
  group: Pick<Group, 'id' | 'code'>
  /** For whom seats are kept there already, by their ids; null for a use in words. */
  held: readonly (number | null)[]
  /** Whether a seat of it is free to be kept. */
  free: boolean
}

/**
 * Keeps a seat of a group free, for a person by the code or a use in words.
 * @param students whom the sheet is for
 * @returns for whom it is kept, by the id; null for a use
 * @throws ProblemError beside `person` or `note`
 */
export function holdIn(
  edit: Edit,
  { person: code, words }: { person: string | null; words: string },
  students: readonly Pick<Enrolment, 'id' | 'code' | 'name'>[],
  { group, held, free }: Holding,
): number | null {
  const person = code === null ? null : students.find((one) => one.code === code)
  if (person === undefined)
    throw fieldProblem('person', 'Nobody of that name is an active student of this course.')
  if (person === null && words.trim() === '')
    throw fieldProblem('note', 'Say for whom or for what the seat is kept.')
  if (person && held.includes(person.id))
    throw fieldProblem('person', `A seat is kept for ${person.name} there already.`)
  if (!free) throw fieldProblem('person', 'No seat of this group is free to be kept. Raise its limit first.')
  edit.stores.sheets.holdSeat(group.id, person?.id ?? null, words.trim(), edit.now)
  note(edit, 'seat-held', { group: group.code, person: code, note: words.trim() })
  return person?.id ?? null
}
