import { describe, expect, it } from 'vitest'
import type { PlanContent } from '../../src/contract/plans.ts'
import { applyPlan, changesOf } from '../../src/server/plans/apply.ts'
import { basisOf } from '../../src/server/plans/basis.ts'
import { withRoomFor } from '../../src/server/plans/lateRoom.ts'
import { seatWhoFit } from '../../src/server/seats/bringBack.ts'
import { plannedOn } from './planned.ts'
import { stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.enrol(['Ina'], { role: 'instructor' })
  s.enrol(['Ada', 'Bo', 'Cleo', 'Dai'])
  for (const title of ['Tempeh', 'Miso']) s.addTopic(title)
})
const planned = (otherwise?: Parameters<typeof plannedOn>[1]) => plannedOn(stage(), otherwise)
const apply = (content: PlanContent, code = 'plan-1') => {
  const { unit, sheet, course, stores, now, person } = stage()
  return unit.onSheet(sheet(), now(), (current) =>
    applyPlan({
      sheet: current,
      course,
      person: stores.roster.personById(person('Ina').person_id)!,
      code,
      title: 'By hand',
      content,
      now: now(),
      stores,
    }),
  )
}
const move = (
  name: string,
  from: string | null,
  to: string,
  reason: PlanContent['moves'][number]['reason'],
) => ({
  person: stage().person(name).code,
  from: from === null ? null : stage().group(from).code,
  to: stage().group(to).code,
  reason,
})
const EVEN = { code: 'even' } as const
const BY_HAND = { code: 'by-hand' } as const
const refusal = (work: () => unknown): string => {
  try {
    work()
    return 'done'
  } catch (error) {
    return (error as { code: string }).code
  }
}

describe('a plan that is applied', () => {
  it('is written as a whole, with why beside each seat, and once', () => {
    const s = stage()
    s.seat('Tempeh', 'Ada')
    const before = s.position()
    const content = planned()
    apply(content)
    expect([...s.seated('Tempeh'), ...s.seated('Miso')].toSorted()).toEqual(['Ada', 'Bo', 'Cleo', 'Dai'])
    expect(s.entries(before)).toHaveLength(3)
    for (const entry of s.entries(before)) expect(entry).toMatch(/^seat-taken \w+ \w+ plan=plan-1 reason=/)
    const reasons = new Map(content.moves.map(({ person, reason }) => [person, reason]))
    for (const { enrolment_id, detail } of s.stores.ledger.since(s.sheet().id, before)) {
      const { code } = s.stores.roster.enrolment(enrolment_id ?? 0)!
      expect(JSON.parse(detail)).toEqual({ plan: 'plan-1', reason: reasons.get(code) })
    }
    expect(s.stores.plans.byCode(s.sheet().id, 'plan-1')).toMatchObject({
      title: 'By hand',
      applied_at: s.now(),
      position: s.position(),
    })
    expect(refusal(() => apply(content))).toBe('plan-applied-already')
  })

  it('is applied as it was kept before, under the same code', () => {
    const s = stage()
    const content = planned()
    const kept = s.stores.plans.add(
      s.sheet().id,
      { code: 'plan-1', title: 'Kept', content: JSON.stringify(content), position: s.position() },
      s.now(),
      null,
    )
    apply(content)
    expect(s.stores.plans.byCode(s.sheet().id, 'plan-1')).toMatchObject({
      id: kept,
      title: 'Kept',
      applied_at: s.now(),
    })
  })

  it('fits no sheet that has changed since: nothing of it happens then', () => {
    const s = stage()
    const content = planned()
    s.seat('Tempeh', 'Ada')
    const before = s.position()
    expect(refusal(() => apply(content))).toBe('plan-does-not-fit')
    expect([s.seated('Tempeh'), s.seated('Miso'), s.position()]).toEqual([['Ada'], [], before])
    expect(s.stores.plans.byCode(s.sheet().id, 'plan-1')).toBeUndefined()
  })

  it('passes over a concern where it was set by hand or is one more seat by rule, and nowhere else', () => {
    const s = stage()
    s.seat('Tempeh', 'Ada', 'Bo')
    const past = (reason: PlanContent['moves'][number]['reason']) =>
      planned(() => ({ moves: [move('Cleo', null, 'Tempeh', reason)], left: [] }))
    expect(refusal(() => apply(past(EVEN)))).toBe('plan-does-not-fit')
    apply(past(BY_HAND))
    expect(s.seated('Tempeh')).toEqual(['Ada', 'Bo', 'Cleo+'])
    const more = planned(() => ({ moves: [move('Dai', null, 'Tempeh', { code: 'extra' })], left: [] }))
    apply(more, 'plan-2')
    expect(s.seated('Tempeh')).toEqual(['Ada', 'Bo', 'Cleo+', 'Dai+'])
  })

  it('passes over a rule for people that it reported itself, and over no other', () => {
    const s = stage()
    s.seat('Tempeh', 'Ada')
    const members = ['Ada', 'Bo'].map((name) => s.person(name).id)
    s.stores.plans.addKeeping(s.course.id, { kind: 'apart', note: '', expiresAt: null, members }, s.now())
    const together = (conflicts: PlanContent['conflicts']) =>
      planned(() => ({ moves: [move('Bo', null, 'Tempeh', EVEN)], left: [], conflicts }))
    const [key] = s.stores.plans.keepings(s.course.id).map(({ code }) => code)
    const about = (...names: string[]) => [
      {
        keeping: key!,

        people: names.map((name) => s.person(name).code),
        code: 'seated-together' as const,
      },
    ]
    expect(refusal(() => apply(together([])))).toBe('plan-does-not-fit')
    expect(refusal(() => apply(together(about('Cleo', 'Dai'))))).toBe('plan-does-not-fit')
    // Of a rule for more than two, those are named for whom it does not hold.
    apply(together(about('Ada')))
    expect(s.seated('Tempeh')).toEqual(['Ada', 'Bo'])
  })

  it('takes seats away of those whom it leaves, and of nobody who had none', () => {
    const s = stage()
    s.seat('Tempeh', 'Ada')
    const content = planned(() => ({
      moves: [move('Ada', 'Tempeh', 'Miso', EVEN)],
      left: [
        { person: s.person('Bo').code, from: s.group('Tempeh').code, reason: { code: 'no-room' } },
        { person: s.person('Cleo').code, from: null, reason: { code: 'no-room' } },
      ],
    }))
    expect(changesOf(content)).toEqual([
      { person: s.person('Ada').code, from: s.group('Tempeh').code, to: s.group('Miso').code },
      { person: s.person('Bo').code, from: s.group('Tempeh').code, to: null },
    ])
  })
})

