import { describe, expect, it } from 'vitest'
import type { SeatingChange } from '../../src/core/seating.ts'
import { bringBack } from '../../src/server/seats/bringBack.ts'
import { seatingFacts, seatPeople } from '../../src/server/seats/byHand.ts'
import { maySeat } from '../../src/server/seats/maySeat.ts'
import { stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.enrol(['Ada', 'Bo', 'Cleo', 'Dai'])
  s.enrol(['Tutor'], { role: 'tutor' })
  for (const title of ['Tempeh', 'Miso']) s.addTopic(title)
})
const change = (name: string, from: string | null, to: string | null): SeatingChange => ({
  person: stage().person(name).code,
  from: from === null ? null : stage().group(from).code,
  to: to === null ? null : stage().group(to).code,
})
const seat = (changes: SeatingChange[], knows = false) => {
  const { sheet, now, stores } = stage()
  const detailOf = (person: string) => ({
    because: 'by-hand',
    of: person === changes[0]?.person ? 'one' : 'other',
  })
  return seatPeople({ sheet: sheet(), changes, actorId: 1, now: now(), stores, detailOf }, () => knows)
}
const refusal = (work: () => unknown) => {
  try {
    work()
  } catch (error) {
    const { code, detail, more } = error as { code: string; detail: string; more: { concerns?: unknown[] } }
    return { code, detail, concerns: more.concerns ?? [] }
  }
  throw new Error('nothing was refused')
}

describe('seats changed by hand', () => {
  it('are taken, moved and taken away together, with an entry each, and the position afterwards', () => {
    const s = stage()
    s.seat('Tempeh', 'Ada', 'Bo')
    const before = s.position()
    const told = seat([
      change('Ada', 'Tempeh', 'Miso'),
      change('Bo', 'Tempeh', null),
      change('Cleo', null, 'Miso'),
    ])
    expect([s.seated('Tempeh'), s.seated('Miso')]).toEqual([[], ['Ada', 'Cleo']])
    expect(s.entries(before).toSorted()).toEqual([
      'seat-moved Ada Tempeh Miso because=by-hand of=one',
      'seat-removed Bo Tempeh because=by-hand of=other',
      'seat-taken Cleo Miso because=by-hand of=other',
    ])
    expect(told).toBe(s.position())
  })

  it('can be swapped between full groups', () => {
    const s = stage()
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo', 'Dai')
    seat([change('Ada', 'Tempeh', 'Miso'), change('Cleo', 'Miso', 'Tempeh')])
    expect([s.seated('Tempeh'), s.seated('Miso')]).toEqual([
      ['Bo', 'Cleo'],
      ['Dai', 'Ada'],
    ])
  })

  it('past the limit are asked about first, then are extra seats until somebody leaves', () => {
    const s = stage()
    s.seat('Tempeh', 'Ada', 'Bo')
    const refused = refusal(() => seat([change('Cleo', null, 'Tempeh')]))
    expect(refused).toMatchObject({ code: 'seating-needs-care', concerns: [{ name: 'Cleo' }] })
    expect(refused.detail).toContain('Tempeh')
    expect(s.seated('Tempeh')).toEqual(['Ada', 'Bo'])
    const before = s.position()
    seat([change('Cleo', null, 'Tempeh')], true)
    expect(s.seated('Tempeh')).toEqual(['Ada', 'Bo', 'Cleo+'])
    expect(s.entries(before)).toEqual(['seat-taken Cleo Tempeh because=by-hand of=one extra=true'])
    seat([change('Ada', 'Tempeh', null)])
    expect(s.seated('Tempeh')).toEqual(['Bo', 'Cleo'])
  })

  it('that cannot be are refused as a whole, in words, though somebody knows of it', () => {
    const s = stage()
    s.seat('Tempeh', 'Ada')
    const before = s.position()
    const refused = refusal(() => seat([change('Bo', null, 'Miso'), change('Ada', null, 'Miso')], true))
    expect(refused).toMatchObject({ code: 'seating-not-possible', concerns: [{ name: 'Ada' }] })
    expect(refused.detail).toMatch(/ Nothing was changed\.$/)
    expect([s.seated('Miso'), s.position()]).toEqual([[], before])
    s.stores.sheets.archive(s.sheet().id, s.now())
    expect(refusal(() => seat([change('Bo', null, 'Miso')])).code).toBe('sheet-archived')
  })

  it('use up what was held for whom they seat', () => {
    const s = stage()
    s.hold('Tempeh', 'Ada')
    s.hold('Tempeh', null)
    seat([change('Ada', null, 'Tempeh')])
    expect(s.stores.sheets.heldIn(s.group('Tempeh').id).map(({ enrolment_id }) => enrolment_id)).toEqual([
      null,
    ])
  })
})

