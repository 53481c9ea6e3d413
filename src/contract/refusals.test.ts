import { describe, expect, it } from 'vitest'
import type { ClaimRefusal } from '../core/claim.ts'
import { CAREFUL } from '../core/rules.ts'
import { PROBLEMS } from './problems.ts'
import { type RefusalFacts, refusalFactsOf, refusalWords } from './refusals.ts'
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
const facts = (over: Partial<RefusalFacts> = {}): RefusalFacts => ({
  opensAt: '2026-05-06T07:00:00.000Z',
  closesAt: '2026-05-13T15:00:00.000Z',
  zone: 'Europe/Copenhagen',
  contact: 'ida@school.example',
  section: 'Tue lab',
  rules: CAREFUL,
  held: 0,
  withRoom: 1,
  ...over,
})

describe('a refusal', () => {
  it.each(REASONS)(
    '%s is a problem of the catalogue, with words of its own that end as sentences do',
    (reason) => {
      expect(PROBLEMS[reason].status).toBeGreaterThanOrEqual(400)
      expect(refusalWords(reason, facts())).toMatch(/^[A-Z“].*[.]$/)
    },
  )

  it('says what can be done: when, whom to ask, where there is room', () => {
    expect(refusalWords('window-not-open-yet', facts())).toContain('Wed 6 May, 09:00')
    expect(refusalWords('window-closed', facts())).toMatch(/Wed 13 May, 17:00.*ida@school\.example/)
    expect(refusalWords('group-full', facts())).toContain('1 topic still has room')
    expect(refusalWords('group-full', facts({ withRoom: 0 }))).toContain('No topic has room now')
  })

  it('says that a seat held before is as it was', () => {
    expect(refusalWords('group-full', facts({ held: 1 }))).toContain('Your seat is as it was.')
    expect(refusalWords('group-full', facts())).not.toContain('as it was')
  })
})

it('the facts of a refusal are read from the sheet as its student sees it', () => {
  const group = (taken: number) => ({ seats: 3, taken, held: 0 }) as StudentGroup
  const { zone, withRoom, held, ...rest } = facts({ held: 1 })
  const view = { ...rest, course: { zone }, groups: [group(3), group(1)], seats: [{}] } as StudentSheet
  expect(refusalFactsOf(view)).toEqual({ ...rest, zone, withRoom, held })
})

it('a path is filled with its parts, made safe for an address', () => {
  expect(fill('/api/sheets/:sheet/topics/:topic', { sheet: 'a/b', topic: 'ü' })).toBe(
    '/api/sheets/a%2Fb/topics/%C3%BC',
  )
})
