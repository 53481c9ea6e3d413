import type { Course } from '../courses/store.ts'
import { fieldProblem } from '../http/problem.ts'
import type { Stores } from '../stores.ts'

/**
 * The list that a sheet or a task is to be for, by its code.
 * @param what is to be for it: `the sheet`
 * @param field where a fault is said
 * @throws ProblemError beside the list, where there is none, or nobody is on it
 */
export function chosenList(
  { id }: Course,
  code: string | null | undefined,
  what: string,
  { lists }: Pick<Stores, 'lists'>,
  field = 'list',
): number {
  const known = code ? lists.byCode(id, code) : undefined
  if (!known || known.removed_at !== null)
    throw fieldProblem(field, 'Choose a list of people, or make one first.')
  if (lists.members(known.id).size === 0)
    throw fieldProblem(field, `Nobody is on “${known.title}”: ${what} would be for nobody. Add people first.`)
  return known.id
}