describe('what a plan is made from', () => {
  it('is the sheet as it stands: people by name, groups in the order of their topics, floors', () => {
    const s = stage()
    s.stores.sheets.orderTopics([s.group('Miso').topic_id, s.group('Tempeh').topic_id])
    s.except(s.group('Miso'), { own_floor: 2 })
    s.status('Dai', 'paused')
    const basis = basisOf(s.sheet(), s.now(), s.stores)
    expect(basis.people.map(({ name }) => name)).toEqual(['Ada', 'Bo', 'Cleo'])
    expect(basis.groups.map(({ key, floor }) => [key, floor])).toEqual([
      [s.group('Miso').code, 2],
      [s.group('Tempeh').code, 1],
    ])
    expect(basis.wished).toBeUndefined()
    s.rule({ road: 'wished' })
    expect(basisOf(s.sheet(), s.now(), s.stores).wished).toBeDefined()
  })
})

describe('room for those who come late', () => {
  const withRoom = (content: PlanContent) => {
    const { sheet, course, now, stores } = stage()
    return withRoomFor(content, { sheet: sheet(), course, now: now(), stores })
  }
  const left = (
    name: string,
    from: string | null,
    code: 'no-room' | 'no-section',
  ): PlanContent['left'][number] => ({
    person: stage().person(name).code,
    from: from === null ? null : stage().group(from).code,
    reason: { code },
  })
  const figures = (content: PlanContent) => [content.moves.length, content.left.length, content.after.left]

  it('is one more seat for each who has none and for whom none was free, in groups that can take them', () => {
    const s = stage()
    s.rule({ late_full: 'extra' })
    s.addTopic('Koji')
    s.except(s.group('Koji'), { offered: 0 })
    s.seat('Tempeh', 'Ada')
    const content = planned((made) => ({
      moves: [],
      left: [left('Bo', null, 'no-room'), left('Cleo', null, 'no-section'), left('Ada', 'Tempeh', 'no-room')],
      after: { ...made.after, left: 3 },
    }))
    const made = withRoom(content)
    expect(made.moves).toEqual([move('Bo', null, 'Miso', { code: 'extra' })])
    expect(made.left).toEqual([left('Cleo', null, 'no-section'), left('Ada', 'Tempeh', 'no-room')])
    expect(made.after.left).toBe(2)
  })

  it('is counted with what the plan gives besides, and is nowhere where there is no group for them', () => {
    const s = stage()
    s.rule({ late_full: 'extra' })
    const content = planned((made) => ({
      moves: [move('Ada', null, 'Tempeh', EVEN)],
      left: [left('Bo', null, 'no-room'), left('Cleo', null, 'no-room')],
      after: { ...made.after, left: 2 },
    }))
    const to = withRoom(content).moves.map((one) => one.to)
    expect(to).toEqual([s.group('Tempeh').code, s.group('Miso').code, s.group('Tempeh').code])
    for (const title of ['Tempeh', 'Miso']) s.except(s.group(title), { offered: 0 })
    expect(withRoom(content)).toBe(content)
  })

  it('is a further group of their section, or of all where groups are mixed, filled before the next', () => {
    const s = stage()
    s.rule({ late_full: 'group', mixed: 0 })
    s.addSections('Tue', 'Wed')
    for (const name of ['Ada', 'Bo', 'Cleo']) s.putIn(name, 'Tue')
    s.putIn('Dai', 'Wed')
    const content = planned((made) => ({
      moves: [],
      left: [
        ...['Ada', 'Bo', 'Cleo', 'Dai'].map((name) => left(name, null, 'no-room')),
        left('Ina', null, 'no-section'),
      ],
      after: { ...made.after, left: 5 },
    }))
    const made = withRoom(content)
    expect(figures(made)).toEqual([4, 1, 1])
    expect(made.settings.made).toMatchObject({
      titles: ['Group 3', 'Group 4', 'Group 5'],
      mixed: false,
      seats: 2,
    })
    const titleOf = (code: string) => s.stores.sheets.topicById(s.stores.sheets.group(code)!.topic_id)!.title
    const sectionOf = (code: string) => s.stores.sheets.group(code)!.section_id
    expect(made.moves.map(({ to }) => titleOf(to))).toEqual(['Group 3', 'Group 3', 'Group 4', 'Group 5'])
    expect(made.moves.map(({ to }) => sectionOf(to))).toEqual(
      ['Tue', 'Tue', 'Tue', 'Wed'].map((name) => s.section(name).id),
    )
    s.rule({ mixed: 1 })
    const mixed = withRoom(content)
    expect(mixed.moves.map(({ to }) => [titleOf(to), sectionOf(to)])).toEqual([
      ['Group 6', null],
      ['Group 6', null],
      ['Group 7', null],
      ['Group 7', null],
    ])
    expect(mixed.settings.made?.mixed).toBe(true)
  })

  it('is none where the rule lets them wait', () => {
    const content = planned(() => ({ moves: [], left: [left('Bo', null, 'no-room')] }))
    expect(withRoom(content)).toBe(content)
  })
})

