import { expect, it } from 'vitest'
import { fillFields, mayNudge, NUDGE_FIELDS, unknownFields } from './nudge.ts'

const values = {
  name: 'Ada Lindqvist',
  'first name': 'Ada',
  sheet: 'Culture benches',
  course: 'FERM 210',
  closes: 'Fri 27 Nov, 17:00',
  'time left': '2 days',
  link: 'https://haplon.example/s/k3x',
  group: 'Tempeh',
}

it('fills every field, however it is spaced and cased', () => {
  expect(fillFields('Dear {name}, { First Name }: {time left} for {SHEET}.', values)).toBe(
    'Dear Ada Lindqvist, Ada: 2 days for Culture benches.',
  )
  for (const field of NUDGE_FIELDS) expect(fillFields(`{${field}}`, values)).toBe(values[field])
})

it('leaves what it does not know, and names it', () => {
  const text = 'Dear {surname}, {} and {name} {'
  expect(fillFields(text, values)).toBe('Dear {surname}, {} and Ada Lindqvist {')
  expect(unknownFields(text)).toEqual(['{surname}', '{}'])
  expect(unknownFields('{time left}')).toEqual([])
})

it('does not fill fields that a name brings in', () => {
  expect(fillFields('{name}', { ...values, name: '{link}' })).toBe('{link}')
})

it('leaves out who got the set number within a day', () => {
  expect(
    mayNudge(
      ['a', 'b', 'c'],
      new Map([
        ['a', 2],
        ['b', 1],
      ]),
      2,
    ),
  ).toEqual(['b', 'c'])
})
