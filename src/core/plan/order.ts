import { DEFAULT_ORDER, nameOrder } from '../names.ts'
import type { PlanInput } from './types.ts'

/** Everybody in the order of the class list: by surname, and those of one name by their keys. */
export function classOrder({ people, names }: Pick<PlanInput, 'people' | 'names'>): string[] {
  const inOrder = people.toSorted((a, b) => (a.key < b.key ? -1 : 1))
  return inOrder
    .toSorted(nameOrder(names ?? DEFAULT_ORDER, ({ name, listed = name }) => listed))
    .map(({ key }) => key)
}
