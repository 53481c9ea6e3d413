import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { StudentGroup, StudentSheet } from '../../contract/seats.ts'
import { decideClaim } from '../../core/claim.ts'
import { CAREFUL, CHOICES } from '../../core/rules.ts'
import { factsFor, offerOf } from './choices.ts'

const group = (code: string, over: Partial<StudentGroup> = {}): StudentGroup => ({
  code,
  called: '',
  title: code,
  brief: '',
  section: null,
  place: '',
  startsAt: null,
  endsAt: null,
  seats: 3,
  taken: 1,
  held: 0,
  heldForYou: false,
  waiting: 0,
  yourPlace: null,
  names: null,
  convener: null,
  ...over,
})
const seat = (code: string) => ({
  group: code,
  at: '',
  link: '',
  convener: false,
  mates: null,
  toOffer: 0,
  bound: false,
  unread: 0,
})
const sheet = (over: Partial<StudentSheet> = {}): StudentSheet => ({
  wishes: null,
  swaps: null,
  tasks: { there: 0, open: 0, locked: 0 },
  code: 'sheet',
  link: '/s/x',
  title: 'Benches',
  state: 'open',
  opensAt: null,
  closesAt: null,
  publishedAt: '',
  course: { code: 'c', courseCode: 'FERM', title: 'Fermentation', zone: 'UTC' },
  rules: CAREFUL,
  rev: 1,
  now: '',
  instructions: '',
  contact: '',
  section: null,
  groups: [],
  seats: [],
  request: null,
  received: [],
  sent: [],
  ...over,
})
const offer = (view: StudentSheet, code: string) =>
  offerOf(view, 'open', view.groups.find((one) => one.code === code)!)

describe('what a group offers', () => {
  const groups = [group('tempeh'), group('kefir'), group('full', { taken: 3 })]

  it('is a seat, or a move once one is held', () => {
    expect(offer(sheet({ groups }), 'tempeh')).toEqual({ kind: 'take' })
    expect(offer(sheet({ groups, seats: [seat('kefir')] }), 'tempeh')).toEqual({
      kind: 'move',
      from: ['kefir'],
    })
    expect(offer(sheet({ groups, seats: [seat('kefir')] }), 'kefir')).toEqual({ kind: 'none', because: null })
  })

  it('is nothing where it is full, closed or seats do not change, with the reason', () => {
    expect(offer(sheet({ groups }), 'full')).toEqual({ kind: 'none', because: 'group-full' })
    expect(offerOf(sheet({ groups }), 'closed', groups[0]!)).toEqual({
      kind: 'none',
      because: 'window-closed',
    })
    const never = { ...CAREFUL, changing: 'never' as const }
    expect(offer(sheet({ groups, rules: never, seats: [seat('kefir')] }), 'tempeh')).toEqual({
      kind: 'none',
      because: 'change-not-allowed',
    })
  })

  it('is a request where seats change only by asking, as long as none waits', () => {
    const rules = { ...CAREFUL, changing: 'by-asking' as const }
    const view = sheet({ groups, rules, seats: [seat('kefir')] })
    expect(offer(view, 'tempeh')).toEqual({ kind: 'ask', from: ['kefir'] })
    expect(offer(view, 'full').kind).toBe('none')
    const request = {
      code: 'r',
      from: 'kefir',
      to: 'tempeh',
      reason: '',
      state: 'open' as const,
      madeAt: '',
      answeredAt: null,
    }
    expect(offer({ ...view, request }, 'tempeh').kind).toBe('none')
  })

  it('is a place in line where lines are kept, and the way out of it', () => {
    const rules = { ...CAREFUL, fullGroups: 'line' as const }
    expect(offer(sheet({ groups, rules }), 'full')).toEqual({ kind: 'wait' })
    const waiting = [group('full', { taken: 3, waiting: 4, yourPlace: 2 })]
    expect(offer(sheet({ groups: waiting, rules }), 'full')).toEqual({ kind: 'in-line', place: 2 })
    expect(offer(sheet({ groups: [group('freed', { waiting: 1 })], rules }), 'freed')).toEqual({
      kind: 'wait',
    })
  })

  it('with several seats says which of them could be left', () => {
    const rules = { ...CAREFUL, seatsEach: 2 }
    const ten = { startsAt: '2026-05-06T10:00:00.000Z', endsAt: '2026-05-06T11:00:00.000Z' }
    const dated = [group('a', ten), group('b'), group('c', ten), group('d')]
    const view = sheet({ groups: dated, rules, seats: [seat('a'), seat('b')] })
    expect(offer(view, 'd')).toEqual({ kind: 'move', from: ['a', 'b'] })
    expect(offer(view, 'c')).toEqual({ kind: 'move', from: ['a'] })
  })

  it('is never what the decision would refuse', () => {
    const any = fc.record({
      seatsEach: fc.integer({ min: 1, max: 2 }),
      changing: fc.constantFrom(...CHOICES.changing),
      fullGroups: fc.constantFrom(...CHOICES.fullGroups),
      state: fc.constantFrom('scheduled' as const, 'open' as const, 'closed' as const),
      own: fc.subarray(['a', 'b']),
      groups: fc.tuple(
        ...['a', 'b', 'c'].map((code) =>
          fc
            .record({ taken: fc.integer({ min: 1, max: 3 }), waiting: fc.nat(2) })
            .map((over) => group(code, over)),
        ),
      ),
    })
    fc.assert(
      fc.property(any, ({ state, own, groups, ...rules }) => {
        const view = sheet({ groups, rules: { ...CAREFUL, ...rules }, seats: own.map(seat) })
        for (const to of groups) {
          const found = offerOf(view, state, to)
          const facts = factsFor(view, state, to)
          if (found.kind === 'take' || found.kind === 'wait') {
            expect(decideClaim({ kind: found.kind, to: to.code }, facts).granted).toBe(true)
          }
          if (found.kind === 'move') {
            for (const from of found.from)
              expect(decideClaim({ kind: 'move', from, to: to.code }, facts).granted).toBe(true)
          }
          if (found.kind === 'none' && found.because === null) expect(own).toContain(to.code)
        }
      }),
    )
  })
})
