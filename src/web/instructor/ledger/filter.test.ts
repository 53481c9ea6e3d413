import { expect, it } from 'vitest'
import type { LedgerLine } from '../../../contract/ledger.ts'
import { causeOf, entryWords, type Naming } from '../record/words.ts'
import { EVERYTHING, soughtIn } from './filter.ts'

const naming: Naming = {
  person: (code) => ({ p1: 'Ada Lindqvist', p2: 'Bao Trinh' })[code ?? ''] ?? 'Somebody',
  group: (code) => ({ g1: 'Tempeh, Tue lab', g2: 'Kefir, Tue lab' })[code ?? ''] ?? 'a group',
  topic: (code) => ({ t1: 'Tempeh' })[code] ?? '',
  at: (instant) => `at ${instant}`,
  plan: (code) => (code === 'k' ? 'Evenly' : null),
}
const line = (position: number, more: Partial<LedgerLine>): LedgerLine => ({
  position,
  at: '2026-05-06T22:30:00.000Z',
  actor: 'Ada Lindqvist',
  kind: 'seat-taken',
  person: 'p1',
  from: null,
  to: 'g1',
  detail: {},
  canUndo: false,
  ...more,
})
const entries = [
  line(1, {}),
  line(2, {
    kind: 'seat-moved',
    from: 'g1',
    to: 'g2',
    actor: 'Renske Okonjo',
    detail: { because: 'by-hand' },
  }),
  line(3, {
    kind: 'sheet-changed',
    person: null,
    to: null,
    at: '2026-05-08T08:00:00.000Z',
    actor: 'Renske Okonjo',
    detail: { names: ['mates', 'everyone'], seats: [3, 0] },
  }),
  line(4, { person: 'p2', actor: null, detail: { plan: 'k', reason: { code: 'floor' } } }),
]
const found = (more: Partial<typeof EVERYTHING>) =>
  soughtIn(entries, { ...EVERYTHING, ...more }, naming, 'Europe/Copenhagen').map(({ position }) => position)

it('finds entries by person, group, kind and day of the course’s zone, newest first', () => {
  expect(found({})).toEqual([4, 3, 2, 1])
  expect(found({ typed: 'lindqv' })).toEqual([2, 1])
  expect(found({ typed: 'okonjo' })).toEqual([3, 2])
  expect(found({ group: 'g2' })).toEqual([2])
  expect(found({ kind: 'sheet' })).toEqual([3])
  expect(found({ day: '2026-05-07' })).toEqual([4, 2, 1])
})

it('says what happened and how it came about', () => {
  expect(entries.map((entry) => entryWords(entry, naming))).toEqual([
    'Ada Lindqvist sat down at Tempeh, Tue lab',
    'Ada Lindqvist moved from Tempeh, Tue lab to Kefir, Tue lab',
    'The sheet: Names are shown to: from “group mates only” to “everyone”; seats from 3 to no limit',
    'Bao Trinh sat down at Tempeh, Tue lab',
  ])
  expect(entries.map((entry) => causeOf(entry, naming))).toEqual([
    '',
    'by hand',
    '',
    'by the plan “Evenly”: brings the group to its floor',
  ])
})

it('says what became of tasks, marks and group pages', () => {
  const said = (kind: string, detail: Record<string, unknown>) =>
    entryWords(line(9, { kind, detail, to: null }), naming)
  expect(said('work-handed-in', { title: 'Report', group: 'g1' })).toBe(
    '“Report” was handed in for Ada Lindqvist',
  )
  expect(said('marks-released', { title: 'Report' })).toBe('Marks for “Report” were released')
  expect(said('place-changed', { group: 'g1', what: 'meeting name' })).toBe(
    'Tempeh, Tue lab got another meeting link and name',
  )
  expect(said('mark-given', { title: 'Report', group: 'g1', marked: [null, 8] })).toBe(
    'Tempeh, Tue lab for “Report”: 8 points',
  )
  expect(said('mark-given', { title: 'Report', group: 'g1', student: 'p2', marked: [8, 1] })).toBe(
    'Bao Trinh, apart from Tempeh, Tue lab for “Report”: from 8 points to 1 point',
  )
  expect(said('mark-given', { title: 'Report', student: 'p2' })).toBe(
    'Bao Trinh for “Report”: the mark was set or changed',
  )
  expect(said('task-changed', { task: 't', named: 'Report', late: ['no', 'always'], points: [10, 12] })).toBe(
    '“Report”: late work from is not taken to is always taken; the points from 10 to 12',
  )
  expect(said('never-heard-of', {})).toBe('Something on the sheet changed')
})

it('says which rule, topic, number or person, and from what to what', () => {
  const said = (kind: string, detail: Record<string, unknown>) =>
    entryWords(line(9, { kind, detail, to: null, person: null }), naming)
  expect(said('sheet-changed', { closes_at: [null, '2026-05-06'], late: ['leave', 'seat'] })).toBe(
    'The sheet: the close from none to at 2026-05-06; Late enrolments: from “are left to the instructor” to “are seated by plan”',
  )
  expect(said('sheet-changed', { instructions: ['a', 'b'] })).toBe('The sheet: the instructions changed')
  expect(said('sheet-changed', {})).toBe('The sheet was saved as it was')
  expect(said('topic-added', { topic: 'gone', title: 'Kefir' })).toBe('“Kefir” was added as a topic')
  expect(said('topic-changed', { topic: 't1', title: ['Tempe', 'Tempeh'], place: ['', 'Bench 2'] })).toBe(
    '“Tempeh”: the title from “Tempe” to “Tempeh”; the place from none to “Bench 2”',
  )
  expect(said('group-changed', { group: 'g1', offered: [1, 0], own_seats: [null, 4] })).toBe(
    'Tempeh, Tue lab: offered from yes to no; its own seats from as is usual to 4',
  )
  expect(
    said('group-changed', {
      limits: [
        ['g1', 3, 5],
        ['g2', 3, null],
      ],
    }),
  ).toBe(
    'Limits: Tempeh, Tue lab (its own seats from 3 to 5); Kefir, Tue lab (its own seats from 3 to as is usual)',
  )
  expect(said('tutors-assigned', { changes: [{ group: 'g1', add: ['p1'], remove: ['p2'] }] })).toBe(
    'Ada Lindqvist looks after Tempeh, Tue lab; Bao Trinh does not look after Tempeh, Tue lab any more',
  )
  expect(said('tutors-assigned', { groups: ['g1'], tutors: [] })).toBe(
    'Tempeh, Tue lab: looked after by nobody',
  )
  expect(said('convener-named', { group: 'g1', person: 'p1' })).toBe(
    'Ada Lindqvist was named to answer for Tempeh, Tue lab',
  )
  expect(said('seat-held', { group: 'g1', person: null, note: 'for late comers' })).toBe(
    'A seat at Tempeh, Tue lab is kept for “for late comers”',
  )
  expect(said('section-added', { section: 'Fri lab' })).toBe('The section Fri lab was added to the course')
  expect(said('extras-changed', { talk: [false, true] })).toBe('What groups get: talk from no to yes')
  expect(said('extras-changed', { talk: true })).toBe('What groups get: talk: yes')
  expect(said('task-changed', { named: 'Report', files: { from: null, to: 'plan.pdf' } })).toBe(
    '“Report”: the file “plan.pdf” was added',
  )
})
