import type { LedgerLine } from '../../../contract/ledger.ts'
import { counted } from '../../../core/counted.ts'
import { changedFields } from './changeWords.ts'

/** What names stand for in a ledger's words. */
export interface Naming {
  person: (code: string | null) => string
  group: (code: string | null) => string
  plan: (code: string) => string | null
  /** A topic’s title, by its code. */
  topic: (code: string) => string
  /** A moment, in the course’s zone. */
  at: (instant: string) => string
}

/** Kinds of entries as the filter groups them. */
export const KIND_GROUPS = {
  seats: ['seat-taken', 'seat-moved', 'seat-given-up', 'seat-removed'],
  lines: ['line-joined', 'line-left'],
  asking: [
    'request-made',
    'request-answered',
    'invitation-made',
    'invitation-answered',
    'leave-asked',
    'leave-answered',
    'swap-offered',
    'swap-answered',
    'swap-ended',
  ],
  work: [
    'task-added',
    'task-changed',
    'task-removed',
    'task-restored',
    'work-handed-in',
    'work-taken-back',
    'mark-given',
    'marks-released',
    'marks-hidden',
    'difference-made',
    'difference-changed',
    'difference-ended',
    'there-corrected',
    'second-reading-drawn',
    'extras-changed',
    'own-extras-changed',
    'place-changed',
  ],
  sheet: [],
} as const satisfies Record<string, readonly string[]>
export type KindGroup = keyof typeof KIND_GROUPS

/** To which of the filter's groups an entry belongs; whatever is about nobody in particular is the sheet's. */
export function kindGroupOf(kind: string): KindGroup {
  const found = (Object.keys(KIND_GROUPS) as KindGroup[]).find((name) =>
    (KIND_GROUPS[name] as readonly string[]).includes(kind),
  )
  return found ?? 'sheet'
}

/** What an entry says, as a sentence without its subject's time. */
export function entryWords(line: LedgerLine, naming: Naming): string {
  const who = naming.person(line.person)
  const { from, to } = line
  switch (line.kind) {
    case 'seat-taken':
      return `${who} sat down at ${naming.group(to)}`
    case 'seat-moved':
      return `${who} moved from ${naming.group(from)} to ${naming.group(to)}`
    case 'seat-given-up':
      return `${who} gave up the seat at ${naming.group(from)}`
    case 'seat-removed':
      return `${who} was taken out of ${naming.group(from)}`
    case 'line-joined':
      return `${who} went into the line for ${naming.group(groupIn(line))}`
    case 'line-left':
      return `${who} left the line for ${naming.group(groupIn(line))}`
    case 'request-made':
      return `${who} asked for a change`
    case 'request-answered':
      return `${who}’s request was ${String(line.detail.state ?? 'answered')}`
    case 'invitation-made':
      return `${who} was invited to ${naming.group(groupIn(line))}`
    case 'invitation-answered':
      return `${who}’s invitation was ${String(line.detail.answer ?? 'answered')}`
    case 'work-handed-in':
      return `${titleIn(line)} was handed in for ${who}`
    case 'work-taken-back':
      return `${titleIn(line)} was withdrawn, for ${who}`
    case 'task-added':
      return `${titleIn(line)} was set as a task`
    case 'task-removed':
      return `${titleIn(line)} was deleted as a task`
    case 'task-restored':
      return `${titleIn(line)} was brought back as a task`
    case 'marks-released':
      return `Marks for ${titleIn(line)} were released`
    case 'marks-hidden':
      return `Marks for ${titleIn(line)} were hidden again`
    case 'difference-made':
    case 'difference-changed':
      return `${titleIn(line)} differs for ${line.person ? who : 'a group'}`
    case 'difference-ended':
      return `${titleIn(line)} is for ${line.person ? who : 'a group'} as for everybody again`
    case 'there-corrected':
      return `${titleIn(line)}: ${who} ${line.detail.there === true ? 'was there' : 'was not there'}${line.detail.reason ? ` (${String(line.detail.reason)})` : ''}`
    case 'leave-asked':
      return `${who} was asked by the convener to leave ${naming.group(groupIn(line))}`
    case 'leave-answered':
      return `${who}: leaving ${naming.group(groupIn(line))} was ${String(line.detail.answer ?? 'answered')}`
    case 'swap-offered':
      return `${who} was offered ${naming.group(groupIn(line))} in a swap of ${String(line.detail.people)}`
    case 'swap-answered':
      return `${who} ${line.detail.accepted === true ? 'accepted' : 'declined'} a swap to ${naming.group(groupIn(line))}`
    case 'swap-ended':
      return `The swap that would have brought ${who} to ${naming.group(groupIn(line))} ${SWAP_ENDS[String(line.detail.ending)] ?? 'ended'}`
    case 'second-reading-drawn':
      return `${String(line.detail.drawn)} of ${String(line.detail.of)} works for ${titleIn(line)} were drawn for a second reading, lot number ${String(line.detail.lotNumber)}`
    case 'own-extras-changed':
      return changed(`What ${naming.group(groupIn(line))} gets`, line, naming)
    case 'mark-given':
      return `${markedWhom(line, naming)} for ${titleIn(line)}: ${markWords(line.detail.marked)}`
    case 'sheet-changed':
      return recordWords(line.detail.recordHandedOut) ?? changed('The sheet', line, naming)
    case 'topic-added':
      return `${topicIn(line, naming)} was added as a topic`
    case 'topic-changed':
      return changed(topicIn(line, naming), line, naming)
    case 'topic-removed':
      return `${topicIn(line, naming)} was taken off the sheet`
    case 'topic-restored':
      return `${topicIn(line, naming)} was put back`
    case 'group-changed':
      return limitsWords(line, naming) ?? changed(naming.group(groupIn(line)), line, naming)
    case 'task-changed':
      return taskWords(line, naming)
    case 'extras-changed':
      return changed('What groups get', line, naming)
    case 'convener-named':
      return line.detail.person
        ? `${naming.person(String(line.detail.person))} was named to answer for ${naming.group(groupIn(line))}`
        : `Nobody is named to answer for ${naming.group(groupIn(line))} any more`
    case 'tutors-assigned':
      return careWords(line, naming)
    case 'seat-held':
      return `A seat at ${naming.group(groupIn(line))} is kept for ${heldFor(line, naming)}`
    case 'seat-freed':
      return `A seat at ${naming.group(groupIn(line))} that was kept free was opened`
    case 'section-added':
    case 'section-removed':
    case 'section-restored':
      return `The section ${String(line.detail.section ?? '')} ${SECTION_WORDS[line.kind] ?? ''}`
    case 'place-changed':
      return `${naming.group(groupIn(line))} got another ${placeWords(line.detail.what)}`
    default:
      return SHEET_WORDS[line.kind] ?? 'Something on the sheet changed'
  }
}