describe('what seats are checked against', () => {
  it('is the sheet as it stands, by codes: students it is for, groups, seats, what is held and handed in', () => {
    const s = stage()
    s.addSections('Tue', 'Wed')
    s.putIn('Ada', 'Tue')
    s.putIn('Bo', 'Wed')
    for (const name of ['Dai', 'Tutor']) s.status(name, 'paused')
    s.addTopic('Koji', { starts_at: '2026-05-20T08:00:00.000Z', ends_at: '2026-05-20T09:00:00.000Z' }, [
      'Tue',
    ])
    s.except(s.group('Miso'), { offered: 0, own_seats: 7 })
    s.seat('Tempeh', 'Cleo')
    s.hold('Tempeh', 'Ada')
    s.hold('Tempeh', null)
    s.rule({ for_whom: 'sections', seats_each: 2, offers: 'course' })
    s.stores.sheets.setSectionsFor(s.sheet().id, [s.section('Tue').id])
    const facts = seatingFacts(s.sheet(), s.now(), s.stores)
    const key = (name: string) => s.person(name).code
    const [tue] = [s.section('Tue').code]
    expect(facts.people).toEqual([
      { key: key('Ada'), section: tue, active: true },
      { key: key('Cleo'), section: null, active: true },
      { key: key('Dai'), section: null, active: false },
    ])
    expect(facts.rules).toEqual({ seatsEach: 2, offers: 'course' })
    expect(facts.seats).toEqual([{ person: key('Cleo'), group: s.group('Tempeh').code }])
    expect(facts.keepings).toEqual([])
    const none = { startsAt: null, endsAt: null, bound: false }
    expect(facts.groups).toEqual([
      {
        key: s.group('Tempeh').code,
        section: null,
        offered: true,
        seats: 2,
        heldFor: [key('Ada'), null],
        ...none,
      },
      { key: s.group('Miso').code, section: null, offered: false, seats: 7, heldFor: [], ...none },
      {
        key: s.group('Koji').code,
        section: tue,
        offered: true,
        seats: 2,
        heldFor: [],
        bound: false,
        startsAt: '2026-05-20T08:00:00.000Z',
        endsAt: '2026-05-20T09:00:00.000Z',
      },
    ])
  })
})

/** Says in the ledger that somebody was taken out of Tempeh, as its topic was removed. */
const noteTakenOut = (name: string) => {
  const { stores, sheet, now, person, group } = stage()
  stores.ledger.note({
    sheetId: sheet().id,
    at: now(),
    actorId: 1,
    kind: 'seat-removed',
    enrolmentId: person(name).id,
    fromGroupId: group('Tempeh').id,
    detail: { because: 'topic-removed' },
  })
}

describe('people whose group was gone and is back', () => {
  it('sit there again as far as nothing speaks against it; the others are told with why', () => {
    const s = stage()
    s.seat('Tempeh', 'Ada', 'Bo')
    const taken = s.group('Tempeh')
    for (const name of ['Ada', 'Bo']) {
      s.stores.seats.giveUp(taken.id, s.person(name).id)
      noteTakenOut(name)
    }
    s.seat('Miso', 'Bo')
    const before = s.position()
    const following = { sheet: s.sheet(), actorId: 1, now: s.now(), stores: s.stores }
    expect(bringBack(following, [taken], 'other')).toEqual({ seated: 0, out: [] })
    const back = bringBack(following, [taken], 'topic-removed')
    expect(back).toEqual({ seated: 1, out: [{ name: 'Bo', why: expect.stringContaining('Bo') }] })
    expect(s.seated('Tempeh')).toEqual(['Ada'])
    expect(s.entries(before)).toEqual(['seat-taken Ada Tempeh because=brought-back'])
  })

  it('come back in the order they were taken out, until the group is full; a seat held for one counts as theirs', () => {
    const s = stage()
    const out = ['Ada', 'Bo', 'Cleo']
    for (const name of out) noteTakenOut(name)
    s.hold('Tempeh', 'Bo')
    const following = { sheet: s.sheet(), actorId: 1, now: s.now(), stores: s.stores }
    expect(bringBack(following, [s.group('Tempeh')], 'topic-removed')).toMatchObject({
      seated: 2,
      out: [{ name: 'Cleo' }],
    })
    expect(s.seated('Tempeh')).toEqual(['Ada', 'Bo'])
  })
})

describe('who may seat people', () => {
  it('is an instructor everywhere, a tutor in groups of theirs where the course lets them, else nobody', () => {
    const { person, course } = stage()
    const seats = { ...course, tutors_may: 'seat' as const }
    expect(maySeat({ ...person('Tutor'), role: 'instructor' }, course)).toBe('all')
    expect(maySeat(person('Tutor'), seats)).toBe('own')
    expect(maySeat(person('Tutor'), { ...course, tutors_may: 'see' })).toBe('none')
    expect(maySeat(person('Ada'), seats)).toBe('none')
  })
})
