import { describe, expect, it } from 'vitest'
import { DAY, HOUR, MINUTE, shift } from '../../src/core/instant.ts'
import { lateOn, tellOfLate } from '../../src/server/plans/late.ts'
import { rulesOn } from './rules.ts'
import { CLOSES, OPENS, stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.enrol(['Ina'], { role: 'instructor' })
  s.enrol(['Ada', 'Bo', 'Cleo', 'Dai'])
  for (const title of ['Tempeh', 'Miso']) s.addTopic(title)
  s.rule({ at_close: 'seat' })
})

const { closing, everybody, mailsTo, troubles } = rulesOn(stage)

describe('the rule for late enrolments', () => {
  const late = () =>
    lateOn(stage().sheet(), stage().stores).map((code) => {
      const { stores, course } = stage()
      return stores.roster.everybody(course.id).find((one) => one.code === code)?.name
    })

  it('is for active students without a seat who came or came back after the close', () => {
    const s = stage()
    expect(late()).toEqual([])
    s.set(shift(CLOSES, HOUR))
    s.status('Bo', 'paused')
    s.enrol(['Eve', 'Fritz'])
    s.rule({ seats: 5 })
    s.seat('Tempeh', 'Fritz')
    expect(late()).toEqual(['Eve'])
    s.status('Bo', 'active')
    expect(late()).toEqual(['Bo', 'Eve'])
    s.rule({ closes_at: null })
    expect(late()).toEqual([])
  })

  it('is for who came after the opening where it says so, but not for who gave up a seat while it is open', async () => {
    const s = stage()
    s.rule({ late_from: 'opening' })
    expect(late()).toEqual(['Ada', 'Bo', 'Cleo', 'Dai'])
    expect(await s.claim('Ada', 'take', 'Tempeh')).toBe('yes')
    expect(late()).toEqual(['Bo', 'Cleo', 'Dai'])
    expect(await s.claim('Ada', 'give-up', 'Tempeh')).toBe('yes')
    expect(late()).toEqual(['Bo', 'Cleo', 'Dai'])
    s.rule({ opens_at: null })
    expect(late()).toEqual([])
    s.rule({ opens_at: OPENS, closes_at: shift(OPENS, HOUR) })
    expect(late()).toContain('Ada')
  })

  it('seats them in what is free, and tells the instructors of them once a day', async () => {
    const s = stage()
    s.rule({ at_close: 'leave', late: 'seat', seats: 3 })
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo', 'Dai')
    s.set(shift(CLOSES, HOUR))
    s.enrol(['Eve'])
    const { run } = closing()
    await run()
    expect(everybody()).toContain('Eve')
    expect(mailsTo('Eve')).toHaveLength(1)
    const tell = () => tellOfLate(s.unit, s.stores, s.mailer, s.now())
    tell()
    const topic = s.seated('Tempeh').includes('Eve') ? 'Tempeh' : 'Miso'
    expect(mailsTo('Ina').map(({ subject, body }) => [subject, body.includes(`Eve: ${topic}`)])).toEqual([
      ['FERM 1: somebody new was seated on Benches', true],
    ])
    s.enrol(['Fritz'])
    await run()
    s.advance(DAY - HOUR)
    tell()
    expect(mailsTo('Ina')).toHaveLength(1)
    s.advance(HOUR)
    tell()
    tell()
    expect(mailsTo('Ina')).toHaveLength(2)
    // Nobody was seated since, and something else was written: nothing is told, today or later.
    s.advance(2 * DAY)
    s.stores.ledger.note({ sheetId: s.sheet().id, at: s.now(), actorId: null, kind: 'sheet-changed' })
    tell()
    expect(mailsTo('Ina')).toHaveLength(2)
    expect(mailsTo('Ina')[0]!.body).toContain('Fritz: ')
    expect(mailsTo('Ina')[0]!.body).not.toContain('Eve: ')
  })

  it('leaves who has no room, says why, and looks again once something changed', async () => {
    const s = stage()
    s.rule({ at_close: 'leave', late: 'seat' })
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo', 'Dai')
    s.set(shift(CLOSES, HOUR))
    s.enrol(['Eve'])
    const { run, inputs } = closing()
    await run()
    await run()
    expect(inputs).toHaveLength(1)
    expect(troubles()).toMatchObject([{ rule: 'late', why: 'Eve: no seat is left.' }])
    s.rule({ seats: 3 })
    s.stores.ledger.note({ sheetId: s.sheet().id, at: s.now(), actorId: null, kind: 'sheet-changed' })
    await run()
    expect([inputs.length, troubles(), everybody().includes('Eve')]).toEqual([2, [], true])
  })

  it('seats nobody who was left at the close itself, and says of at most five why they are left', async () => {
    const s = stage()
    s.rule({ at_close: 'leave', late: 'seat', seats: 3 })
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo')
    s.set(shift(CLOSES, HOUR))
    s.enrol(['Eve'])
    await closing().run()
    expect(everybody()).toEqual(['Ada', 'Bo', 'Cleo', 'Eve'])
    const many = ['Fay', 'Gus', 'Hal', 'Ike', 'Jo', 'Kim', 'Lou', 'Mia', 'Noa']
    s.enrol(many)
    await closing().run()
    expect(everybody()).not.toContain('Dai')
    const [{ why = '' } = {}] = troubles()
    expect(why).toMatch(/^(\w+: no seat is left\. ){5}And 2 more\.$/)
  })

  it('tells nobody of it once that is not the rule any more', async () => {
    const s = stage()
    s.rule({ late: 'seat', seats: 3 })
    s.set(CLOSES)
    await closing().run()
    s.advance(HOUR)
    s.enrol(['Eve'])
    await closing().run()
    expect(everybody()).toContain('Eve')
    s.rule({ late: 'leave' })
    tellOfLate(s.unit, s.stores, s.mailer, s.now())
    expect(mailsTo('Ina').filter(({ subject }) => subject.includes('new was seated'))).toEqual([])
  })

  it('gives one more seat in the smallest group that is for them, where the rule says so', async () => {
    const s = stage()
    s.rule({ at_close: 'leave', late: 'seat', late_full: 'extra' })
    s.addSections('Tue')
    s.addTopic('Koji', { seats: 1 }, ['Tue'])
    s.enrol(['Gus'])
    s.seat('Koji', 'Gus')
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo', 'Dai')
    s.set(shift(CLOSES, HOUR))
    s.enrol(['Eve', 'Fritz', 'Hal'])
    s.enrol(['Tia'], { section_id: s.section('Tue').id })
    s.enrol(['Tor'], { section_id: s.section('Tue').id })
    await closing().run()
    const sizes = ['Tempeh', 'Miso', 'Koji'].map((title) => s.seated(title).length)
    expect([sizes.slice(0, 2).toSorted(), sizes[2]]).toEqual([[3, 4], 3])
    expect(everybody().filter((name) => name.endsWith('+'))).toHaveLength(3)
    expect(s.seated('Koji')).toEqual([
      'Gus',
      expect.stringMatching(/^T.*\+$/),
      expect.stringMatching(/^T.*\+$/),
    ])
    expect(troubles()).toEqual([])
  })

  it('begins further groups where the rule says so, each filled before the next', async () => {
    const s = stage()
    s.rule({ at_close: 'leave', late: 'seat', late_full: 'group' })
    // Three topics: the next would be the fourth, which is there in capitals.
    s.addTopic('GROUP 4', { seats: 0 })
    s.except(s.group('GROUP 4'), { offered: 0 })
    s.seat('Tempeh', 'Ada', 'Bo')
    s.seat('Miso', 'Cleo', 'Dai')
    s.set(shift(CLOSES, HOUR))
    s.enrol(['Eve', 'Fritz', 'Gus'])
    await closing().run()
    expect([s.seated('Group 5').length, s.seated('Group 6').length]).toEqual([2, 1])
    expect([...s.seated('Group 5'), ...s.seated('Group 6')].toSorted()).toEqual(['Eve', 'Fritz', 'Gus'])
  })

  it('seats them while the sheet is open only where it counts from the opening, and never where they wait', async () => {
    const s = stage()
    s.rule({ late: 'seat', late_from: 'close' })
    const { run, inputs } = closing()
    await run()
    s.rule({ late: 'leave', late_from: 'opening' })
    await run()
    expect([inputs, everybody()]).toEqual([[], []])
    s.rule({ late: 'seat' })
    await run()
    expect(everybody()).toEqual(['Ada', 'Bo', 'Cleo', 'Dai'])
    // The sheet is open: nothing was closed, and nobody is late any more.
    expect(s.stores.plans.closed(s.sheet().id, CLOSES)).toBe(false)
    await run()
    expect(inputs).toHaveLength(1)
  })

  it('keeps what it did as a plan of its own each time, under a code that tells when', async () => {
    const s = stage()
    s.rule({ at_close: 'leave', late: 'seat', seats: 3 })
    s.set(shift(CLOSES, HOUR))
    const { run } = closing()
    for (const name of ['Eve', 'Fritz']) {
      s.enrol([name])
      s.advance(MINUTE)
      await run()
    }
    const plans = s.stores.plans.ofSheet(s.sheet().id)
    expect(plans.map(({ title }) => title)).toEqual(['Late enrolments', 'Late enrolments'])
    expect(plans.map(({ code }) => code).toSorted()).toEqual([
      expect.stringMatching(new RegExp(`^late-${s.sheet().code}-20260513090100000-\\d+$`)),
      expect.stringMatching(new RegExp(`^late-${s.sheet().code}-20260513090200000-\\d+$`)),
    ])
    expect(s.entries().filter((entry) => entry.includes('Fritz'))[0]).toContain(`plan=late-${s.sheet().code}`)
  })
})