/** Whether the record of the wishes was handed out to students, or withdrawn from them. */
function recordWords(handedOut: unknown): string | null {
  if (typeof handedOut !== 'boolean') return null
  return handedOut
    ? 'The record of the wishes was handed out'
    : 'The record of the wishes was withdrawn from students'
}

const SWAP_ENDS: Readonly<Record<string, string>> = {
  declined: 'was declined',
  lapsed: 'was not answered in time',
  fallen: 'cannot be made any more',
}

const SHEET_WORDS: Readonly<Record<string, string>> = {
  'sheet-added': 'The sheet was written',
  'sheet-published': 'The sheet was published',
  'sheet-withdrawn': 'The sheet was taken back to a draft',
  'sheet-archived': 'The sheet was archived',
  'sheet-unarchived': 'The sheet was restored',
  'sheet-deleted': 'The sheet was deleted',
  'sheet-restored': 'The sheet was brought back',
  'topics-reordered': 'Topics were put in another order',
}

const SECTION_WORDS: Readonly<Record<string, string>> = {
  'section-added': 'was added to the course',
  'section-removed': 'was taken off the course',
  'section-restored': 'was put back',
}

/** `The sheet: seats from 3 to 4; the close from … to …`. */
function changed(
  what: string,
  { detail }: LedgerLine,
  naming: Naming,
  of: 'task' | 'other' = 'other',
): string {
  const fields = changedFields(detail, naming, of)
  return fields.length === 0 ? `${what} was saved as it was` : `${what}: ${fields.join('; ')}`
}

/** The topic that an entry is about: as it is called now, or was when it was written down. */
function topicIn({ detail }: LedgerLine, naming: Naming): string {
  const known = naming.topic(String(detail.topic ?? ''))
  return `“${known || (typeof detail.title === 'string' ? detail.title : 'a topic')}”`
}

function limitsWords({ detail: { limits } }: LedgerLine, naming: Naming): string | null {
  if (!Array.isArray(limits)) return null
  const said = (limits as [string, number, number | null][]).map(([group, from, to]) => {
    const seats = { own_seats: [from, to] }
    return `${naming.group(group)} (${changedFields(seats, naming).join('')})`
  })
  return `Limits: ${said.join('; ')}`
}

/** What changed of a task; files that come with it have entries of their own. */
function taskWords(line: LedgerLine, naming: Naming): string {
  const { detail } = line
  const name = typeof detail.named === 'string' ? `“${detail.named}”` : 'A task'
  const files = detail.files as { from: string | null; to: string | null } | undefined
  if (files)
    return files.to === null
      ? `${name}: the file “${files.from}” was taken away`
      : `${name}: the file “${files.to}” was added`
  return changed(name, line, naming, 'task')
}

