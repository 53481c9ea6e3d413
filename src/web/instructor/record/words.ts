import type { LedgerLine } from '../../../contract/ledger.ts'

/** What names stand for in a ledger's words. */
export interface Naming {
  person: (code: string | null) => string
  group: (code: string | null) => string
  plan: (code: string) => string | null
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
      return `What ${naming.group(groupIn(line))} gets was changed`
    case 'sheet-changed':
      return recordWords(line.detail.recordHandedOut) ?? SHEET_WORDS[line.kind] ?? ''
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
  'sheet-changed': 'The sheet’s texts, numbers, rules or window changed',
  'sheet-published': 'The sheet was published',
  'section-added': 'The course got a further section',
  'section-removed': 'A section was taken off the course',
  'section-restored': 'A section was put back',
  'sheet-withdrawn': 'The sheet was taken back to a draft',
  'sheet-archived': 'The sheet was archived',
  'sheet-unarchived': 'The sheet was restored',
  'sheet-deleted': 'The sheet was deleted',
  'sheet-restored': 'The sheet was brought back',
  'topic-added': 'A topic was added',
  'topic-changed': 'A topic changed',
  'topic-removed': 'A topic was taken off the sheet',
  'topic-restored': 'A topic was put back',
  'topics-reordered': 'Topics were put in another order',
  'group-changed': 'What holds for single groups changed',
  'convener-named': 'Somebody was named to answer for a group',
  'tutors-assigned': 'Groups were put into somebody’s care',
  'seat-held': 'A seat was kept free',
  'task-changed': 'A task changed',
  'extras-changed': 'What groups get was changed',
  'seat-freed': 'A seat that was kept free was opened',
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
