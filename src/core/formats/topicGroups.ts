import { NO_LIMIT } from '../limit.ts'
import { labelKey } from '../text.ts'
import { type LineFault, short } from './table.ts'
import type { KeptSeat, ReadLine, SaidOfTopic, TopicColumn } from './topicLine.ts'

// Lines of a list of topics put together: which are topics, and which the group of one in a section.

/** What is an exception of one group; null follows its topic. */
export interface TopicGroup {
  line: number
  /** Code of its section; null where the topic has one group for everybody. */
  section: string | null
  offered: boolean
  seats: number | 'none' | null
  floor: number | null
  startsAt: string | null
  endsAt: string | null
  place: string | null
  link: string | null
  kept: KeptSeat[]
}

/** A topic as a list has it. */
export interface TopicLine extends SaidOfTopic {
  /** Whether it has one group for all sections; null follows the sheet. */
  mixed: boolean | null
  /** Groups that differ from their topic, or in which seats are kept free. */
  groups: TopicGroup[]
}

/** What is known of the sheet that topics are for. */
export interface ForSheet {
  sections?: readonly { code: string; name: string }[]
  mixed?: boolean
  seats?: number
}

/** What lines with one title say: of the whole topic, and of its groups in sections. */
interface Titled {
  whole: ReadLine | null
  inSections: ReadLine[]
}

/**
 * Puts lines of the same title together. A line without a section is the topic; one with a section is of its group
 * there. Where no line is the whole topic, it has groups in those sections that lines name, and is not offered in others.
 * A line with a fault is left out; with that of a topic, those of its groups.
 * @param taken titles that the sheet has already
 */
export function topicsOf(
  read: readonly ReadLine[],
  taken: readonly string[],
  sheet: ForSheet,
): { lines: TopicLine[]; faults: LineFault[] } {
  const faults = read.flatMap((line) => line.faults)
  const wrong = new Set(faults.map(({ line }) => line))
  const putting: Putting = {
    sheet,
    isWrong: ({ line }) => wrong.has(line),
    fault: ({ line }, field, found, message) => {
      faults.push({ line, field, found: short(found), message })
      wrong.add(line)
    },
  }
  const titled = byTitle(read, taken, putting)
  const lines = titled.flatMap((one) => topicOf(one, putting) ?? [])
  return { lines, faults: faults.sort((a, b) => a.line - b.line) }
}

/** What goes on while lines are put together. */
interface Putting {
  sheet: ForSheet
  isWrong: (line: ReadLine) => boolean
  fault: (line: ReadLine, field: TopicColumn, found: string, message: string) => void
}

function byTitle(read: readonly ReadLine[], taken: readonly string[], { fault }: Putting): Titled[] {
  const onSheet = new Set(taken.map((title) => title.toLowerCase()))
  const titles = new Map<string, Titled>()
  for (const line of read) {
    const key = line.title.toLowerCase()
    if (key === '') continue
    if (onSheet.has(key)) {
      fault(line, 'title', line.title, 'The sheet has a topic of this title already.')
      continue
    }
    const titled = titles.get(key) ?? { whole: null, inSections: [] }
    titles.set(key, titled)
    if (line.section !== '') titled.inSections.push(line)
    else if (titled.whole === null) titled.whole = line
    else {
      const message = `The same title stands in line ${titled.whole.line}. Give one of them another.`
      fault(line, 'title', line.title, message)
    }
  }
  return [...titles.values()]
}

