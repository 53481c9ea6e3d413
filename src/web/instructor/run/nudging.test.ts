import { expect, it } from 'vitest'
import type { NudgePerson } from '../../../contract/nudges.ts'
import { asRead, FIRST_TEXT, peopleFor } from './nudging.ts'

const person = (code: string, more: Partial<NudgePerson> = {}): NudgePerson => ({
  code,
  name: `${code} Lindqvist`,
  firstName: code,
  section: 'tue',
  groups: [],
  ranked: null,
  firstOpened: null,
  lastOpened: null,
  lastNudged: null,
  today: 0,
  ...more,
})
const people = [
  person('Ada'),
  person('Bao', { firstOpened: '2026-05-06T07:00:00.000Z', section: 'wed' }),
  person('Cy', { groups: ['g1'] }),
]
const codes = (whom: Parameters<typeof peopleFor>[1], section: string | null, group: string | null) =>
  peopleFor(people, whom, section, new Set(group === null ? [] : [group])).map(({ code }) => code)

it('finds whom to write to', () => {
  expect(codes('no-group', null, null)).toEqual(['Ada', 'Bao'])
  expect(codes('no-group', 'wed', null)).toEqual(['Bao'])
  expect(codes('never-opened', null, null)).toEqual(['Ada'])
  expect(codes('opened', null, null)).toEqual(['Bao'])
  expect(codes('seated', null, null)).toEqual(['Cy'])
  expect(codes('groups', null, 'g1')).toEqual(['Cy'])
  expect(codes('everybody', null, null)).toHaveLength(3)
})

it('shows a text as one recipient reads it', () => {
  const fields = {
    sheet: 'Benches',
    course: 'FERM 210',
    closes: 'Fri 17:00',
    timeLeft: '2 h',
    link: '/s/k3x',
  }
  expect(asRead(FIRST_TEXT.text, { name: 'Ada Lindqvist', firstName: 'Ada' }, '', fields)).toBe(
    'Dear Ada,\n\nyou have no group yet on “Benches”. It closes Fri 17:00, in 2 h.\n\nTake a seat here: /s/k3x',
  )
})
