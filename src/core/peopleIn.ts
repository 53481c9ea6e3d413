import { isEmail } from './email.ts'
import { readAddressList } from './formats/addressList.ts'
import { searchable } from './names.ts'
import { numberKey } from './roster.ts'

/** Somebody of a roster, as one looks for them in a text. */
export interface Known {
  code: string
  name: string
  /** Another name that they go by, or empty. */
  called?: string
  email: string
  /** The student number, or empty. */
  number?: string
}

/** Who is named in a text, and which lines name nobody, or more than one. */
export interface PeopleRead {
  people: string[]
  faults: { line: number; found: string; message: string }[]
}

/**
 * Reads a list of people, one in each line: an address, a student number, a name, or a line of a table that has one of them. Good lines
 * are known beside bad ones; a line that names the columns is passed over.
 */
export function peopleIn(text: string, roster: readonly Known[]): PeopleRead {
  const byEmail = new Map(roster.map(({ code, email }) => [email.toLowerCase(), code]))
  const byName = new Map<string, string[]>()
  for (const { code, name, called } of roster)
    for (const key of new Set([searchable(name), searchable(called || name)]))
      byName.set(key, [...(byName.get(key) ?? []), code])
  const byNumber = new Map(roster.flatMap(({ code, number }) => (number ? [[numberKey(number), code]] : [])))
  const people = new Set<string>()
  const faults: PeopleRead['faults'] = []
  // As mail programs write them: each is somebody.
  const addressed = readAddressList(text)
  for (const { line, name, email } of addressed ?? []) {
    const code = byEmail.get(email)
    if (code !== undefined) people.add(code)
    else {
      const found = (name ? `${name} <${email}>` : email).slice(0, 60)
      faults.push({ line, found, message: 'Nobody of this address is an active student of the course.' })
    }
  }
  if (addressed) return { people: [...people], faults }
  for (const [i, line] of text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\n|\r/)
    .entries()) {
    const cells = line
      .split(/[,;\t]/)
      .map((cell) => cell.trim().replace(/^["']|["']$/g, ''))
      .filter((cell) => cell !== '')
    if (cells.length === 0) continue
    const email = cells.find(isEmail)
    const found = cells.join(', ').slice(0, 60)
    const fault = (message: string) => faults.push({ line: i + 1, found, message })
    if (email !== undefined) {
      const code = byEmail.get(email.toLowerCase())
      if (code === undefined) fault('Nobody of this address is an active student of the course.')
      else people.add(code)
      continue
    }
    const numbered = cells.map((cell) => byNumber.get(numberKey(cell))).find((code) => code !== undefined)
    if (numbered !== undefined) {
      people.add(numbered)
      continue
    }
    // A name may stand in one cell, or its parts in two: as they are, or the other way round.
    const names = [...cells, cells.slice(0, 2).join(' '), cells.slice(0, 2).reverse().join(' ')]
    const named = names.map((name) => byName.get(searchable(name))).find((codes) => codes !== undefined)
    if (named && named.length > 1) fault('Several students are called that. Give the address.')
    else if (named?.[0] !== undefined) people.add(named[0])
    else if (i > 0 || !/\b(name|e-?mail|student|address)\b/i.test(line))
      fault('Nobody of that name is an active student of the course.')
  }
  return { people: [...people], faults }
}
