import { expect, it } from 'vitest'
import { takingOut } from './convening.ts'

const facts = {
  rule: 'both',
  convener: true,
  self: false,
  bound: false,
  takenAt: '2026-05-06T08:00:00.000Z',
} as const

it('is at once for three days to the moment, then with consent', () => {
  expect(takingOut(facts, '2026-05-09T07:59:59.999Z')).toBe('now')
  expect(takingOut(facts, '2026-05-09T08:00:00.000Z')).toBe('ask')
})

it('is not at all by others, of oneself, from a group that has handed in, or without the rule', () => {
  const now = '2026-05-06T09:00:00.000Z'
  expect(takingOut({ ...facts, convener: false }, now)).toBe('no')
  expect(takingOut({ ...facts, self: true }, now)).toBe('no')
  expect(takingOut({ ...facts, bound: true }, now)).toBe('no')
  expect(takingOut({ ...facts, rule: 'seat' }, now)).toBe('no')
  expect(takingOut({ ...facts, rule: 'no' }, now)).toBe('no')
})