/** Who looks after which group now, and who not any more. */
function careWords({ detail }: LedgerLine, naming: Naming): string {
  const changes = (detail.changes ?? []) as { group: string; add: string[]; remove: string[] }[]
  const said = changes.flatMap(({ group, add, remove }) => [
    ...add.map((code) => `${naming.person(code)} looks after ${naming.group(group)}`),
    ...remove.map((code) => `${naming.person(code)} does not look after ${naming.group(group)} any more`),
  ])
  if (said.length > 0) return said.join('; ')
  // Entries from before it was said who came and who went.
  const groups = ((detail.groups ?? []) as string[]).map((code) => naming.group(code))
  const tutors = ((detail.tutors ?? []) as string[]).map((code) => naming.person(code))
  return `${groups.join(', ')}: looked after by ${tutors.length > 0 ? tutors.join(', ') : 'nobody'}`
}

function heldFor({ detail: { person, note } }: LedgerLine, naming: Naming): string {
  if (typeof person === 'string') return naming.person(person)
  return typeof note === 'string' && note !== '' ? `“${note}”` : 'a use'
}

/** Whose mark: a group’s, a member’s who is set apart, or a student’s. */
function markedWhom({ detail: { group, student } }: LedgerLine, naming: Naming): string {
  const who = typeof student === 'string' ? naming.person(student) : null
  if (typeof group !== 'string') return who ?? 'Somebody'
  return who ? `${who}, apart from ${naming.group(group)}` : naming.group(group)
}

/** From which points to which; those who may not read them read that there is a mark. */
function markWords(marked: unknown): string {
  if (!Array.isArray(marked)) return 'the mark was set or changed'
  const [from, to] = marked as [number | null, number | null]
  if (to === null) return `the mark of ${counted(from ?? 0, 'point')} is open again`
  return from === null ? counted(to, 'point') : `from ${counted(from, 'point')} to ${counted(to, 'point')}`
}

function titleIn({ detail }: LedgerLine): string {
  return typeof detail.title === 'string' ? `“${detail.title}”` : 'A task'
}

/** `meeting name` as it is said: “meeting link and name”. */
function placeWords(what: unknown): string {
  return String(what ?? '')
    .split(' ')
    .map((one) => (one === 'meeting' ? 'meeting link' : one))
    .join(' and ')
}

function groupIn({ detail, to }: LedgerLine): string | null {
  return typeof detail.group === 'string' ? detail.group : to
}

/** How a change of a seat came about, after the sentence; empty where the person did it alone. */
export function causeOf({ detail, actor, person }: LedgerLine, naming: Naming): string {
  const { plan, because } = detail
  if (because === 'plan-undone') return 'a plan was undone'
  if (typeof plan === 'string') {
    const reason = reasonWords(detail.reason)
    return [`by the plan “${naming.plan(plan) ?? plan}”`, reason].filter(Boolean).join(': ')
  }
  switch (because) {
    case 'by-hand':
      return 'by hand'
    case 'convener':
      return 'by the convener'
    case 'undone':
      return 'a change was undone'
    case 'request':
      return `a request was granted by ${actor ?? 'an instructor'}`
    case 'waiting-line':
      return 'first in line'
    case 'swap':
      return `in a swap of ${String(detail.people)}; undoing it takes all of it back`
    case 'roster':
      return 'paused or left on the roster'
    case 'roster-undone':
      return 'a change of the roster was undone'
    case 'brought-back':
      return 'the group is there again'
    case 'group-not-offered':
      return 'the group was closed'
    case 'topic-removed':
      return 'the topic was taken off the sheet'
    case 'section-removed':
      return 'the section was taken off the course'
    case 'topic-spread':
      return 'the topic got other groups: one for all sections, or one in each'
    case 'carried-on':
      return 'the group carries on from another sheet'
    default:
      return actor !== null && person !== null && actor !== naming.person(person) ? `by ${actor}` : ''
  }
}

const REASONS: Readonly<Record<string, string>> = {
  'by-hand': 'set by hand',
  held: 'a seat was kept for them',
  mixed: 'exchanged for a better mix',
  extra: 'one more seat, as none was free',
  apart: 'kept apart',
  together: 'kept together',
  dissolved: 'their group was too small',
  floor: 'brings the group to its floor',
  'only-room': 'only room left',
  even: 'evens out',
  lot: 'drawn by lot',
  surname: 'by surname',
}

/** Why a plan seated somebody where it did, in a few words; empty where it is not known. */
export function reasonWords(reason: unknown): string {
  const code = typeof reason === 'object' && reason !== null && 'code' in reason ? String(reason.code) : ''
  return REASONS[code] ?? ''
}
