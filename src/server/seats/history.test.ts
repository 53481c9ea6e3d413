import fc from 'fast-check'
import { pino } from 'pino'
import { describe, expect, it } from 'vitest'
import type { ClaimAsk } from '../../core/claim.ts'
import { CHOICES } from '../../core/rules.ts'
import { openDb } from '../db/open.ts'
import { seatsAsKept, seatsByLedger } from '../ledger/replay.ts'
import { createHub } from '../live/hub.ts'
import { createOutboxMailer } from '../mail/mailer.ts'
import { createStores } from '../stores.ts'
import { createUnitOfWork } from '../unitOfWork.ts'
import { createClaims } from './claims.ts'

const NOW = '2026-05-06T08:00:00.000Z'
const STUDENTS = 8
/** Two topics in two sections: four groups of two seats. */
const GROUPS = 4
/** The last student is paused. */
const PAUSED = STUDENTS - 1

interface Rules {
  seatsEach: number
  changing: (typeof CHOICES.changing)[number]
  offers: (typeof CHOICES.offers)[number]
  fullGroups: (typeof CHOICES.fullGroups)[number]
  otherLines: (typeof CHOICES.otherLines)[number]
  /** A group in which a seat is kept for a student, or nobody's. */
  kept: { group: number; who: number } | null
}

type Step = ClaimAsk<number> & { who: number }

const sectionOfStudent = (who: number) => who % 2
const sectionOfGroup = (group: number) => group % 2

/** What the house rules say, in the plainest words: lists, walked from front to back. */
class Naive {
  /** Seats in the order they were taken. */
  seats: { who: number; group: number }[] = []
  /** Everybody who waits, in the order they joined. */
  waiting: { who: number; group: number }[] = []
  kept: Rules['kept']
  constructor(readonly rules: Rules) {
    this.kept = rules.kept
  }
  heldBy(who: number) {
    return this.seats.filter((seat) => seat.who === who).map(({ group }) => group)
  }
  free(group: number, who: number) {
    const keptForOthers = this.kept && this.kept.group === group && this.kept.who !== who ? 1 : 0
    return 2 - this.seats.filter((seat) => seat.group === group).length - keptForOthers
  }
  waits(who: number, group: number) {
    return this.waiting.some((place) => place.who === who && place.group === group)
  }
  mayLeave(who: number, group: number) {
    return this.heldBy(who).includes(group) && this.rules.changing === 'until-close'
  }
  /** Whether the student could be there at all, with `left` given up for it. */
  fits(who: number, to: number, left: number | null) {
    if (this.heldBy(who).includes(to)) return false
    if (this.rules.offers === 'section' && sectionOfGroup(to) !== sectionOfStudent(who)) return false
    return left !== null || this.heldBy(who).length < this.rules.seatsEach
  }
  sit(who: number, to: number, left: number | null) {
    this.seats = this.seats.filter((seat) => !(seat.who === who && seat.group === left))
    this.seats.push({ who, group: to })
    if (this.kept && this.kept.group === to && this.kept.who === who) this.kept = null
    this.waiting = this.waiting.filter((place) => !(place.who === who && place.group === to))
  }
  ask(step: Step): boolean {
    const granted = step.who !== PAUSED && this.decide(step)
    if (granted) this.serve()
    return granted
  }
  decide(step: Step): boolean {
    const { who } = step
    const others = (group: number) =>
      this.rules.fullGroups === 'line' &&
      this.waiting.some((place) => place.group === group && place.who !== who)
    switch (step.kind) {
      case 'take':
        if (!this.fits(who, step.to, null) || this.free(step.to, who) <= 0 || others(step.to)) return false
        this.sit(who, step.to, null)
        return true
      case 'move':
        if (!this.mayLeave(who, step.from) || !this.fits(who, step.to, step.from)) return false
        if (this.free(step.to, who) <= 0 || others(step.to)) return false
        this.sit(who, step.to, step.from)
        return true
      case 'give-up':
        if (!this.mayLeave(who, step.from)) return false
        this.seats = this.seats.filter((seat) => !(seat.who === who && seat.group === step.from))
        return true
      case 'leave-line':
        if (!this.waits(who, step.from)) return false
        this.waiting = this.waiting.filter((place) => !(place.who === who && place.group === step.from))
        return true
      case 'wait': {
        const held = this.heldBy(who)
        const all = held.length >= this.rules.seatsEach
        if (this.rules.fullGroups === 'full' || (all && held.length > 1)) return false
        if (all && !this.mayLeave(who, held[0]!)) return false
        if (!this.fits(who, step.to, all ? held[0]! : null) || this.waits(who, step.to)) return false
        if (this.free(step.to, who) > 0 && !others(step.to)) return false
        this.waiting.push({ who, group: step.to })
        return true
      }
    }
  }
  /** Seats the first who can sit, again and again, until nobody can. */
  serve() {
    for (;;) {
      const next = this.waiting.find(({ who, group }) => {
        const held = this.heldBy(who)
        const left = held.length >= this.rules.seatsEach ? held[0]! : null
        const mayMove = left === null || this.rules.changing === 'until-close'
        return this.free(group, who) > 0 && mayMove && this.fits(who, group, left)
      })
      if (!next) return
      const held = this.heldBy(next.who)
      this.sit(next.who, next.group, held.length >= this.rules.seatsEach ? held[0]! : null)
      if (this.rules.otherLines === 'leave') {
        this.waiting = this.waiting.filter(({ who }) => who !== next.who)
      }
    }
  }
}

