import { isEmail, normalEmail } from '../email.ts'
import { LIMITS } from '../limits.ts'
import { numberKey, type RosterLine } from '../roster.ts'
import { cleanText, invisibleAt, labelKey } from '../text.ts'
import { aroundComma, type RosterColumn, roleIn } from './rosterColumns.ts'
import { type Columns, cellOf, type LineFault, type Row, short } from './table.ts'

// The lines of a roster, once it is known which column is which.

/** How a name with a comma is read: “Strand, Mirela” has the surname first, or is the name as it stands. */
export type Commas = 'surname-first' | 'as-is'

/** A column whose values are kept, by its name and place. */
export interface Kept {
  name: string
  at: number
}

/** How the lines of a file are read, once that is known. */
export interface Reader {
  columns: Columns<RosterColumn>
  sections: readonly string[]
  kept: readonly Kept[]
  commas: Commas
  /** The section of those whose line has none; empty where that is not said. */
  section: string
}

/** Reads the lines of a roster one by one: good lines, what is wrong with the others, and sections that are not there. */
export function readLines(
  rows: readonly Row[],
  how: Reader,
): { lines: RosterLine[]; faults: LineFault[]; strange: string[] } {
  const lines: RosterLine[] = []
  const faults: LineFault[] = []
  const firstLineOf = new Map<string, number>()
  const strange = new Map<string, string>()
  for (const row of rows) {
    const found = readLine(row, how)
    if (found.strange)
      strange.set(labelKey(found.strange), strange.get(labelKey(found.strange)) ?? found.strange)
    const { email, number = '' } = found.line
    for (const [field, value, key, what] of [
      ['email', email, email, 'address'],
      ['number', number, numberKey(number), 'student number'],
    ] as const) {
      const earlier = firstLineOf.get(`${field} ${key}`)
      if (value !== '' && found.faults.length === 0 && earlier !== undefined)
        found.faults.push({
          line: row.line,
          field,
          found: value,
          message: `The same ${what} stands in line ${earlier}. Keep one of the two.`,
        })
    }
    if (found.faults.length > 0) {
      faults.push(...found.faults)
      continue
    }
    if (email !== '') firstLineOf.set(`email ${email}`, row.line)
    if (number !== '') firstLineOf.set(`number ${numberKey(number)}`, row.line)
    lines.push(how.kept.length > 0 ? { ...found.line, attributes: attributesOf(row, how.kept) } : found.line)
  }
  return { lines, faults, strange: [...strange.values()] }
}

function attributesOf({ cells }: Row, kept: readonly Kept[]): Record<string, string> {
  return Object.fromEntries(
    kept.map(({ name, at }) => [name, cleanText(cells[at] ?? '').slice(0, LIMITS.attribute)]),
  )
}

function readLine(row: Row, how: Reader): { line: RosterLine; faults: LineFault[]; strange: string | null } {
  const { columns, sections } = how
  const faults: LineFault[] = []
  const fault = (field: RosterColumn | 'line', found: string, message: string) =>
    faults.push({ line: row.line, field, found: short(found), message })
  const cell = (column: RosterColumn) => cellOf(row, columns, column)
  if (row.broken) {
    fault(
      'line',
      row.cells.join(', '),
      'A quotation mark opens here and is not closed, or stands inside a cell alone.',
    )
  }
  const { name, ...parts } = nameIn(cell, how.commas)
  if (name === '') fault('name', '', 'The name is missing.')
  if (name.length > LIMITS.personName || parts.called.length > LIMITS.personName)
    fault('name', name, `A name holds ${LIMITS.personName} characters at most.`)
  const number = cleanText(cell('number'))
  if (number.length > LIMITS.studentNumber)
    fault('number', number, `A student number holds ${LIMITS.studentNumber} characters at most.`)
  const email = normalEmail(cell('email'))
  const wrong = addressFault(email, number)
  if (wrong) fault('email', email, wrong)
  const role = roleIn(cell('role'))
  if (!role)
    fault(
      'role',
      cell('role'),
      'A role is student, tutor or instructor (or learner, TA, teacher, and the like).',
    )
  const typed = cleanText(cell('section')) || (role === 'student' ? how.section : '')
  const section = sections.find((known) => labelKey(known) === labelKey(typed)) ?? null
  const needed = role === 'student' && sections.length > 0
  if (typed === '' && needed)
    fault('section', '', `The section is missing. The course has ${list(sections)}.`)
  const strange = typed !== '' && section === null && typed.length <= LIMITS.sectionName ? typed : null
  if (typed !== '' && section === null && sections.length > 0) {
    fault('section', typed, `The course has no such section; it has ${list(sections)}.`)
  }
  const saysRole = columns.role !== undefined && cell('role') !== ''
  return {
    line: {
      line: row.line,
      name,
      email,
      section,
      role: saysRole ? (role ?? null) : null,
      ...parts,
      ...(columns.number !== undefined && { number }),
    },
    faults,
    strange,
  }
}

/** What is wrong with an address; null where nothing is, or a number tells who is meant. */
function addressFault(email: string, number: string): string | null {
  const hidden = invisibleAt(email)
  if (hidden >= 0) {
    const where = hidden === 0 ? 'before it' : `after “${[...email].slice(0, hidden).join('')}”`
    return `A sign that nobody sees stands ${where}. Type the address anew.`
  }
  if (email === '') return number === '' ? 'The email address is missing.' : null
  return isEmail(email) ? null : 'This is not an email address: one @ and a domain are needed.'
}

/** A name as a line says it: whole, in parts where it says those, and what somebody is called besides. */
function nameIn(
  cell: (column: RosterColumn) => string,
  commas: Commas,
): { name: string; given: string; family: string; called: string } {
  const whole = cleanText(cell('name'))
  const turned = commas === 'surname-first' ? aroundComma(whole) : null
  const family = cleanText(cell('surname')) || (turned?.family ?? '')
  const said = cleanText(cell('called'))
  const given = cleanText(cell('given')) || (turned?.given ?? '') || (family === '' ? '' : said)
  const name = whole !== '' && !turned ? whole : cleanText(`${given} ${family}`)
  // A preferred name is often the given one alone.
  const alone = said !== '' && !said.includes(' ') && family !== ''
  const called = alone ? `${said} ${family}` : said
  return { name, given, family, called: called === name ? '' : called }
}

/** Words as a sentence lists them: `Tue lab, Wed lab and Thu lab`. */
export function list(words: readonly string[]): string {
  return words.length > 1 ? `${words.slice(0, -1).join(', ')} and ${words.at(-1)}` : (words[0] ?? '')
}
