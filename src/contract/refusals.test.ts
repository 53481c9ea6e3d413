import { describe, expect, it } from 'vitest'
import type { ClaimRefusal } from '../core/claim.ts'
import { CAREFUL } from '../core/rules.ts'
import { PROBLEMS } from './problems.ts'
import { refusalWords } from './refusals.ts'
import { fill } from './route.ts'
import type { StudentGroup, StudentSheet } from './seats.ts'

const REASONS: ClaimRefusal[] = [
  'sheet-not-published',
  'window-not-open-yet',
  'window-closed',
  'sheet-archived',
  'not-a-student',
  'enrolment-not-active',
  'group-not-found',
  'other-section',
  'already-seated-here',
  'seat-limit-reached',
  'change-only-by-asking',
  'change-not-allowed',
  'time-clash',
  'group-not-offered',
  'seat-not-held',
  'group-full',
  'line-goes-first',
  'no-waiting-line',
  'seat-is-free',
  'already-in-line',
  'not-in-line',
]
const group = (taken: number) => ({ seats: 3, taken, held: 0 }) as StudentGroup
const sheet = (over: Partial<StudentSheet> = {}) =>
  ({
    opensAt: '2026-05-06T07:00:00.000Z',
    closesAt: '2026-05-13T15:00:00.000Z',
    course: { zone: 'Europe/Copenhagen' },
    contact: 'ida@school.example',
    section: 'Tue lab',
    rules: CAREFUL,
    groups: [group(3), group(1)],
    seats: [],
    ...over,
  }) as StudentSheet

describe('a refusal', () => {
  it.each(REASONS)(
    '%s is a problem of the catalogue, with words of its own that end as sentences do',
    (reason) => {
      expect(PROBLEMS[reason].status).toBeGreaterThanOrEqual(400)
      expect(refusalWords(reason, sheet())).toMatch(/^[A-Z“].*[.]$/)
    },
  )

  it('says what can be done: when, whom to ask, where there is room', () => {
    expect(refusalWords('window-not-open-yet', sheet())).toContain('Wed 6 May, 09:00')
    expect(refusalWords('window-closed', sheet())).toMatch(/Wed 13 May, 17:00.*ida@school\.example/)
    expect(refusalWords('group-full', sheet())).toContain('1 topic still has room')
    expect(refusalWords('group-full', sheet({ groups: [group(3)] }))).toContain('No topic has room now')
  })

  it('says that a seat held before is as it was', () => {
    const seats = [{ group: 'g', at: '', link: '', convener: false }]
    expect(refusalWords('group-full', sheet({ seats }))).toContain('Your seat is as it was.')
    expect(refusalWords('group-full', sheet())).not.toContain('as it was')
  })
})

it('a path is filled with its parts, made safe for an address', () => {
  expect(fill('/api/sheets/:sheet/topics/:topic', { sheet: 'a/b', topic: 'ü' })).toBe(
    '/api/sheets/a%2Fb/topics/%C3%BC',
  )
})
