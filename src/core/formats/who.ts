import { normalEmail } from '../email.ts'
import { searchable } from '../names.ts'
import { numberKey } from '../roster.ts'
import { cleanText } from '../text.ts'
import { aroundComma } from './rosterColumns.ts'

// Whom a line of a file means that comes in again: by address, by student number, or by name.

/** Somebody whom a file can name. */
export interface Nameable {
  key: string
  name: string
  email: string
  /** The student number, or empty. */
  number?: string
}

/** What a line says of who is meant; empty where it does not. */
export interface Said {
  email: string
  number: string
  name: string
}

/** Whom a line means, or what is wrong with which cell of it. */
export type Meant<Person> = { person: Person } | { field: keyof Said; found: string; message: string }

/** The columns that say who is meant, by common spellings. */
export const WHO_SPELLINGS = {
  name: ['name', 'full name', 'student', 'person', 'student name'],
  email: ['email', 'e-mail', 'mail', 'email address', 'e-mail address'],
  number: ['student number', 'student no', 'student no.', 'student id', 'matriculation number', 'id number'],
} as const satisfies Record<keyof Said, readonly string[]>

/**
 * Makes a finder of people by what a line says: the address counts before the student number, that before the name, which
 * may be written surname first. Names are compared without regard to case, accents and composition.
 */
export function personFinder<Person extends Nameable>(
  people: readonly Person[],
): (said: Said) => Meant<Person> {
  const byEmail = new Map(people.map((person) => [normalEmail(person.email), person]))
  const byNumber = new Map(
    people.flatMap((person) => (person.number ? [[numberKey(person.number), person]] : [])),
  )
  const byName = new Map<string, Person[]>()
  for (const person of people) {
    const key = nameKey(person.name)
    byName.set(key, [...(byName.get(key) ?? []), person])
  }
  return ({ email, number, name }) => {
    const nobody = (field: keyof Said, found: string) => ({
      field,
      found,
      message: `Nobody active on the roster ${SAYS[field]}. Bring the roster in first, or correct it.`,
    })
    if (email !== '') {
      const person = byEmail.get(normalEmail(email))
      return person ? { person } : nobody('email', email)
    }
    if (number !== '') {
      const person = byNumber.get(numberKey(number))
      return person ? { person } : nobody('number', number)
    }
    const turned = aroundComma(name)
    const found =
      byName.get(nameKey(name)) ??
      (turned ? byName.get(nameKey(`${turned.given} ${turned.family}`)) : undefined) ??
      []
    const [person] = found
    if (!person) return nobody('name', name)
    return found.length > 1
      ? {
          field: 'name',
          found: name,
          message: `${found.length} people are called that. Add a column with their addresses.`,
        }
      : { person }
  }
}

const SAYS = { email: 'has this address', number: 'has this student number', name: 'is called that' }

const nameKey = (name: string) => searchable(cleanText(name))