/** The real engine over a database of its own, under the same rules. */
function real(rules: Rules) {
  const db = openDb(':memory:')
  const stores = createStores(db)
  const course = stores.courses.add({ courseCode: 'FERM 1', title: 'Fermentation', zone: 'UTC' }, NOW)
  for (const n of [0, 1]) stores.roster.addSection(course.id, `Lab ${n}`, n)
  const sections = stores.roster.sections(course.id)
  const ids = Array.from({ length: STUDENTS }, (_, who) => {
    const person = stores.roster.ensurePerson(`s${who}@school.example`, NOW)
    const section_id = sections[sectionOfStudent(who)]!.id
    const status = who === PAUSED ? 'paused' : 'active'
    stores.roster.enrol(course.id, person.id, { name: `S${who}`, role: 'student', section_id, status }, NOW)
    return stores.roster.enrolmentIn(course.id, person.id)!.id
  })
  const sheet = stores.sheets.add(course.id, { title: 'Benches', contact: '', seats: 2, floor: 1 }, NOW)
  const { seatsEach, changing, offers, fullGroups, otherLines, kept } = rules
  stores.sheets.change(sheet.id, {
    ...sheet,
    seats_each: seatsEach,
    changing,
    offers,
    full_groups: fullGroups,
    other_lines: otherLines,
    opens_at: NOW,
    closes_at: '2026-05-13T08:00:00.000Z',
  })
  stores.sheets.publish(sheet.id, NOW)
  const topic = {
    brief: '',
    place: '',
    link: '',
    starts_at: null,
    ends_at: null,
    seats: null,
    floor: null,
    mixed: null,
  }
  for (const title of ['Tempeh', 'Kefir'])
    stores.sheets.addTopic(
      sheet.id,
      { ...topic, title },
      sections.map(({ id }) => id),
      NOW,
    )
  const groups = stores.sheets.groups(sheet.id)
  if (kept) stores.sheets.holdSeat(groups[kept.group]!.id, ids[kept.who]!, '', NOW)
  const claims = createClaims({
    db,
    clock: () => NOW,
    log: pino({ level: 'silent' }),
    ...stores,
    unit: createUnitOfWork({
      db,
      stores,
      mailer: createOutboxMailer(stores.mail, () => NOW),
      hub: createHub(stores),
      calm: () => {},
    }),
  })
  let keys = 0
  const code = (group: number) => groups[group]!.code
  const inCodes = (step: Step): ClaimAsk<string> => {
    switch (step.kind) {
      case 'take':
      case 'wait':
        return { kind: step.kind, to: code(step.to) }
      case 'move':
        return { kind: 'move', from: code(step.from), to: code(step.to) }
      default:
        return { kind: step.kind, from: code(step.from) }
    }
  }
  const numberOf = (groupId: number) => groups.findIndex(({ id }) => id === groupId)
  return {
    ask: async (step: Step) => {
      const claim = { sheetId: sheet.id, enrolmentId: ids[step.who]!, actorId: 1, key: `history-${++keys}` }
      return claims.submit({ ...claim, ask: inCodes(step) })
    },
    seats: () =>
      stores.seats
        .ofSheet(sheet.id)
        .map(({ enrolment_id, group_id }) => ({ who: ids.indexOf(enrolment_id), group: numberOf(group_id) })),
    waiting: () =>
      stores.seats
        .lines(sheet.id)
        .map(({ enrolment_id, group_id }) => ({ who: ids.indexOf(enrolment_id), group: numberOf(group_id) })),
    agrees: () =>
      expect(seatsByLedger(stores.ledger.since(sheet.id, 0))).toEqual(
        seatsAsKept(stores.seats.ofSheet(sheet.id)),
      ),
    end: () => db.close(),
  }
}

const who = fc.nat(STUDENTS - 1)
const group = fc.nat(GROUPS - 1)
const steps = fc.array(
  fc.oneof(
    { weight: 5, arbitrary: fc.record({ kind: fc.constant('take' as const), who, to: group }) },
    { weight: 3, arbitrary: fc.record({ kind: fc.constant('move' as const), who, from: group, to: group }) },
    { weight: 2, arbitrary: fc.record({ kind: fc.constant('give-up' as const), who, from: group }) },
    { weight: 4, arbitrary: fc.record({ kind: fc.constant('wait' as const), who, to: group }) },
    { weight: 1, arbitrary: fc.record({ kind: fc.constant('leave-line' as const), who, from: group }) },
  ),
  { minLength: 20, maxLength: 60 },
)
const rules: fc.Arbitrary<Rules> = fc.record({
  seatsEach: fc.integer({ min: 1, max: 2 }),
  changing: fc.constantFrom(...CHOICES.changing),
  offers: fc.constantFrom(...CHOICES.offers),
  fullGroups: fc.constantFrom(...CHOICES.fullGroups),
  otherLines: fc.constantFrom(...CHOICES.otherLines),
  kept: fc.option(fc.record({ group, who })),
})

describe('any history under any house rules', () => {
  it('agrees with the naive model: every answer, every seat, the order of every line', async () => {
    await fc.assert(
      fc.asyncProperty(rules, steps, async (chosen, history) => {
        const [model, engine] = [new Naive(chosen), real(chosen)]
        try {
          for (const step of history) {
            const outcome = await engine.ask(step)
            expect(outcome.granted, JSON.stringify({ step, outcome })).toBe(model.ask(step))
          }
          expect(engine.seats()).toEqual(model.seats)
          expect(engine.waiting()).toEqual(model.waiting)
          engine.agrees()
        } finally {
          engine.end()
        }
      }),
      { numRuns: 60 },
    )
  })
})