function topicOf({ whole, inSections }: Titled, putting: Putting): TopicLine | null {
  const { sheet, isWrong, fault } = putting
  const { sections = [] } = sheet
  const first = whole ?? inSections[0]
  if (!first) return null
  const single = sections.length === 0 || (whole !== null && (whole.mixed ?? sheet.mixed === true))
  if (whole && !single && whole.kept.length > 0)
    fault(whole, 'kept free', '', 'Say in which section: in a line with this title and the section.')
  if (whole && single) tooManyKept(whole, whole.seats ?? sheet.seats ?? 0, putting)
  if (whole && isWrong(whole)) {
    for (const line of inSections)
      fault(line, 'title', line.title, `Line ${whole.line}, that of the topic, is wrong.`)
    return null
  }
  const groups = new Map<string, TopicGroup>()
  for (const line of inSections) {
    const section = sectionOf(line, first.brief, single, putting)
    if (section === null) continue
    const earlier = groups.get(section)
    if (earlier) fault(line, 'section', line.section, `Line ${earlier.line} has the same topic and section.`)
    tooManyKept(line, line.seats ?? whole?.seats ?? sheet.seats ?? 0, putting)
    if (!isWrong(line)) groups.set(section, groupOf(line, section, whole?.offered ?? true))
  }
  if (!whole && groups.size === 0) return null
  const { title, brief, seats, floor, startsAt, endsAt, place, link } = whole ?? {
    ...NOTHING,
    ...titleOf(first),
  }
  const common = { line: first.line, title, brief, seats, floor, startsAt, endsAt, place, link }
  const offered = whole ? (whole.offered ?? true) : false
  return {
    ...common,
    mixed: whole?.mixed ?? null,
    groups: single
      ? onlyGroup(first.line, offered, whole?.kept ?? [])
      : sections.flatMap(
          ({ code }) => groups.get(code) ?? (offered ? [] : [{ ...UNLIKE, line: first.line, section: code }]),
        ),
  }
}

/** The section of a line, by its code; null, with a fault, where the line cannot be of a group there. */
function sectionOf(
  line: ReadLine,
  brief: string,
  single: boolean,
  { sheet: { sections = [] }, fault }: Putting,
): string | null {
  const found = sections.find(({ name }) => labelKey(name) === labelKey(line.section))
  const wrong = (field: TopicColumn, text: string, message: string) => {
    fault(line, field, text, message)
    return null
  }
  if (sections.length === 0) return wrong('section', line.section, 'The course has no sections.')
  if (!found) {
    const which = sections.map(({ name }) => name).join(', ')
    return wrong('section', line.section, `The course has no such section; it has ${which}.`)
  }
  if (single)
    return wrong('section', line.section, 'This topic has one group for everybody, and none in a section.')
  if (line.mixed !== null)
    return wrong('one group for', '', 'This belongs into the line of the topic, the one without a section.')
  if (line.brief !== '' && line.brief !== brief)
    return wrong(
      'brief',
      line.brief,
      'A brief is of the whole topic, and another stands there already. Take one of them out.',
    )
  return found.code
}

function tooManyKept(line: ReadLine, limit: number | 'none', { fault }: Putting): void {
  if (limit === 'none' || limit === NO_LIMIT || line.kept.length <= limit) return
  fault(line, 'kept free', '', `${line.kept.length} seats are kept free, and the group has ${limit}.`)
}

const NOTHING = { seats: null, floor: null, startsAt: null, endsAt: null, place: '', link: '' }
const titleOf = ({ title, brief }: ReadLine) => ({ title, brief })

/** A group that differs from its topic in that it is not offered. */
const UNLIKE = { ...NOTHING, offered: false, place: null, link: null, kept: [] }

/** The one group of a topic: all that its topic’s line says is the topic’s, but for what only groups have. */
function onlyGroup(line: number, offered: boolean, kept: KeptSeat[]): TopicGroup[] {
  return offered && kept.length === 0 ? [] : [{ ...UNLIKE, line, section: null, offered, kept }]
}

function groupOf(line: ReadLine, section: string, offered: boolean): TopicGroup {
  const { seats, floor, startsAt, endsAt, place, link, kept } = line
  return {
    line: line.line,
    section,
    offered: line.offered ?? offered,
    seats,
    floor,
    startsAt,
    endsAt,
    place: place || null,
    link: link || null,
    kept,
  }
}
