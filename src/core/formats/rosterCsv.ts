import { LIMITS } from '../limits.ts'
import { nameParts } from '../names.ts'
import type { RosterLine, RosterPerson, SaidOfName } from '../roster.ts'
import { cleanText } from '../text.ts'
import { type Addressed, nameFromAddress, readAddressList } from './addressList.ts'
import {
  aroundComma,
  columnsByContent,
  headingsBeside,
  headingsIn,
  numbersApart,
  type RosterColumn,
  surnamesFirst,
} from './rosterColumns.ts'
import { type Commas, list, readLines } from './rosterLines.ts'
import {
  type Columns,
  cellOf,
  type LineFault,
  readRows,
  short,
  surplus,
  tableFault,
  titlesPassed,
  without,
  writeTable,
} from './table.ts'

/** A roster file as read: good lines, faults by line, or the one reason why it cannot be read at all. */
export type RosterReading =
  | {
      readable: true
      lines: RosterLine[]
      faults: LineFault[]
      /** Columns that say something else of people, by name: they can be kept as attributes. */
      spare: string[]
      /** What each column is called: by its heading, or by what stands in its first line where there are none. */
      header: string[]
      /** Which column is which, counted from 0. */
      columns: Columns<RosterColumn>
      /** Whether a line of headings was read; else the columns were told by what is in them. */
      headed: boolean
      /** What of the file was passed over, in sentences. */
      notes: string[]
      /** How names with a comma are read; null where no name has one. */
      commas: Commas | null
      /** Sections that lines name and the course does not have, as they are first spelled. */
      strange: string[]
    }
  | { readable: false; message: string; header?: string[] }

/** How a roster is read, where somebody says so. */
export interface RosterHow {
  /** Columns pointed out by hand, before those told by their headings; −1 for one that is not in the file. */
  columns?: Columns<RosterColumn> | undefined
  /** Names of further columns whose values are kept as attributes. */
  keep?: readonly string[]
  /** Whether the first line has the headings, or a person; left out, it is looked for. */
  headings?: 'first' | 'none' | undefined
  /** How names with a comma are read; left out, most of them say. */
  commas?: Commas | undefined
  /** The section of everybody, where the file does not say. */
  section?: string | undefined
}

/**
 * Reads a roster from CSV text (RFC 4180; comma, semicolon or tab; with or without a byte order mark). Headings name the
 * columns, in any order and case, with lines of titles above them or none; where there are no headings, columns are told
 * by what is in them, and the first line is a person. Lines are checked one by one, so that good lines are known beside
 * bad ones.
 * @param sections the course's section names; a student's section must be one of them, if there are any
 */
export function readRosterCsv(text: string, sections: readonly string[], how: RosterHow = {}): RosterReading {
  const { columns: mapped = {}, keep = [], headings } = how
  if (text.length > LIMITS.rosterText) {
    return unreadable(
      `This is longer than a roster can be (${LIMITS.rosterText.toLocaleString('en')} characters).`,
    )
  }
  const noTable = tableFault(text)
  if (noTable) return unreadable(noTable)
  const addressed = headings === undefined ? readAddressList(text) : null
  if (addressed) return ofAddresses(addressed, sections, how)
  const all = readRows(text)
  const [first] = all
  if (!first) return unreadable('There is nothing in it. Give one person in each line: name, email, section.')
  const named = headingsIn(all, headings)
  const found = named ?? (headings === undefined ? headingsBeside(all, sections) : null)
  const rows = all.slice(found ? found.at + 1 : 0)
  const told = found?.columns ?? columnsByContent(rows, sections)
  const columns = without({ ...numbersApart(told, rows), ...mapped })
  const head = found ? (all[found.at]?.cells ?? []) : first.cells
  const fault = columnFault(columns, head, sections, how)
  if (fault) return { ...unreadable(fault), header: head }
  if (rows.length === 0) return unreadable('It names the columns, but no person follows.')
  if (rows.length > LIMITS.rosterLines) {
    const most = LIMITS.rosterLines.toLocaleString('en')
    return unreadable(
      `It has ${rows.length.toLocaleString('en')} lines; ${most} can be imported at once. Split it.`,
    )
  }
  const known = new Set(Object.values(columns))
  const others = head.flatMap((cell, at) => {
    const name = cleanText(cell)
    return found && name !== '' && name.length <= LIMITS.attribute && !known.has(at) ? [{ name, at }] : []
  })
  const kept = others.filter(({ name }) => keep.includes(name))
  const commas = how.commas ?? (surnamesFirst(columns, rows) ? 'surname-first' : 'as-is')
  const reading = readLines(rows, { columns, sections, kept, commas, section: how.section ?? '' })
  const spare = [...new Set(others.map(({ name }) => name))].slice(0, 20)
  const taken = `Line ${first.line} is taken for headings: “${short(first.cells.join(', '))}”.`
  const notes = [
    ...(found && !named ? [taken] : titlesPassed(all, found?.at ?? 0)),
    ...surplus(rows, head.length),
  ]
  const some = rows.some((row) => aroundComma(cellOf(row, columns, 'name')) !== null)
  return {
    readable: true,
    ...reading,
    spare,
    header: head,
    columns,
    headed: found !== null,
    notes,
    commas: some ? commas : null,
  }
}

