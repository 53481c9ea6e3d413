import { sayBytes } from '../../../core/files.ts'
import { NO_LIMIT } from '../../../core/limit.ts'
import { EXTRA_WORDS } from '../../group/extraWords.ts'
import { RULES } from './rules.ts'

/** How values are said that are not text: moments, in the course's zone. */
export interface Saying {
  at: (instant: string) => string
}

type Say = (value: unknown, saying: Saying) => string

const plain: Say = (value) => (value === null || value === '' ? 'none' : `“${String(value)}”`)
const number: Say = (value) => (value === null ? 'as is usual' : String(value))
const limit: Say = (value) => (value === NO_LIMIT ? 'no limit' : number(value, NO_SAYING))
const moment: Say = (value, { at }) => (typeof value === 'string' ? at(value) : 'none')
const yes: Say = (value) =>
  value === null ? 'as the sheet says' : value === 1 || value === true ? 'yes' : 'no'
const NO_SAYING: Saying = { at: String }

/** A field that is only said to be another: a long text, or one that stands elsewhere. */
type Field = { label: string; say: Say | null }

const FORS: Readonly<Record<string, string>> = {
  course: 'the whole course',
  sections: 'some sections',
  list: 'a list',
  groups: 'every group',
  'some-groups': 'certain groups',
  students: 'each student alone',
}
const chosen =
  (words: Readonly<Record<string, string>>): Say =>
  (value) =>
    words[String(value)] ?? String(value)

/** Fields of sheets, topics, groups and tasks by the names under which the ledger keeps them. */
const FIELDS: Readonly<Record<string, Field>> = {
  title: { label: 'the title', say: plain },
  instructions: { label: 'the instructions', say: null },
  brief: { label: 'the brief', say: null },
  contact: { label: 'the address for questions', say: plain },
  seats: { label: 'seats', say: limit },
  own_seats: { label: 'its own seats', say: limit },
  floor: { label: 'the floor', say: number },
  own_floor: { label: 'its own floor', say: number },
  place: { label: 'the place', say: plain },
  own_place: { label: 'its own place', say: plain },
  link: { label: 'the link', say: null },
  own_link: { label: 'its own link', say: null },
  starts_at: { label: 'the start', say: moment },
  own_starts_at: { label: 'its own start', say: moment },
  ends_at: { label: 'the end', say: moment },
  own_ends_at: { label: 'its own end', say: moment },
  opens_at: { label: 'the opening', say: moment },
  closes_at: { label: 'the close', say: moment },
  visible_before: { label: 'seen before it opens', say: yes },
  nudges_a_day: { label: 'nudges a day', say: number },
  mixed: { label: 'one group for all sections', say: yes },
  offered: { label: 'offered', say: yes },
  for_whom: { label: 'for whom it is', say: chosen(FORS) },
  list_id: { label: 'which list it is for', say: null },
  sections_for: { label: 'which sections it is for', say: plain },
  seats_each: { label: 'seats per student', say: number },
  wishes_least: { label: 'topics to rank at least', say: number },
  wishes_most: { label: 'topics to rank at most', say: number },
  cannot_most: { label: 'topics that can be left out', say: number },
  mates_most: { label: 'mates that can be named', say: number },
  hands_in: { label: 'something is handed in', say: yes },
  takes_text: { label: 'text is taken', say: yes },
  takes_links: { label: 'links are taken', say: yes },
  takes_files: { label: 'files are taken', say: yes },
  most_words: { label: 'the most words', say: (value) => (value === null ? 'no most' : String(value)) },
  available_from: { label: 'there from', say: moment },
  due_at: { label: 'the date', say: moment },
  dated_by: { label: 'whose date counts', say: chosen({ task: 'the task’s', group: 'each group’s own' }) },
  late_until: { label: 'late work is taken until', say: moment },
  without_group: {
    label: 'somebody without a group',
    say: chosen({ locked: 'sees it locked', hidden: 'does not see it', open: 'can hand in' }),
  },
  points: { label: 'the points', say: number },
  shares: {
    label: 'how the work was shared',
    say: chosen({
      no: 'is not asked',
      staff: 'is asked for staff',
      own: 'is asked, and each sees their own',
    }),
  },
  answers: { label: 'remarks are answered', say: yes },
  criteria: { label: 'the criteria', say: null },
  out_at: { label: 'students see it', say: (value) => (value === null ? 'no' : 'yes') },
  starts: {
    label: 'who begins subjects',
    say: chosen({ everybody: 'everybody', threads: 'staff, and members threads', staff: 'staff' }),
  },
  meetingBy: {
    label: 'who sets the meeting link',
    say: chosen({ staff: 'staff', convener: 'the convener' }),
  },
  fileBytes: { label: 'the size of a file', say: (value) => sayBytes(Number(value)) },
  groupBytes: { label: 'the size of all files', say: (value) => sayBytes(Number(value)) },
  ...Object.fromEntries(
    Object.entries(EXTRA_WORDS).map(([extra, words]) => [extra, { label: words.toLowerCase(), say: yes }]),
  ),
}

/** `late` means two things: newcomers to a sheet, and late work of a task. */
const LATE_WORK = chosen({ no: 'is not taken', until: 'is taken until a time', always: 'is always taken' })

/** How house rules are kept: names of columns. */
const columnOf = (rule: string) => rule.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)
const RULE_FIELDS = new Map(
  RULES.map(({ rule, label, choices }) => [
    columnOf(rule),
    { label, words: new Map<unknown, string>(choices.map(({ value, label }) => [value, label])) },
  ]),
)

const isPair = (value: unknown): value is [unknown, unknown] => Array.isArray(value) && value.length === 2

/**
 * What changed of something, field by field: which, from what to what.
 * @param detail what the ledger keeps: fields with what they were and became
 * @param of whether it is about a task, whose fields are called like others of a sheet
 */
export function changedFields(
  detail: Readonly<Record<string, unknown>>,
  saying: Saying,
  of: 'task' | 'other' = 'other',
): string[] {
  return Object.entries(detail).flatMap(([name, change]) => {
    const rule = of === 'other' ? RULE_FIELDS.get(name) : undefined
    if (rule) {
      if (!isPair(change)) return []
      const [from, to] = change.map((value) => `“${rule.words.get(value) ?? String(value)}”`)
      return [`${rule.label}: from ${from} to ${to}`]
    }
    const field = of === 'task' && name === 'late' ? { label: 'late work', say: LATE_WORK } : FIELDS[name]
    if (!field) return []
    // Before pairs were kept, only what it became.
    if (!isPair(change)) return field.say ? [`${field.label}: ${field.say(change, saying)}`] : []
    if (!field.say) return [`${field.label} changed`]
    return [`${field.label} from ${field.say(change[0], saying)} to ${field.say(change[1], saying)}`]
  })
}
