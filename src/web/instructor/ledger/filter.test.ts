import { expect, it } from 'vitest'
import type { LedgerLine } from '../../../contract/ledger.ts'
import { causeOf, entryWords, type Naming } from '../record/words.ts'
import { EVERYTHING, soughtIn } from './filter.ts'

const naming: Naming = {
  person: (code) => ({ p1: 'Ada Lindqvist', p2: 'Bao Trinh' })[code ?? ''] ?? 'Somebody',
  group: (code) => ({ g1: 'Tempeh, Tue lab', g2: 'Kefir, Tue lab' })[code ?? ''] ?? 'a group',
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
    'The sheet’s texts, numbers, rules or window changed',
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
  expect(said('never-heard-of', {})).toBe('Something on the sheet changed')
})
