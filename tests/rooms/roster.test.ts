import { describe, expect, it } from 'vitest'
import { HOUR } from '../../src/core/instant.ts'
import { freeSeatsOf, giveSeatsBack, leaveLinesOf, takeUpPlaces } from '../../src/server/seats/free.ts'
import { stageEach } from './stage.ts'

const stage = stageEach((s) => {
  s.rule({ full_groups: 'line' })
  s.enrol(['Ada', 'Bo', 'Cleo', 'Dai'])
  for (const title of ['Tempeh', 'Miso']) s.addTopic(title)
})
const ACTOR = 1
const ids = (...names: string[]) => names.map((name) => stage().person(name).id)
const free = (names: string[], since?: string) => {
  const { course, now, stores } = stage()
  return freeSeatsOf(course.id, ids(...names), ACTOR, now(), stores, since)
}
const giveBack = (freed: ReturnType<typeof free>) => {
  const { now, stores } = stage()
  return giveSeatsBack(freed, ACTOR, now(), stores)
}
const leaveLines = (...names: string[]) => {
  const { course, now, stores } = stage()
  return leaveLinesOf(course.id, ids(...names), ACTOR, now(), stores)
}
const takeUp = (left: ReturnType<typeof leaveLines>) => {
  const { now, stores } = stage()
  takeUpPlaces(left, ACTOR, now(), stores)
}
const archive = () => {
  const { stores, sheet, now } = stage()
  stores.sheets.archive(sheet().id, now())
}

describe('seats of people whom the roster takes out', () => {
  it('are freed on every sheet, and the ledger says why', () => {
    const { seat, seated, entries, position } = stage()
    seat('Tempeh', 'Ada', 'Bo')
    const before = position()
    expect(free(['Ada', 'Cleo'])).toMatchObject([{ enrolment_id: ids('Ada')[0] }])
    expect(seated('Tempeh')).toEqual(['Bo'])
    expect(entries(before)).toEqual(['seat-removed Ada Tempeh because=roster'])
  })

  it('let an extra seat of the group become an ordinary one', () => {
    const { seat, seated, stores, group, person, now } = stage()
    seat('Tempeh', 'Ada', 'Bo')
    stores.seats.seat(group('Tempeh').sheet_id, group('Tempeh').id, person('Cleo').id, true, now())
    expect(seated('Tempeh')).toEqual(['Ada', 'Bo', 'Cleo+'])
    free(['Ada'])
    expect(seated('Tempeh')).toEqual(['Bo', 'Cleo'])
  })

  it('stay where they were taken before an instant, and on a sheet that is archived', () => {
    const { seat, seated, advance, now } = stage()
    seat('Tempeh', 'Ada')
    advance(HOUR)
    const since = now()
    seat('Miso', 'Bo')
    expect(free(['Ada', 'Bo'], since)).toMatchObject([{ enrolment_id: ids('Bo')[0] }])
    expect([seated('Tempeh'), seated('Miso')]).toEqual([['Ada'], []])
    archive()
    expect(free(['Ada'])).toEqual([])
    expect(seated('Tempeh')).toEqual(['Ada'])
  })

  it('come back where they are still to be had, and are counted where they are not', () => {
    const { seat, seated, entries, position, rule, hold, except, group } = stage()
    seat('Tempeh', 'Ada', 'Bo')
    const freed = free(['Ada', 'Bo'])
    seat('Tempeh', 'Cleo')
    const before = position()
    expect(giveBack(freed)).toBe(1)
    expect(seated('Tempeh')).toEqual(['Cleo', 'Ada'])
    expect(entries(before)).toEqual(['seat-taken Ada Tempeh because=roster-undone'])
    // Somebody who sits there again, or elsewhere by now, has as many as the rules give.
    expect(giveBack(freed.slice(0, 1))).toBe(1)
    rule({ seats: 5 })
    seat('Miso', 'Bo')
    expect(giveBack(freed.slice(1))).toBe(1)
    free(['Bo'])
    except(group('Tempeh'), { offered: 0 })
    expect(giveBack(freed.slice(1))).toBe(1)
    except(group('Tempeh'), { offered: 1 })
    for (const name of [null, null, 'Dai']) hold('Tempeh', name)
    expect(giveBack(freed.slice(1))).toBe(1)
    hold('Tempeh', 'Bo')
    rule({ seats: 6 })
    expect(giveBack(freed.slice(1))).toBe(0)
    expect(seated('Tempeh')).toEqual(['Cleo', 'Ada', 'Bo'])
    expect(stage().stores.sheets.heldIn(group('Tempeh').id)).toHaveLength(3)
  })
})

describe('places in lines of people whom the roster takes out', () => {
  const wait = async () => {
    stage().seat('Tempeh', 'Cleo', 'Dai')
    for (const name of ['Ada', 'Bo']) expect(await stage().claim(name, 'wait', 'Tempeh')).toBe('yes')
  }

  it('are left, and taken up again before those who joined later', async () => {
    await wait()
    const { line, entries, position } = stage()
    const before = position()
    const left = leaveLines('Ada', 'Cleo')
    expect(line('Tempeh')).toEqual(['Bo'])
    takeUp(left)
    expect(line('Tempeh')).toEqual(['Ada', 'Bo'])
    expect(entries(before)).toEqual([
      'line-left Ada Tempeh because=roster',
      'line-joined Ada Tempeh because=roster-undone',
    ])
  })

  it('are at the end where the old number was given to somebody meanwhile', async () => {
    await wait()
    const left = leaveLines('Bo')
    const { claim, line, enrol } = stage()
    enrol(['Eve'])
    expect(await claim('Eve', 'wait', 'Tempeh')).toBe('yes')
    takeUp(left)
    expect(line('Tempeh')).toEqual(['Ada', 'Eve', 'Bo'])
  })

  it('are not taken up by who waits or sits there already, without lines, or where the group is gone', async () => {
    await wait()
    const { line, rule, seat, stores, group, now, position } = stage()
    const left = leaveLines('Ada', 'Bo')
    takeUp(left.slice(0, 1))
    const before = position()
    takeUp(left.slice(0, 1))
    rule({ full_groups: 'full' })
    takeUp(left)
    rule({ full_groups: 'line', seats: 3 })
    seat('Tempeh', 'Bo')
    takeUp(left.slice(1))
    expect([line('Tempeh'), position()]).toEqual([['Ada'], before])
    stores.seats.giveUp(group('Tempeh').id, ids('Bo')[0]!)
    stores.sheets.removeTopic(group('Tempeh').topic_id, now())
    takeUp(left.slice(1))
    expect(position()).toBe(before)
  })

  it('stay as they are on a sheet that is archived, or keeps no lines', async () => {
    await wait()
    const { line, rule, stores, sheet } = stage()
    archive()
    expect(leaveLines('Ada')).toEqual([])
    stores.sheets.archive(sheet().id, null)
    rule({ full_groups: 'full' })
    expect(leaveLines('Ada')).toEqual([])
    expect(line('Tempeh')).toEqual(['Ada', 'Bo'])
  })
})
