import { namesShown } from '../../core/rules.ts'
import type { Enrolment } from '../roster/store.ts'
import type { Sheet } from '../sheets/store.ts'
import type { Stores } from '../stores.ts'

/**
 * How people of a group are called to a reader who belongs to it: staff by name to everybody; students by name to staff,
 * to themselves, and to mates unless the house rules show names to nobody.
 */
export function namesFor(sheet: Sheet, reader: Enrolment, { roster }: Pick<Stores, 'roster'>) {
  const shown = mateNamesShown(sheet) || reader.role !== 'student'
  return (id: number): string => {
    if (id === reader.id) return reader.name
    const person = roster.enrolment(id)
    return shown || (person && person.role !== 'student')
      ? (person?.name ?? 'A member')
      : 'A member of your group'
  }
}

/** Whether those of one group read each other's names. */
export function mateNamesShown({ names }: Pick<Sheet, 'names'>): boolean {
  return namesShown(names, { state: 'closed', seated: true, inGroup: true })
}