/** A roster from a list of addresses. Whoever has no name there is called by the address. */
function ofAddresses(
  people: readonly Addressed[],
  sections: readonly string[],
  { section = '' }: RosterHow,
): RosterReading {
  const nameless = people.filter(({ name }) => name === '').length
  const rows = people.map(({ line, name, email }) => ({
    line,
    cells: [name || nameFromAddress(email), email],
    broken: false,
  }))
  const columns = { name: 0, email: 1 }
  const header = ['name', 'address']
  if (sections.length > 0 && section === '') {
    const which = list(sections)
    return {
      ...unreadable(
        `A list of addresses does not say who is in which section, and the course has ${which}. Say which section they are in, or give a table with a section for each.`,
      ),
      header,
    }
  }
  if (rows.length > LIMITS.rosterLines)
    return unreadable(`It has more than ${LIMITS.rosterLines.toLocaleString('en')} addresses. Split it.`)
  const notes =
    nameless > 0
      ? [
          `${nameless === 1 ? 'One has' : `${nameless} have`} no name in the list, and ${nameless === 1 ? 'is' : 'are'} called by the address.`,
        ]
      : []
  return {
    readable: true,
    ...readLines(rows, { columns, sections, kept: [], commas: 'as-is', section }),
    spare: [],
    header,
    columns,
    headed: true,
    notes,
    commas: null,
  }
}

const unreadable = (message: string) => ({ readable: false as const, message })

function columnFault(
  columns: Columns<RosterColumn>,
  header: readonly string[],
  sections: readonly string[],
  { section = '' }: RosterHow,
): string | null {
  const missing: string[] = []
  if (columns.name === undefined && columns.surname === undefined) missing.push('name')
  if (columns.email === undefined && columns.number === undefined) missing.push('email')
  if (columns.section === undefined && sections.length > 0 && section === '') missing.push('section')
  if (missing.length === 0) return null
  const read = header
    .slice(0, 6)
    .map((cell) => `“${short(cell)}”`)
    .join(', ')
  return `The first line must name the columns, and no column is ${missing.map((m) => `“${m}”`).join(' or ')}, by its name or by what is in it. It reads ${read}.`
}

/** Somebody as a roster file has them. */
export type RosterRow = Pick<RosterPerson, 'name' | 'email' | 'section' | 'role'> &
  Partial<SaidOfName> & { attributes?: Readonly<Record<string, string>> }

/**
 * Writes a roster as CSV that `readRosterCsv` reads back unchanged: the name whole and in its two parts, what somebody is
 * called besides, the student number, and a column for each attribute that anybody has.
 */
export function writeRosterCsv(people: readonly RosterRow[]): string {
  const attributes = [...new Set(people.flatMap(({ attributes = {} }) => Object.keys(attributes)))]
  return writeTable(
    ['name', 'given name', 'surname', 'called', 'student number', 'email', 'section', 'role', ...attributes],
    people.map((person) => {
      const { name, given = '', family = '', called = '', number = '', email, section, role } = person
      const parts = nameParts({ name, given, family })
      return [
        name,
        parts.given,
        parts.family,
        called,
        number,
        email,
        section ?? '',
        role,
        ...attributes.map((attribute) => person.attributes?.[attribute] ?? ''),
      ]
    }),
  )
}