describe('changes that are carried out as far as nothing speaks against them', () => {
  it('count one after the other: a seat that one leaves is free for the next, and what was held is used up', () => {
    const s = stage()
    s.seat('Tempeh', 'Ada', 'Bo')
    s.hold('Miso', 'Dai')
    const change = (name: string, from: string | null, to: string | null) => ({
      person: s.person(name).code,
      from: from === null ? null : s.group(from).code,
      to: to === null ? null : s.group(to).code,
    })
    const changes = [
      change('Cleo', null, 'Tempeh'),
      change('Ada', 'Tempeh', 'Miso'),
      change('Cleo', null, 'Tempeh'),
      change('Dai', null, 'Miso'),
      change('Bo', 'Tempeh', null),
      change('Bo', null, 'Miso'),
    ]
    const following = { sheet: s.sheet(), actorId: 1, now: s.now(), stores: s.stores }
    const { made, against } = seatWhoFit(following, changes, 'moved')
    expect(against.map(({ change, remarks }) => [change, remarks.map(({ code }) => code)])).toEqual([
      [changes[0], ['past-limit']],
      [changes[5], ['past-limit']],
    ])
    expect(made).toEqual([changes[1], changes[2], changes[3], changes[4]])
    expect([s.seated('Tempeh'), s.seated('Miso').toSorted()]).toEqual([['Cleo'], ['Ada', 'Dai']])
  })
})
